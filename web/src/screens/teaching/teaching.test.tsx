import { describe, expect, it } from "vitest";
import { choices } from "@/kit/form/shape";
import type { Schemas } from "@/api/client";
import { place, used } from "@/app/Find";
import { draw, textOf } from "@/parts/draw.test-util";
import { Card } from "./Card";
import { OnLadder, advices } from "./OnLadder";
import { Drawing } from "./Drawing";
import { entryShape } from "./fields";
import { SideBySide } from "./SideBySide";
import { queries } from "@/api/queries";
import { MarkScheme } from "./MarkScheme";
import { LadderLine, Severity, TechniqueView, gateWords } from "./TechniqueView";

const stage = (key: string, more: Partial<Schemas["Stage"]> = {}): Schemas["Stage"] => ({
  key,
  name: `Stage ${key}`,
  kind: "bag",
  drills: [`d_${key}`],
  here: [`d_${key}`],
  called: { [`d_${key}`]: `Drill ${key}` },
  game: false,
  window: 10,
  clean: 8,
  sessions: 2,
  from_week: 1,
  ...more,
});

const technique: Schemas["Technique"] = {
  key: "base_block",
  name: "Base block",
  aliases: ["drive block"],
  groups: ["ol"],
  summary: "Move him.",
  questions: ["first_step"],
  behind: { long: "Ball late, Drop" },
  places: ["c"],
  core: true,
  trained_by: { long: [{ key: "two", name: "Two steps" }] },
  checkpoints: [
    {
      key: "first",
      phase: "first step",
      name: "Short first step",
      cue: "short and down",
      words: [],
      right: [],
      measure: { unit: "in", target: 7, ok: [5, 10], watch: [3, 13], read: "line" },
    },
    {
      key: "strike",
      phase: "strike",
      name: "Hands inside",
      cue: "inside",
      words: ["wide", "inside"],
      right: ["inside"],
    },
  ],
  faults: [
    {
      key: "long",
      name: "First step too long",
      aliases: [],
      at: "first",
      effect: "He is turned.",
      severity: 2,
      safety: false,
    },
    {
      key: "ducks",
      name: "Ducks the head",
      aliases: [],
      at: "strike",
      effect: "The neck is at risk.",
      severity: 3,
      safety: true,
    },
  ],
};

const library: Schemas["Library"] = {
  editable: true,
  techniques: [technique],
  drills: [],
  tables: [],
  ladders: [
    {
      key: "base_ladder",
      name: "Base block",
      technique: "base_block",
      minutes: 34.4,
      season_minutes: 540,
      stages: [
        stage("fit", { max_sessions: 2, sessions: 1 }),
        stage("look", { from_week: 3 }),
        stage("game", { drills: [], here: [], game: true }),
      ],
    },
  ],
  questions: [
    {
      key: "first_step",
      name: "First step",
      asks: "Named or not?",
      called: {},
      brings: {},
      house: "named",
      why: "Numbers hold.",
      shipped: true,
      schools: [
        { key: "named", name: "Named steps", reason: "r" },
        { key: "cover", name: "Cover him up", reason: "s" },
      ],
    },
  ],
};

