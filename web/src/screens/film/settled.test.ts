import { expect, it } from "vitest";
import { alike } from "./settled";

it("tells marks apart by what they judge", () => {
  const clean = { state: "looked", faults: [] } as const;
  const high = { state: "looked", faults: [{ key: "high" }, { key: "late" }] } as const;
  expect(alike(clean as never, { state: "assumed", assignment: 1, technique: 1 })).toBe(true);
  expect(
    alike(high as never, { state: "looked", technique: 0, faults: [{ key: "late" }, { key: "high" }] }),
  ).toBe(true);
  expect(alike(high as never, clean as never)).toBe(false);
  expect(alike(clean as never, { state: "looked", finish: 0 })).toBe(false);
  expect(alike({ state: "unseen" }, { state: "unsettled" })).toBe(false);
  // A fault that a teammate caused leaves the technique as it was.
  expect(alike({ state: "looked", faults: [{ key: "high", caused_by: "m" }] }, high as never)).toBe(false);
});
