import { expect, test } from "vitest";
import { inInches, typedHeight } from "./height";

test("a height is typed in feet and inches and read back the same", () => {
  for (const total of [48, 66, 72, 73.5, 79.9, 96])
    expect(inInches(typedHeight(total))).toBeCloseTo(total, 9);
  expect(typedHeight(73.5)).toEqual({ feet: "6", inches: "1.5" });
});

test("half a number is still a number, and nothing is nothing", () => {
  expect(inInches({ feet: "6", inches: "1." })).toBe(73);
  expect(inInches({ feet: "6", inches: "1,5" })).toBe(73.5);
  expect(inInches({ feet: "", inches: "" })).toBeNull();
  expect(typedHeight(null)).toEqual({ feet: "", inches: "" });
});
