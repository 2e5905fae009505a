import { describe, expect, it } from "vitest";
import type { Schemas } from "@/api/client";
import { draw, textOf } from "@/parts/draw.test-util";
import { PrintSheet } from "./PrintSheet";

const reps: Schemas["Reps"] = {
  players: 9,
  help_only: 0,
  lanes_used: 3,
  cycles: 11,
  min: 3,
  max: 4,
  sides: 2,
  per_side_min: 1,
  work_share: 0.06,
  helping_share: 0.08,
  waiting_share: 0.86,
  advice: "",
};
const placed: Schemas["Placement"] = {
  id: "d1",
  group: "ol",
  drill: "pull_bag",
  name: "Pull and kick the bag",
  technique: "pull_kick",
  technique_name: "Pull and kick",
  techniques: [],
  start: 5,
  minutes: 5,
  lanes: 3,
  marks: 0,
  reps,
};
const period = (more: Partial<Schemas["Period"]>): Schemas["Period"] => ({
  id: "e1",
  start: 12,
  minutes: 20,
  kind: "individual",
  name: "Individual",
  contact: "bag",
  groups: ["ol"],
  place: "",
  coaches: [],
  equipment: [],
  needs_groups: [],
  rep_seconds: 0,
  version: 1,
  own: true,
  editable: true,
  others: [],
  placements: [placed, { ...placed, id: "d2", start: 10, reps: { ...reps, sides: 1, min: 6 } }],
  ...more,
});
const practice: Schemas["Practice"] = {
  practice: {
    id: "p1",
    date: "2026-10-13",
    title: "Tuesday practice",
    start_minute: 18 * 60 + 50,
    minutes: 120,
  },
  week: 7,
  practice_day: 19,
  heat: [],
  returning: [],
  theme: "Gap day",
  place: "East field",
  groups: ["ol", "db"],
  periods: [
    period({
      id: "e0",
      own: false,
      kind: "warm_up",
      name: "Warm-up",
      contact: "air",
      start: 0,
      minutes: 10,
      placements: [],
    }),
    period({}),
    period({ id: "e2", own: false, groups: ["db"], name: "Secondary alone", placements: [] }),
  ],
  players: 9,
  limited: 0,
  held: [{ player_id: "a", jersey: "66", name: "Quill", status: "head_hold", note: "" }],
  editable: true,
  settings: {
    version: 0,
    places: [],
    equipment: [],
    staff: [],
    limits: { warm_up_first: false },
    themes: [],
    editable: false,
  },
  look: { findings: [], free: [], contact: [] },
};
const library = {
  editable: true,
  questions: [],
  techniques: [],
  ladders: [],
  tables: [],
  drills: [
    {
      key: "pull_bag",
      watch: "Head on the hole side",
      self_check: { text: "The bag falls outward" },
      cautions: "The holder turns his shoulder to the blow.",
    } as Partial<Schemas["Drill"]> as Schemas["Drill"],
  ],
};
const page = (p = practice) => textOf(draw(<PrintSheet practice={p} library={library} group="ol" />));

describe("the printed practice", () => {
  it("gives clock times across the hour and the reps of each drill", () => {
    const text = page();
    expect(text).toContain("18:50 10 Warm-up");
    expect(text).toContain("19:02 20 Individual bag");
    expect(text).toContain("19:07 5 Pull and kick the bag 3 3 (1 a side) Head on the hole side.");
    expect(text).toContain("19:12 5 Pull and kick the bag 3 6 Head on the hole side.");
  });
  it("leaves out what another group does, and says no contact by saying nothing", () => {
    expect(page()).not.toContain("Secondary alone");
    expect(page()).not.toContain("air");
  });
  it("names the players on hold, and each caution once", () => {
    expect(page()).toContain("66 Quill (head-injury hold)");
    expect(page().split("The holder turns").length).toBe(2);
    expect(page()).toContain("Your league's rules and licensed medical staff come first.");
  });
  it("says when nothing is placed", () => {
    expect(page({ ...practice, periods: [period({ placements: [] })] })).toContain("No drills placed yet.");
  });
});
