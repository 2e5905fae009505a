import { describe, expect, it } from "vitest";
import type { Schemas } from "@/api/client";
import { cellOf, leftOf, onField, techniqueOn, totals, type Graded } from "./grading";
import { blank, drives, gained, known, situation } from "./plays";

const players = ["a", "b", "c", "d"].map((id) => ({ id }) as Schemas["Player"]);
const sheet = {
  players,
  plays: [1, 2, 3, 4, 5].map((n) => ({
    id: `p${n}`,
    play: blank(n, "offense"),
    technique: n === 4 ? "pull" : undefined,
  })),
  techniques: [{ key: "base" }, { key: "pull" }, { key: "kick" }],
} as Schemas["GameSheet"];

const mark = (
  player_id: string,
  technique = "base",
  state: "assumed" | "looked" | "unseen" | "unsettled" = "assumed",
): Graded => ({
  technique,
  mark: { id: player_id, player_id, rep: 0, state },
});
const cells = (...list: [number, Graded][]) =>
  new Map(list.map(([n, g]) => [cellOf(g.mark.player_id, `p${n}`), g]));
const there = (...args: Parameters<typeof onField>) => [...onField(...args)].sort().join("");

describe("who is on the field", () => {
  const top = new Set(["a", "b"]);
  it("is who is at the top until something is marked, and carried from play to play", () => {
    expect(there(sheet, new Map(), new Map(), top, 0)).toBe("ab");
    const c = cells([1, mark("a")], [1, mark("c")]);
    expect(there(sheet, c, new Map(), top, 0)).toBe("ac");
    expect(there(sheet, c, new Map(), top, 3)).toBe("ac");
  });
  it("is not only who was spoken of while the coach is at the play", () => {
    const c = cells([1, mark("a")], [1, mark("b")], [2, mark("a", "base", "looked")]);
    expect(there(sheet, c, new Map(), top, 1)).toBe("ab");
  });
  it("changes from where it is said, until it is said otherwise", () => {
    const changes = new Map([
      [
        1,
        new Map([
          ["a", false],
          ["d", true],
        ]),
      ],
      [3, new Map([["a", true]])],
    ]);
    expect([0, 1, 2, 3].map((i) => there(sheet, new Map(), changes, top, i))).toEqual([
      "ab",
      "bd",
      "bd",
      "abd",
    ]);
  });
  it("is who is marked where it is past, whatever was before", () => {
    const c = cells([1, mark("a")], [1, mark("b")], [3, mark("c")], [3, mark("d", "base", "unseen")]);
    expect([1, 2, 3].map((i) => there(sheet, c, new Map(), top, i))).toEqual(["ab", "cd", "cd"]);
  });
});

describe("what a player does on a play", () => {
  it("is what is marked, what the call asks, what he did before, what the group does most", () => {
    const c = cells([1, mark("a", "kick")], [5, mark("a", "pull")]);
    expect([0, 1, 3, 4].map((i) => techniqueOn(sheet, c, "a", i))).toEqual(["kick", "kick", "pull", "pull"]);
    expect(techniqueOn(sheet, c, "b", 0)).toBe("base");
    expect(techniqueOn(sheet, c, "b", 9)).toBeUndefined();
  });
});

it("counts what is left", () => {
  const c = cells([1, mark("a")], [1, mark("b", "base", "unseen")], [2, mark("a", "base", "looked")]);
  expect(totals(sheet, c)).toEqual({ plays: 5, graded: 2, assumed: 1, unseen: 1, open: 0 });
});

it("leads to what is left", () => {
  const c = cells(
    [1, mark("a")],
    [2, mark("b", "base", "unseen")],
    [4, mark("c", "base", "unsettled")],
    [4, mark("a", "base", "unseen")],
  );
  expect(leftOf(sheet, c)).toEqual({
    unmarked: [{ at: 2 }, { at: 4 }],
    open: [{ at: 3, row: 2 }],
    unseen: [
      { at: 1, row: 1 },
      { at: 3, row: 0 },
    ],
  });
});

it("words a play", () => {
  const p = { ...blank(1, "offense"), down: 2, distance: 7, spot: "own 44" };
  expect([
    situation(p),
    situation(blank(1, "units")),
    situation({ ...p, distance: undefined, spot: "" }),
  ]).toEqual(["2nd & 7, own 44", "", "2nd"]);
  expect([gained(4), gained(-3), gained(0), gained(undefined)]).toEqual(["+4", "−3", "0", ""]);
  const of = (drive: number) => ({ play: { ...blank(1, "offense"), drive } });
  expect(drives([of(1), of(1), of(0), of(2)])).toEqual([
    { drive: 1, from: 0, plays: 2 },
    { drive: 2, from: 3, plays: 1 },
  ]);
  expect(known([{ ...p, call: "Zone" }, { ...p, call: "Lead" }, { ...p, call: "Zone" }, p], "call")).toEqual([
    "Zone",
    "Lead",
  ]);
});
