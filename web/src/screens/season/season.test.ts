import { describe, expect, it } from "vitest";
import type { Schemas } from "@/api/client";
import * as D from "./days";

const practice = (date: string, more?: Partial<Schemas["PracticeInput"]>): D.Entry => ({
  is: "practice",
  of: { date, title: "Practice", theme: "", place: "", start_minute: 1080, minutes: 90, ...more },
});
const game = (date: string): D.Entry => ({ is: "game", of: { date, opponent: "Thornwick", home: true } });
const season = { start: "2026-08-31", weeks: 9 } as Schemas["Season"];
const calendar = (): D.Calendar =>
  new Map([
    ["a", practice("2026-10-13")],
    ["b", practice("2026-10-15", { cancelled: "thunder" })],
    ["c", practice("2026-10-14", { theme: "Zone day" })],
    ["d", practice("2026-10-21")],
    ["g", game("2026-10-13")],
  ]);

describe("the days of a season", () => {
  it("counts them across a change of the clock", () => {
    const days = D.daysOf(season);
    expect([days.length, days[0], days.at(-1)]).toEqual([63, "2026-08-31", "2026-11-01"]);
    expect(new Set(days).size).toBe(63);
    expect(["2026-08-31", "2026-09-06", "2026-09-07", "2026-10-26"].map((d) => D.weekOf(season, d))).toEqual([
      1, 1, 2, 9,
    ]);
  });
  it("lists what is on a day by its time, games last", () => {
    const c = new Map([...calendar(), ["e", practice("2026-10-13", { start_minute: 600 })] as const]);
    expect(D.on(c, "2026-10-13").map(([id]) => id)).toEqual(["e", "a", "g"]);
    expect(D.on(c, "2026-10-12")).toEqual([]);
  });
});

describe("the calendar is changed", () => {
  it("moves, calls off and on again, and leaves what it was given", () => {
    const before = calendar();
    expect(D.changed(before, "a", { date: "2026-10-16" }).get("a")?.of.date).toBe("2026-10-16");
    expect(D.changed(before, "b", { cancelled: undefined }).get("b")).toEqual(practice("2026-10-15"));
    expect(D.changed(before, "nobody", { date: "x" })).toBe(before);
    expect(D.without(before, "a").has("a")).toBe(false);
    expect(before).toEqual(calendar());
  });
  it("copies one with its script, and a week onto days that have none", () => {
    const copy = D.copied(calendar(), "b", "2026-10-22", "n").get("n");
    expect(copy).toEqual(practice("2026-10-22", { script_of: "b" }));
    let n = 0;
    const week = D.weekCopied(calendar(), D.daysOf(season).slice(42, 49), () => `n${n++}`);
    // The one called off is left out, and the 21st has a practice.
    expect([...week.keys()].filter((k) => k.startsWith("n"))).toEqual(["n0"]);
    expect(week.get("n0")).toEqual(practice("2026-10-20", { script_of: "a" }));
  });
  it("knows what is the same", () => {
    expect(D.alike(practice("2026-10-13"), practice("2026-10-13", { script_of: "a" }))).toBe(true);
    expect(D.alike(practice("2026-10-13"), game("2026-10-13"))).toBe(false);
    expect(D.alike(undefined, undefined)).toBe(true);
  });
});

describe("practice days", () => {
  it("are the weekdays of the season that are still to come", () => {
    const season = { start: "2026-10-12", weeks: 2, today: "2026-10-14" };
    expect(D.practiceDays(season, new Set([1, 3]))).toEqual(["2026-10-15", "2026-10-20", "2026-10-22"]);
    expect(D.practiceDays({ ...season, today: "2026-01-01" }, new Set([6]))).toEqual([
      "2026-10-18",
      "2026-10-25",
    ]);
    expect(D.practiceDays(season, new Set())).toEqual([]);
  });
});

describe("templates", () => {
  const of = (date: string): Schemas["PracticeInput"] => ({
    date,
    title: "Evening",
    theme: "Gap day",
    place: "East",
    start_minute: 1080,
    minutes: 90,
  });
  const kept = D.templateOf(
    [
      { of: of("2026-09-01"), periods: [] },
      { of: of("2026-09-03"), periods: [] },
    ],
    "2026-08-31",
  );
  it("a week is kept by its weekdays and laid in another", () => {
    expect(kept.map((d) => d.day)).toEqual([1, 3]);
    const template = { id: "t", version: 1, template: { name: "W", whole_week: true, days: kept } };
    let n = 0;
    const laid = D.weekLaid(new Map(), template, "2026-09-07", () => `new${n++}`);
    expect([...laid.values()].map((e) => [e.of.date, "template" in e.of && e.of.template])).toEqual([
      ["2026-09-08", { id: "t", practice: 0 }],
      ["2026-09-10", { id: "t", practice: 1 }],
    ]);
    expect(D.weekLaid(laid, template, "2026-09-07", () => "again").size).toBe(2);
  });
});
