import { describe, expect, it } from "vitest";
import { charge, drewFlag, faulty, looked, toggleFacet, toggleFault, toggleState, words } from "./cell";
import type { CellMark } from "./useMarking";

const name = (k: string) => k;

describe("cell", () => {
  it("takes a fault in and out, leaving the technique to follow from the faults", () => {
    const once = { id: "1", ...toggleFault(undefined, "p", 2, "wide") } as CellMark;
    expect(once).toMatchObject({ state: "looked", rep: 2, faults: [{ key: "wide" }], technique: undefined });
    expect(words(once, name)).toBe("wide");
    expect(words({ id: "2", ...toggleFault(once, "p", 2, "wide") } as CellMark, name)).toBe(
      "looked at, clean",
    );
  });
  it("keeps the note when the state changes", () => {
    const noted: CellMark = { id: "1", player_id: "p", rep: 1, state: "assumed", note: "late" };
    expect(toggleState(noted, "p", 1, "unseen")).toMatchObject({ state: "unseen", note: "late" });
    expect(looked(noted, "p", 1)).toMatchObject({ state: "looked", note: "late", faults: [] });
  });
  it("turns a facet wrong and right again", () => {
    const wrong = { id: "1", ...toggleFacet(undefined, "p", 1, "assignment") } as CellMark;
    expect(words(wrong, name)).toBe("wrong assignment");
    expect(toggleFacet(wrong, "p", 1, "assignment").assignment).toBe(1);
  });
  it("charges the last fault to a teammate, and says that it drew a flag", () => {
    const two = {
      id: "1",
      player_id: "p",
      rep: 1,
      state: "looked",
      faults: [{ key: "wide" }, { key: "high" }],
    };
    const own = { ...(two as CellMark), technique: 0 };
    const his = { id: "2", ...charge(own, "p", 1, "mate") } as CellMark;
    expect(his.faults).toEqual([{ key: "wide" }, { key: "high", caused_by: "mate" }]);
    expect(his.technique).toBeUndefined();
    expect(faulty(his)).toBe(true);
    expect(faulty({ faults: [{ key: "high", caused_by: "mate" }] })).toBe(false);
    expect(charge(his, "p", 1, "mate").faults?.[1]).toEqual({ key: "high", caused_by: undefined });
    const flag = { id: "3", ...drewFlag(his, "p", 1) } as CellMark;
    expect(words(flag, name)).toBe("wide, high, caused by a teammate, drew a flag");
    expect(drewFlag(flag, "p", 1).faults?.[1]?.penalty).toBeUndefined();
  });
});