describe("a technique", () => {
  const text = textOf(draw(<TechniqueView technique={technique} library={library} />));
  it("shows phases, standards, faults and what trains them", () => {
    for (const part of [
      "first step",
      "7 in, OK 5–10, watch 3–13",
      "✓ inside",
      "First step too long",
      "Two steps",
      "SAFETY",
      "no drill trains it",
      "drive block",
      "May come from: Ball late, Drop",
      "Only for: C · each of them must own it",
    ])
      expect(text).toContain(part);
  });
  it("says how the group does it, and that games are harder for everybody", () => {
    const form = queries.techniqueForm("ol", technique.key, 7);
    const said = (data: Schemas["TechniqueForm"]) =>
      textOf(
        draw(<TechniqueView technique={technique} library={library} />, [{ queryKey: form.queryKey, data }]),
      );
    const counts = { practice: { clean: 86, faulty: 14 }, game: { clean: 0, faulty: 0 } };
    const known = said({ rate: 0.84, ...counts, voices: [] });
    expect(known).toContain("About 84% clean");
    expect(known).toContain("86 of 100 in practice, no reps in games");
    expect(known).toContain("games are harder for everybody");
    expect(said({ ...counts, voices: [] })).not.toContain("How the group does it");
  });
  it("says which school is taught and why", () => {
    expect(text).toContain("Named or not? Named steps. Numbers hold.");
  });
  it("offers changes only to those who may", () => {
    expect(draw(<TechniqueView technique={technique} library={library} />)).toContain(
      "/teaching/edit/fault/long",
    );
    expect(
      draw(<TechniqueView technique={technique} library={{ ...library, editable: false }} />),
    ).not.toContain("/teaching/edit/");
  });
  it("prints cues only, with its safety faults", () => {
    const card = textOf(draw(<Card technique={technique} library={library} />));
    expect(card).toContain("short and down");
    expect(card).toContain("Stop the rep: ducks the head.");
    expect(card).toContain("Stage fit → Stage look → Stage game");
    expect(card).not.toContain("7 in");
  });
});

describe("gates", () => {
  it("are said in words", () => {
    expect(gateWords(stage("a"))).toBe("8 of 10 clean, over 2 days");
    expect(gateWords(stage("a", { sessions: 1, from_week: 4, max_sessions: 2 }))).toBe(
      "8 of 10 clean, from week 4, at most 2 days",
    );
  });
  it("stand along the ruler", () => {
    const text = textOf(draw(<LadderLine ladder={library.ladders[0]!} />));
    expect(text).toContain("stage 1 stage 2 stage 3");
    expect(text).toContain("Drill look");
  });
  it("severity is said for those who do not see it", () => {
    expect(draw(<Severity value={2} safety={false} />)).toContain('aria-label="severity 2 of 3"');
    expect(textOf(draw(<Severity value={3} safety />))).toBe("SAFETY");
  });
});

const every = (name: "setup_thing" | "setup_way") => choices(entryShape(name), "is");

const drill: Parameters<typeof Drawing>[0]["drill"] = {
  name: "Bag",
  roles: "One works.",
  space_yd: [8, 5],
  setup: {
    things: every("setup_thing").map((is, i) => ({
      is: is as Schemas["SetupThing"]["is"],
      at: [i % 8, i % 5],
    })),
    ways: every("setup_way").map((is, i) => ({
      is: is as Schemas["SetupWay"]["is"],
      points: [
        [0, i % 5],
        [3, 2],
        [7, i % 4],
      ],
    })),
  },
};

describe("the drawing of a drill", () => {
  it("draws everything a set-up may hold and names it", () => {
    const markup = draw(<Drawing drill={drill} />);
    expect(markup).not.toContain("NaN");
    expect(markup).toContain('aria-label="Set-up of Bag: One works."');
    const text = textOf(markup);
    for (const word of [
      "works",
      "helps",
      "coach",
      "cone",
      "bag",
      "ball",
      "board",
      "chute",
      "rope",
      "sled",
      "shield",
      "hoop",
      "landmark",
      "jogs",
      "hands over",
      "runs",
      "backs up",
      "slides",
      "drives",
      "looks",
      "8 × 5 yd a lane",
    ])
      expect(text).toContain(word);
  });
  it("keeps everything inside the picture, wherever it stands", () => {
    for (const [x, y] of [
      [-10, -10],
      [18, 15],
      [0, 0],
      [-5, 9],
    ] as const) {
      const markup = draw(
        <Drawing drill={{ ...drill, setup: { things: [{ is: "worker", at: [x, y] }], ways: [] } }} />,
      );
      const [, width, height] = /viewBox="0 0 ([\d.]+) ([\d.]+)"/.exec(markup)!.map(Number);
      for (const [, px, py] of markup.matchAll(/translate\((-?[\d.]+) (-?[\d.]+)\)/g)) {
        expect(Number(px)).toBeGreaterThan(0);
        expect(Number(px)).toBeLessThan(width!);
        expect(Number(py)).toBeGreaterThan(0);
        expect(Number(py)).toBeLessThan(height!);
      }
    }
  });
  it("draws a slide that goes nowhere", () => {
    const still: typeof drill = {
      ...drill,
      setup: {
        things: [],
        ways: [
          {
            is: "slide",
            points: [
              [1, 1],
              [1, 1],
            ],
          },
        ],
      },
    };
    expect(draw(<Drawing drill={still} />)).not.toContain("NaN");
  });
});

