import { describe, expect, it } from "vitest";
import type { Schemas } from "@/api/client";
import { RotationTable } from "./RotationTable";
import { Ruler, at } from "./Ruler";
import { Band, Standard, holds, standardWords } from "./Standard";
import { finding, weak } from "./Trend";
import { draw, textOf } from "./draw.test-util";
import { clock, count, feet, percent, range } from "./words";

const firstStep: Schemas["Measure"] = {
  unit: "in",
  target: 7,
  ok: [5, 10],
  watch: [3, 13],
  max: 16,
  read: "line",
};

describe("words", () => {
  it("says numbers as a coach would", () => {
    expect(clock(18 * 60 + 4)).toBe("18:04");
    expect(percent(0.844)).toBe("84%");
    expect(range(0.858, 0.961)).toBe("86–96");
    expect(count(1, "rep")).toBe("1 rep");
    expect(count(2, "entry", "entries")).toBe("2 entries");
    expect(feet(74)).toBe("6 ft 2 in");
  });
});

describe("Ruler", () => {
  it("numbers the major ticks and leaves out a span's end", () => {
    const minutes = textOf(draw(<Ruler from={0} to={20} major={10} />));
    expect(minutes).toBe("0 10 20");
    const weeks = textOf(draw(<Ruler from={1} to={4} major={1} spans />));
    expect(weeks).toBe("1 2 3");
  });
  it("places values", () => {
    expect(at(5, 0, 20)).toBe("25%");
    expect(at(1, 1, 9)).toBe("0%");
  });
});

describe("standards", () => {
  it("says the whole standard in words", () => {
    expect(standardWords(firstStep)).toBe("7 in, OK 5–10, watch 3–13, never over 16");
    expect(
      standardWords({
        ...firstStep,
        unit: "deg",
        target: 45,
        watch: [5, 10],
        max: undefined,
        min: -2,
      }),
    ).toBe("45°, OK 5–10, never under -2");
  });
  it("says a difference from the call, a landmark and a side that is open", () => {
    const depth: Schemas["Measure"] = {
      ...firstStep,
      unit: "yd",
      from: "drop_depths/depth",
      target: 0,
      ok: [-0.5, 0.5],
      watch: [-1, 1],
      max: undefined,
    };
    expect(standardWords(depth)).toBe("0 yd from what the call asks, OK -0.5–0.5, watch -1–1");
    const still: Schemas["Measure"] = {
      ...firstStep,
      unit: "s",
      target: 1,
      ok: [1, null],
      watch: [0.5, null],
      max: undefined,
    };
    expect(standardWords(still)).toBe("1 s, OK from 1, watch from 0.5");
    expect(holds(still.ok, 60)).toBe(true);
    expect(holds(still.ok, 0.9)).toBe(false);
    expect(draw(<Band measure={still} />)).not.toMatch(/NaN|Infinity/);
  });
  it("draws the band with everything inside of it", () => {
    const markup = draw(<Band measure={firstStep} value={99} />);
    expect(markup).toContain('aria-label="7 in, OK 5–10, watch 3–13, never over 16"');
    for (const [, v] of markup.matchAll(/left:(-?[\d.]+)%/g)) {
      expect(Number(v)).toBeGreaterThanOrEqual(0);
      expect(Number(v)).toBeLessThanOrEqual(100);
    }
    expect(markup).not.toContain("NaN");
  });
  it("keeps a range of one value visible", () => {
    const one = {
      ...firstStep,
      ok: [3, 3],
      watch: [3, 3],
      target: 3,
      max: undefined,
    };
    expect(draw(<Band measure={one} />)).toContain("2px");
  });
  it("marks the words that pass, one or two", () => {
    const eye = {
      key: "c",
      phase: "fit",
      name: "n",
      cue: "q",
      words: ["step through", "plant and drive", "falls"],
      right: ["step through", "plant and drive"],
    };
    const text = textOf(draw(<Standard checkpoint={eye} />));
    expect(text).toBe("✓ step through ✓ plant and drive falls");
  });
});

describe("RotationTable", () => {
  const row = {
    jersey: "52",
    name: "Ilvar",
    roles: "l.hr",
    working: 2,
    helping: 1,
    waiting: 1,
    left: 1,
    right: 1,
    help_only: false,
  };
  it("shows sides where there are sides", () => {
    const text = textOf(draw(<RotationTable rotation={{ drill: "Bag", cycles: 4, rows: [row] }} />));
    expect(text).toContain("Cycles 1 to 4");
    expect(text).toContain("1 / 1");
    expect(text).toContain("L · ▨ R");
  });
  it("says who only helps, and leaves sides out where there are none", () => {
    const rows = [{ ...row, roles: "hhhh", working: 0, left: 0, right: 0, help_only: true }];
    const text = textOf(draw(<RotationTable rotation={{ drill: "Bag", cycles: 4, rows }} />));
    expect(text).toContain("helps only");
    expect(text).not.toContain("L / R");
  });
});

describe("findings", () => {
  const cell: Schemas["Cell"] = {
    technique: "t",
    reps: 40,
    estimate: 0.8,
    low: 0.7,
    high: 0.9,
    trend: "steady",
    trend_claimed: false,
    carry: "unclear",
    carry_claimed: false,
  };
  it("speaks up only for what may be claimed", () => {
    expect(
      finding({
        ...cell,
        carry: "not_carrying",
        carry_claimed: true,
        trend: "improving",
        trend_claimed: true,
      }).word,
    ).toBe("drops in games more than others");
    expect(finding({ ...cell, trend: "improving", trend_claimed: true }).word).toBe("better than before");
    expect(finding({ ...cell, trend: "slipping" }).word).toBe("maybe worse");
    expect(finding({ ...cell, trend: "too_few", reps: 4 }).word).toBe("too few reps");
    expect(finding(cell).word, "no claim is not no change").toBe("no claim");
  });
  it("calls few reps weak", () => {
    expect(weak({ ...cell, trend: "too_few", reps: 11 })).toBe(true);
    expect(weak({ ...cell, trend: "too_few", reps: 12 })).toBe(false);
    expect(weak(cell)).toBe(false);
  });
});
