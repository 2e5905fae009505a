import { describe, expect, it } from "vitest";
import { faultLetters, keyOf, lettersOf, reserved, reservedShift, usualFirst } from "./letters";

describe("letters of faults", () => {
  it("come from the words of the name, the first fault first", () => {
    expect(
      faultLetters(["Second foot lands behind", "Head ducks", "Hands wide", "Leaves double late"]),
    ).toEqual(["s", "h", "w", "l"]);
  });
  it("are distinct, free, and run out only when all are taken", () => {
    const names = Array.from(
      { length: 40 },
      (_, i) => `Fault ${String.fromCharCode(97 + (i % 26))} number ${i}`,
    );
    const letters = faultLetters(names);
    const given = letters.filter((l) => l !== "");
    expect(new Set(given).size).toBe(given.length);
    expect(given).toHaveLength(26 - reserved.length + 26 - reservedShift.length);
    const small = given.filter((l) => keyOf(l) === l);
    expect(small).toEqual(given.slice(0, 26 - reserved.length)); // capitals only when the small ones are gone
    for (const l of small) expect(reserved).not.toContain(l);
    for (const l of given.slice(small.length)) {
      expect(reservedShift).not.toContain(l.toLowerCase());
      expect(keyOf(l)).toBe(`Shift+${l.toLowerCase()}`);
    }
    expect(letters.at(-1)).toBe("");
  });
  it("are the same however often a sheet is drawn", () => {
    const faults = [
      { key: "a", name: "Hat up" },
      { key: "b", name: "Hands wide" },
    ];
    expect(lettersOf(faults)).toBe(lettersOf(faults));
    expect(lettersOf(faults).get("b")).toBe("w");
  });

  it("stay while what is usual comes first", () => {
    const faults = ["a", "b", "c"].map((key) => ({ key, name: key }));
    const usual = [
      { technique_key: "base", faults: ["c", "a", "b"] },
      { technique_key: "base", player_id: "sato", faults: ["b", "c", "a"] },
    ];
    const keys = (technique: string, player: string) =>
      usualFirst(faults, usual, technique, player).map((f) => f.key);
    expect(keys("base", "sato")).toEqual(["b", "c", "a"]);
    expect(keys("base", "marsh")).toEqual(["c", "a", "b"]);
    expect(keys("reach", "sato")).toEqual(["a", "b", "c"]);
    expect(usualFirst([...faults, { key: "new", name: "new" }], usual, "base", "sato").at(-1)?.key).toBe(
      "new",
    );
  });
});