describe("the board", () => {
  const player = (id: string, jersey: string, last_name: string): Schemas["Player"] => ({
    id,
    jersey,
    first_name: "",
    last_name,
    position: "C",
    status: "available",
    note: "",
    returning: false,
  });
  const standing = (
    player_id: string,
    at: number,
    advice: Schemas["BoardPlayer"]["advice"],
    more: Partial<Schemas["BoardPlayer"]> = {},
  ): Schemas["BoardPlayer"] => ({
    player_id,
    at,
    advice,
    needs: [],
    head_left: 0,
    reps: 3,
    recent_clean: 2,
    recent_reps: 3,
    window: 10,
    clean: 8,
    overexposed: [],
    ...more,
  });
  const ladder: Schemas["BoardLadder"] = {
    key: "l",
    name: "Base block",
    technique: "base_block",
    stages: library.ladders[0]!.stages,
    group_stage: 1,
    reps: 9,
    planned: "",
    players: [
      standing("a", 0, "behind"),
      standing("b", 1, "stay", {
        override: {
          id: "o",
          stage: "fit",
          stage_name: "Stage fit",
          reason: "spring",
          by: "R. Kell",
          on: "2026-10-13",
        },
      }),
      standing("c", 3, "done"),
      standing("d", 0, "absent"),
    ],
  };
  const board: Schemas["Board"] = {
    editable: true,
    ladders: [ladder],
    players: [
      player("a", "58", "Oduya"),
      player("b", "64", "Sato"),
      player("c", "52", "Ilvar"),
      player("d", "66", "Quill"),
    ],
  };
  it("puts every player into the column of his stage, and the finished behind the last", () => {
    const markup = draw(<OnLadder board={board} ladder={ladder} />);
    const columns = markup.split("<ul").slice(1).map(textOf);
    expect(columns).toHaveLength(4);
    expect(columns[0]).toContain("58 Oduya");
    expect(columns[0]).toContain("66 Quill");
    expect(columns[1]).toContain("64 Sato");
    expect(columns[1]).toContain("✎");
    expect(columns[3]).toContain("52 Ilvar");
  });
  it("says what each shape means, and only those that stand there", () => {
    const text = textOf(draw(<OnLadder board={board} ladder={ladder} />));
    expect(text).toContain("△ behind the group");
    expect(text).toContain("passed on a coach's word");
    expect(text).not.toContain("step back");
  });
  it("has a word and a shape for every advice", () => {
    expect(new Set(advices.map((c) => c.shape)).size).toBe(advices.length);
    for (const c of advices) expect(c.word).not.toBe("");
  });
});

