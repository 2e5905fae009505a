import { describe, expect, it } from "vitest";
import type { Schemas } from "@/api/client";
import { askedOf, cardAt, firstFilmed, fromAt, join, placeOf, sheetOf, split, wholeOf } from "./shown";

const fault = (key: string) => ({ key, name: key, safety: false, severity: 2 });
const head = fault("head");
const sheet = {
  technique: "stance",
  technique_name: "Stance",
  faults: [fault("narrow"), head],
  measures: [],
  techniques: [
    { key: "stance", name: "Stance", faults: [fault("narrow"), head], measures: [] },
    { key: "start", name: "Start", faults: [fault("late"), head], measures: [] },
  ],
} as unknown as Schemas["MarkSheet"];
const player = { id: "p", position: "RG" } as Schemas["Player"];

describe("what a rep shows", () => {
  it("goes through the cards and begins again", () => {
    const cards = [
      { key: "wide", look: "Wide", right: "Square", asks: "start" },
      {
        key: "run",
        look: "Run",
        right: "Base",
        places: [
          { place: "lg", technique: "stance" },
          { place: "rg", technique: "start" },
        ],
      },
    ];
    const s = { ...sheet, cards };
    expect([1, 2, 3].map((n) => cardAt(s, n)?.key)).toEqual(["wide", "run", "wide"]);
    expect(cardAt(sheet, 1)).toBeUndefined();
    const sets = { ...sheet, from_each: ["under centre", "gun", "pistol"] };
    expect([1, 3, 4].map((n) => fromAt(sets, n))).toEqual(["under centre", "pistol", "under centre"]);
    expect(fromAt(sheet, 1)).toBeUndefined();
    expect(askedOf(s, cards[0])).toBe("start");
    expect(placeOf(cards[0]!, player, new Map())).toBeUndefined();
    expect(placeOf(cards[1]!, player, new Map())).toBe("rg");
    expect(placeOf(cards[1]!, player, new Map([["p", "lg"]]))).toBe("lg");
    expect(placeOf(cards[1]!, { ...player, position: "C" }, new Map())).toBe("lg");
    expect(askedOf(s, cards[1], "rg")).toBe("start");
    expect(askedOf(s)).toBe("stance");
    expect(sheetOf(s, "start").faults.map((f) => f.key)).toEqual(["late", "head"]);
    expect(sheetOf(s, "start")).toBe(sheetOf(s, "start"));
    expect(sheetOf(s, "stance")).toBe(s);
  });

  it("charges a fault to the technique it belongs to, and counts the rep for each", () => {
    const s: Schemas["MarkSheet"] = { ...sheet, shows: "each" };
    expect(wholeOf(s).faults.map((f) => f.key)).toEqual(["narrow", "head", "late"]);
    expect(wholeOf(sheet)).toBe(sheet);
    const list = split(s, { player_id: "p", rep: 2, state: "looked", faults: [{ key: "late" }], note: "n" });
    expect(list.map((m) => [m.technique_key, m.faults, m.note])).toEqual([
      ["stance", [], "n"],
      ["start", [{ key: "late" }], undefined],
    ]);
    expect(split(sheet, list[0]!)).toEqual([list[0]]);
    const cell = join(
      s,
      list.map((m, i) => ({ ...m, id: `${i}` })),
    );
    expect(cell).toMatchObject({ id: "0", note: "n", faults: [{ key: "late" }] });
    expect(join(s, [])).toBeUndefined();
  });

  it("begins at the first rep that is on film", () => {
    const clip = (player_id: string | undefined, rep?: number) =>
      ({
        id: "c",
        film_id: "f",
        view: "side",
        first: 0,
        last: 9,
        version: 1,
        player_id,
        rep,
      }) as Schemas["Clip"];
    const players = { players: [{ ...player, id: "a" }, player] };
    expect(firstFilmed(players, [])).toBeUndefined();
    expect(firstFilmed(players, [clip(undefined), clip("gone", 1)])).toBeUndefined();
    expect(firstFilmed(players, [clip("p", 7), clip("a", 7), clip("p", 3)])).toEqual({ rep: 3, row: 1 });
    expect(firstFilmed(players, [clip("p", 7), clip("a", 7)])).toEqual({ rep: 7, row: 0 });
  });
});
