import { describe, expect, it } from "vitest";
import type { Schemas } from "@/api/client";
import { draw, textOf } from "@/parts/draw.test-util";
import { LadderView } from "./LadderView";

const stage = (key: string, more: Partial<Schemas["StageStanding"]> = {}): Schemas["StageStanding"] => ({
  key,
  name: `Stage ${key}`,
  reps: 0,
  recent_reps: 0,
  recent_clean: 0,
  window: 10,
  clean: 8,
  sessions: 0,
  passed: false,
  overridden: false,
  open: true,
  from_week: 1,
  ...more,
});

const ladder = (more: Partial<Schemas["LadderStanding"]> = {}): Schemas["LadderStanding"] => ({
  key: "l",
  name: "Base block",
  done: false,
  week: 7,
  current: "b",
  status: "working",
  overexposed: [],
  stages: [
    stage("a", { passed: true }),
    stage("b", { reps: 4, recent_reps: 4, recent_clean: 3 }),
    stage("c", { reps: 2 }),
  ],
  ...more,
});

const said = (l: Schemas["LadderStanding"]) => textOf(draw(<LadderView ladder={l} />));

describe("a player's ladder", () => {
  it("gives the gate in figures", () => {
    const text = said(ladder());
    expect(text).toContain("Stage a passed");
    expect(text).toContain("Stage b 3 of last 4, gate 8 of 10");
    expect(text).toContain("Stage c seen 2");
  });
  it("says when he should go back, waits, or is through", () => {
    expect(said(ladder({ status: "step_back" }))).toContain("go back a stage");
    expect(
      said(
        ladder({ status: "waiting", stages: [stage("a", { passed: true }), stage("b", { from_week: 9 })] }),
      ),
    ).toContain("from week 9");
    expect(said(ladder({ done: true, current: undefined, status: undefined }))).toContain(
      "All stages passed",
    );
  });
  it("names the stage he has had too much of", () => {
    expect(said(ladder({ overexposed: ["a"] }))).toContain("Too many days on stage a");
  });
  it("keeps a coach's word in sight", () => {
    const word = {
      id: "o",
      stage: "a",
      stage_name: "Stage a",
      reason: "did it all spring",
      by: "R. Kell",
      on: "2026-10-13",
    };
    expect(
      said(ladder({ stages: [stage("a", { passed: true, overridden: true, override: word }), stage("b")] })),
    ).toContain("✎ R. Kell: did it all spring");
  });
});
