import { describe, expect, it } from "vitest";
import { sizeOf } from "./paper";

describe("the size of type on paper", () => {
  it("is the largest with few rows", () => expect(sizeOf(4, 400, 1.6, 27, 12)).toBe(27));
  it("shrinks until they go on the page", () => {
    for (let n = 5; n < 20; n++) expect(sizeOf(n, 400, 1.6, 27, 12) * 1.6 * n).toBeLessThanOrEqual(400);
  });
  it("never under what can be read", () => expect(sizeOf(99, 400, 1.6, 27, 12)).toBe(12));
  it("is the largest with none", () => expect(sizeOf(0, 400, 1.6, 27, 12)).toBe(27));
});
