import { describe, expect, it } from "vitest";
import {
  askedOf,
  charge,
  drewFlag,
  efforts,
  exchanges,
  faulty,
  looked,
  nextResult,
  nextTally,
  stepGrade,
  toggleFacet,
  toggleFault,
  toggleState,
  words,
  wrongCall,
} from "./cell";
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

describe("one grade for a rep", () => {
  const four = { kind: "points", of: 4, clean_at: 3 } as const;
  const body = (m: ReturnType<typeof stepGrade>) => ({ ...m, id: "m" });
  it("begins at all of it, or at none where a fault is named, and stays on its scale", () => {
    const three = body(stepGrade(undefined, "p", 0, four, -1));
    expect([three.grade, faulty(three), words(three, name)]).toEqual([3, false, "3 points"]);
    const two = body(stepGrade(three, "p", 0, four, -1));
    expect([two.grade, faulty(two)]).toEqual([2, true]);
    expect(stepGrade({ ...three, grade: 4 }, "p", 0, four, 1).grade).toBe(4);
    expect(stepGrade(body(toggleFault(undefined, "p", 0, "wide")), "p", 0, four, 1).grade).toBe(1);
  });
  it("is plus or minus, and follows the faults again once one is named", () => {
    const minus = body(stepGrade(undefined, "p", 0, { kind: "plus_minus", of: 1, clean_at: 1 }, -1));
    expect(words(minus, name)).toBe("minus");
    expect(toggleFault(minus, "p", 0, "wide").grade).toBeUndefined();
  });
});

describe("what a mark says besides", () => {
  const body = (m: ReturnType<typeof nextResult>) => ({ ...m, id: "m" });
  it("goes round: not said, lost, won", () => {
    const lost = nextResult(undefined, "p", 0);
    const won = nextResult(body(lost), "p", 0);
    expect([lost.result, won.result, nextResult(body(won), "p", 0).result]).toEqual([0, 1, undefined]);
    expect(words(body(lost), (k) => k)).toBe("looked at, clean, lost");
  });
  it("says one thing of a kind, and other kinds beside it", () => {
    const effort = body(nextTally(undefined, "p", 0, efforts));
    const both = body(nextTally(effort, "p", 0, exchanges));
    expect(both.tallies).toEqual(["effort", "call_echoed"]);
    expect(nextTally(both, "p", 0, efforts).tallies).toEqual(["call_echoed", "no_effort"]);
    expect(words(both, (k) => k)).toBe("looked at, clean, effort away from the ball, call made and echoed");
    const faulty = body(toggleFault(both, "p", 0, "wide"));
    expect(faulty.tallies).toEqual(both.tallies);
  });
  it("charges the player nothing for a wrong call of the coach's", () => {
    const ours = body(wrongCall(undefined, "p", 0));
    expect([ours.state, ours.tallies]).toEqual(["not_gradable", ["wrong_call"]]);
    expect(wrongCall(ours, "p", 0).state).toBe("looked");
    expect(askedOf(ours, "p", 0, "coach").tallies).toEqual([]);
    expect(nextResult(ours, "p", 0).tallies).toEqual([]);
  });
});
