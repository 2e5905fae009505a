import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { rateOf } from "./looked";

/** Times as a browser gives them, of thousandths, with frames passed over here and there. */
const shown = (num: number, den: number, n: number, passed: (i: number) => boolean) =>
  Array.from({ length: n }, (_, i) => i)
    .filter((i) => !passed(i))
    .map((i) => Math.round((1e6 * i * den) / num) / 1e6);

describe("the rate of a video", () => {
  it("is that of a camera, whatever is passed over", () => {
    fc.assert(
      fc.property(
        fc.constantFrom([24, 1], [25, 1], [30, 1], [50, 1], [60, 1], [120, 1]),
        fc.array(fc.integer({ min: 1, max: 38 }), { maxLength: 9 }),
        ([num, den], gone) => {
          expect(rateOf(shown(num!, den!, 40, (i) => gone.includes(i)))).toEqual([num, den]);
        },
      ),
    );
  });
  it("tells 29.97 from 30 by a frame that is seen farther on, though times are of whole thousandths", () => {
    for (const [num, den] of [
      [30, 1],
      [30000, 1001],
      [60, 1],
      [60000, 1001],
      [24, 1],
      [24000, 1001],
    ] as const)
      for (let far = 60; far < 480; far += 7) {
        const at = (i: number) => Math.round((1e3 * i * den) / num) / 1e3;
        const times = [...Array.from({ length: 24 }, (_, i) => at(i)), at(far)];
        // Less than two seconds on a thousandth is as much as what tells them apart.
        if (times.at(-1)! >= 2.5) expect([far, ...rateOf(times)]).toEqual([far, num, den]);
      }
  });
  it("tells 29.97 from 30 where it is seen long enough", () => {
    expect(rateOf(shown(30000, 1001, 40, () => false))).toEqual([30000, 1001]);
  });
  it("is the usual one where nothing is seen", () => {
    expect(rateOf([])).toEqual([30, 1]);
    expect(rateOf([0.5])).toEqual([30, 1]);
  });
});
