// @vitest-environment node
import { readFileSync } from "node:fs";
import { beforeAll, describe, expect, it } from "vitest";
import type { Schemas } from "@/api/client";
import { startCore, type Core } from "@/core";
import * as P from "./periods";

const lanes = ["ol", "dl", "db"];
const script = (): P.Script =>
  new Map([
    ["a", P.fresh(0, 10, lanes)],
    ["b", P.fresh(10, 20, ["ol"])],
    ["c", P.fresh(10, 20, ["dl"])],
  ]);

describe("a script is changed", () => {
  it("moves and stretches within the practice", () => {
    expect(P.moved(script(), "b", -5, 60).get("b")?.start).toBe(0);
    expect(P.moved(script(), "b", 55, 60).get("b")?.start).toBe(40);
    expect(P.ending(script(), "b", 99, 60).get("b")?.minutes).toBe(50);
    expect(P.ending(script(), "b", 0, 60).get("b")?.minutes).toBe(1);
    expect(P.beginning(script(), "b", 5).get("b")).toMatchObject({ start: 5, minutes: 25 });
    expect(P.beginning(script(), "b", 90).get("b")).toMatchObject({ start: 29, minutes: 1 });
    expect(P.changed(script(), "b", { minutes: -4 }).get("b")?.minutes).toBe(1);
  });
  it("splits, copies, joins and takes out, and leaves what it was given", () => {
    const before = script();
    const cut = P.split(before, "b", 14, "d");
    expect([cut.get("b")?.minutes, cut.get("d")?.start, cut.get("d")?.minutes]).toEqual([4, 14, 16]);
    expect(P.split(before, "b", 10, "d")).toBe(before);
    expect(P.copied(before, "a", "d").get("d")?.start).toBe(10);
    const both = P.joined(before, "b", "c", lanes);
    expect(both.get("b")).toMatchObject({ groups: ["ol", "dl"], kind: "group", name: "Group" });
    expect(both.has("c")).toBe(false);
    expect(P.without(before, "a").size).toBe(2);
    expect(before).toEqual(script());
  });
  it("draws one bar over neighbouring lanes", () => {
    expect(P.stretches(["ol", "db"], lanes)).toEqual([
      { from: 0, rows: 1 },
      { from: 2, rows: 1 },
    ]);
    expect(P.stretches(lanes, lanes)).toEqual([{ from: 0, rows: 3 }]);
    expect(P.inOrder(script(), lanes).map(([id]) => id)).toEqual(["a", "b", "c"]);
  });
});

describe("lanes", () => {
  it("are those the server names, and of whom has a period by now", () => {
    const groups = ["ol", "db", "sp"].map((key) => ({ key })) as Schemas["GroupRef"][];
    const practice = { groups: ["ol", "db"] } as Schemas["Practice"];
    expect(P.lanesOf(practice, groups, script()).map((g) => g.key)).toEqual(["ol", "db"]);
    const kicks = new Map([["k", { groups: ["sp"] } as P.Period]]);
    expect(P.lanesOf(practice, groups, kicks).map((g) => g.key)).toEqual(["ol", "db", "sp"]);
  });
});

describe("the core in the browser", () => {
  let core: Core;
  beforeAll(async () => {
    const bytes = readFileSync("src/core/core.wasm");
    core = await startCore(async (imports) => (await WebAssembly.instantiate(bytes, imports)).instance);
  });
  const sheet = (s: P.Script): Schemas["ScriptSheet"] => ({
    minutes: 40,
    start_minute: 1080,
    groups: lanes.map((key) => ({ key, name: key.toUpperCase() })),
    settings: {
      version: 0,
      places: [],
      equipment: [],
      staff: [],
      limits: { water_every: 30, warm_up_first: false },
      themes: [],
      editable: true,
    },
    periods: [...s].map(([id, p]) => ({ id, ...p })),
  });
  it("looks, and what it offers mends", () => {
    const look = core.look(sheet(script()));
    const idle = look.findings.find((f) => f.groups.join() === "db")!;
    expect(idle.message).toBe("DB has nothing to do from 18:10 to 18:40");
    const [mend] = core.mends(sheet(script()), idle);
    const after = new Map(mend!.periods.map((p) => [p.id, P.written(p)]));
    expect(core.look(sheet(after)).findings.map((f) => f.message)).not.toContain(idle.message);
  });
  it("misses nothing of who works apart", () => {
    const look = core.look({ ...sheet(script()), apart: ["db"] });
    expect(look.findings.flatMap((f) => f.groups)).not.toContain("db");
  });
  it("writes a text and reads the same script", () => {
    const text = core.write(sheet(script()));
    expect(text.split("\n")[1]).toBe("18:10 20 individual OL");
    const read = core.read(sheet(script()), text);
    expect(new Map(read.periods.map((p) => [p.id, P.written(p)]))).toEqual(script());
    expect(core.read(sheet(script()), "18:10 x").problems[0]).toMatchObject({ line: 1, column: 1 });
  });
});
