import { describe, expect, it } from "vitest";
import { faultLetters, lettersOf, reserved } from "./letters";

describe("letters of faults", () => {
  it("come from the words of the name, the first fault first", () => {
    expect(
      faultLetters(["Second foot lands behind", "Head ducks", "Hands wide", "Leaves double late"]),
    ).toEqual(["s", "h", "w", "l"]);
  });
  it("are distinct, free, and run out only when all are taken", () => {
    const names = Array.from(
      { length: 30 },
      (_, i) => `Fault ${String.fromCharCode(97 + (i % 26))} number ${i}`,
    );
    const letters = faultLetters(names);
    const given = letters.filter((l) => l !== "");
    expect(new Set(given).size).toBe(given.length);
    expect(given).toHaveLength(26 - reserved.length);
    for (const l of given) expect(reserved).not.toContain(l);
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
});
