import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { heightOf, sizeFor, type Block } from "./fit";
import { typeFor } from "./PocketCard";

const script = (n: number, letters: number, share: number): Block => ({
  share,
  fixed: 108,
  rows: Array.from({ length: n }, () => [{ length: letters, share: 1 }]),
});

describe("a page of paper", () => {
  it("has large type while there is room, and smaller as there is less", () => {
    expect(sizeFor([script(12, 14, 0.34)])).toBe(12);
    expect(sizeFor([script(21, 54, 0.27)])).toBe(7);
    expect(sizeFor([script(400, 54, 0.27)])).toBe(7);
    expect(sizeFor([])).toBe(12);
  });
  it("counts a text of two lines as two", () => {
    // 12 pt: 791 × 0.5 − 108 = 287 pt hold 47 letters of 6 pt.
    expect(heightOf(script(1, 47, 0.5), 12)).toBeCloseTo(2 * (16.2 + 4.6));
    expect(heightOf(script(1, 48, 0.5), 12)).toBeCloseTo(16.2 + 4.6 + 32.4 + 4.6);
  });
  it("never needs less room for more rows or longer names, nor for larger type", () => {
    fc.assert(
      fc.property(
        fc.nat(60),
        fc.nat(120),
        fc.double({ min: 0.25, max: 1, noNaN: true }),
        (n, letters, share) => {
          const h = heightOf(script(n, letters, share), 9);
          expect(heightOf(script(n + 1, letters, share), 9)).toBeGreaterThan(h);
          expect(heightOf(script(n, letters + 10, share), 9)).toBeGreaterThanOrEqual(h);
          expect(heightOf(script(n, letters, share), 10.5)).toBeGreaterThan(h);
        },
      ),
    );
  });
});

describe("a pocket card", () => {
  it("has the largest type at which a panel holds its lines, and none too small to read", () => {
    expect(typeFor(10, 30)).toBe(12);
    expect(typeFor(40, 30)).toBe(5);
    expect(typeFor(10, 100)).toBeCloseTo(7.7);
    expect(typeFor(400, 30)).toBe(5);
  });
});
