import { describe, expect, it } from "vitest";
import type { Schemas } from "@/api/client";
import { draw, textOf } from "@/parts/draw.test-util";
import { queries } from "@/api/queries";
import { EvidenceList } from "./EvidenceList";
import { LadderView } from "./LadderView";
import { Players } from "./Players";

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

const person = (id: string, more: Partial<Schemas["Player"]> = {}): Schemas["Player"] => ({
  id,
  jersey: "64",
  first_name: "Jun",
  last_name: "Sato",
  position: "LG",
  status: "available",
  note: "",
  returning: true,
  ...more,
});
const cell = (more: Partial<Schemas["Cell"]> = {}): Schemas["Cell"] => ({
  technique: "base_block",
  reps: 99,
  estimate: 0.87,
  low: 0.81,
  high: 0.92,
  trend: "steady",
  trend_claimed: false,
  carry: "unclear",
  carry_claimed: false,
  ...more,
});
const matrix = (m: Schemas["Matrix"]) =>
  draw(<Players />, [{ queryKey: queries.players("ol", 7).queryKey, data: m }]);

const row = (
  player: Schemas["Player"],
  cells: Schemas["Cell"][],
  overall: Partial<Schemas["Overall"]> = {},
) => ({
  player,
  cells,
  overall: {
    trend: "steady" as const,
    trend_claimed: false,
    carry: "unclear" as const,
    carry_claimed: false,
    say: "",
    ...overall,
  },
});

describe("the group as a matrix", () => {
  const techniques = [
    {
      key: "base_block",
      name: "Base block",
      rate: 0.84,
      beside: { practice: 0.86, game: 0.775 },
    },
    { key: "reach", name: "Reach block" },
  ];
  it("gives an estimate with its range and reps, and lists what was never marked", () => {
    const text = textOf(matrix({ techniques, players: [row(person("a"), [cell()])] }));
    expect(text).toContain("Base block group 84%");
    expect(text).toContain("64 Sato LG 87%");
    expect(text).toContain("81–92 · 99");
    expect(text).toContain("Taught, and not marked yet: reach block.");
  });
  it("says what games do to all as a number of the group", () => {
    const text = textOf(matrix({ techniques, players: [row(person("a"), [cell()])] }));
    expect(text).toContain("86% practice, 78% games");
  });
  it("speaks up beside a name for what may be claimed of a player over all his techniques", () => {
    const more = (overall: Partial<Schemas["Overall"]>) =>
      textOf(matrix({ techniques, players: [row(person("a"), [cell()], overall)] }));
    expect(more({ trend: "improving", trend_claimed: true })).toContain("▲ improved more than the others");
    expect(more({ trend: "slipping", trend_claimed: true })).toContain("▼ slipped more than the others");
    expect(more({ carry: "not_carrying", carry_claimed: true })).toContain("◤ drops in games more than the");
    expect(more({ trend: "improving" })).not.toContain("the others have changed");
    expect(more({ trend: "improving" })).not.toContain("improved more");
    expect(more({})).toContain("does not mean that nothing changed");
  });
  it("keeps few reps faint and an empty cell empty", () => {
    const few = matrix({
      techniques,
      players: [row(person("a"), [cell({ reps: 3, trend: "too_few", carry: "too_few" })])],
    });
    expect(few).toContain("border-dashed");
    expect(matrix({ techniques, players: [row(person("a"), [])] })).toContain("–");
  });
  it("says who is held, and where an empty group begins", () => {
    const held = person("a", { status: "head_hold" });
    expect(textOf(matrix({ techniques, players: [row(held, [])] }))).toContain("head-injury hold");
    expect(textOf(matrix({ techniques, players: [] }))).toContain("Import the roster");
    expect(textOf(matrix({ techniques: [], players: [row(person("a"), [])] }))).toContain(
      "no techniques for this group yet",
    );
  });
});

describe("the reps behind a number", () => {
  const rep = (more: Partial<Schemas["Evidence"]>): Schemas["Evidence"] => ({
    id: "m",
    source: "practice",
    date: "2026-10-06",
    week: 6,
    where: "Kick on the line, rep 3",
    technique: "kick_slide",
    clean: false,
    graded: true,
    assumed: false,
    faults: [],
    measures: [],
    standard: 2,
    scheme: 0,
    note: "",
    by: "R. Kell",
    ...more,
  });
  const list = (rows: Schemas["Evidence"][]) =>
    draw(
      <EvidenceList player="a" technique="kick_slide" title="Kick and slide" onClose={() => undefined} />,
      [
        {
          queryKey: queries.evidence("a", "ol", 7, "kick_slide").queryKey,
          data: { pages: [{ reps: rows }], pageParams: [""] },
        },
      ],
    );
  it("tells assumed from looked at, and why a rep was not graded", () => {
    const text = textOf(
      list([
        rep({ id: "1", faults: ["Leans"], measures: ["First step 9 in, watch"], side: "left" }),
        rep({ id: "2", clean: true, assumed: true }),
        rep({ id: "3", clean: true }),
        rep({ id: "4", graded: false, reason: "unseen" }),
      ]),
    );
    expect(text).toContain("4 reps");
    expect(text).toContain("Leans First step 9 in, watch left v2");
    expect(text).toContain("assumed clean");
    expect(text).toContain("unseen v2");
  });
  it("leads back to the score of a drill, not of a play", () => {
    expect(list([rep({ placement_id: "d1", practice_id: "p1" })])).toContain(
      'href="/g/ol/w/7/practice/p1/mark/d1"',
    );
    expect(list([rep({ source: "game", where: "Dunmere, play 12" })])).not.toContain("<a ");
  });
});