describe("finding", () => {
  const hit = (more: Partial<Schemas["Hit"]>): Schemas["Hit"] => ({
    kind: "technique",
    key: "k",
    name: "K",
    technique: "t",
    technique_name: "T",
    mine: true,
    says: "",
    use: { practices: 0, marks: 0, recent: [] },
    ladders: [],
    ...more,
  });
  it("goes where the thing is shown", () => {
    expect(place("/g", hit({}))).toBe("/g/teaching?technique=t");
    expect(place("/g", hit({ kind: "fault", mine: false }))).toBe("/g/teaching/edit/fault/k");
    expect(place("/g", hit({ kind: "drill" }))).toBe("/g/teaching/drills/k");
    expect(place("/g", hit({ kind: "ladder" }))).toBe("/g/teaching/ladders?ladder=k");
    expect(place("/g", hit({ kind: "ladder", mine: false }))).toBe("/g/teaching/edit/ladder/k");
    expect(place("/g", hit({ kind: "question" }))).toBe("/g/teaching/schools#k");
  });
  it("says where it is used", () => {
    expect(used(hit({}))).toBe("");
    const recent = ["2026-10-06", "2026-09-29", "2026-09-22"].map((date) => ({ id: date, date }));
    const use = (n: number) => ({ practices: n, marks: 1, recent: recent.slice(0, n) });
    expect(used(hit({ use: use(1), ladders: ["A"] }))).toBe("in 1 practice: 6 Oct · 1 mark · ladder A");
    expect(used(hit({ use: use(2) }))).toBe("in 2 practices: 6 Oct and 29 Sep · 1 mark");
    expect(used(hit({ use: use(3) }))).toBe("in 3 practices, last 6 Oct and 29 Sep · 1 mark");
    expect(used(hit({ ladders: ["A", "B", "C"] }))).toBe("on 3 ladders");
  });
});

describe("two versions", () => {
  it("stand side by side in words", () => {
    const text = textOf(
      draw(<SideBySide left="Ours" right="Theirs" rows={[["works_on", ["a", "b"], undefined]]} />),
    );
    expect(text).toBe("Field Ours Theirs works on a, b –");
  });
});

describe("how a rep is judged", () => {
  const scheme: Schemas["Scheme"] = {
    version: 2,
    facets: [
      { key: "assignment", name: "Assignment", weight: 1, clean: true },
      { key: "technique", name: "Technique", weight: 0, clean: false },
      { key: "finish", name: "Finish", weight: 0.5, clean: false },
    ],
    kind: "facets",
    max: 0,
    clean_at: 0,
    by_result: false,
    switching: [
      { made: "points", by: "facets", says: "Marks that have one grade count as clean or not." },
      { made: "facets", by: "points", says: "Marks made by facets have all or none." },
    ],
    groups: [],
    editable: true,
    marks: 21946,
    judged: 21946,
    by: "M. Orrin",
    on: "2026-10-13",
  };
  const said = (more: Partial<Schemas["Scheme"]>) =>
    draw(<MarkScheme />, [{ queryKey: queries.scheme().queryKey, data: { ...scheme, ...more } }]);
  it("says who chose it, and what each facet counts", () => {
    const text = textOf(said({}));
    expect(text).toContain("Version 2, by M. Orrin, 13 Oct.");
    expect(text).toContain("Technique counts: nothing");
    expect(text).not.toContain("judged anew");
    expect(textOf(said({ version: 0 }))).toContain("As shipped.");
  });
  it("judges by points, and lets a group have a way of its own", () => {
    const { facets } = scheme;
    const own = { group: "ol", name: "Offensive line", own: true, by_result: false, facets };
    const text = textOf(
      said({
        kind: "points",
        max: 4,
        clean_at: 3,
        groups: [{ ...own, kind: "plus_minus", max: 0, clean_at: 0 }],
      }),
    );
    expect(text).toContain("all points, less what its faults weigh");
    expect(text).toContain("Offensive line");
    expect(text).toContain("A rep is plus until");
    expect(text).toContain("Marks made by facets have all or none.");
    expect(text).not.toContain("Marks that have one grade count as clean or not.");
  });
  it("shows how far the marks are judged anew", () => {
    const markup = said({ judged: 5000 });
    expect(textOf(markup)).toContain("5,000 of 21,946 marks are judged anew.");
    expect(markup).toContain('aria-valuenow="5000"');
  });
  it("leaves it to the head coach", () => {
    const text = textOf(said({ editable: false }));
    expect(text).toContain("The head coach decides this.");
    expect(text).not.toContain("Judge by this");
  });
});
