import { describe, expect, it } from "vitest";
import type { Schemas } from "@/api/client";
import { draw, textOf } from "@/parts/draw.test-util";
import { Measuring } from "./Measuring";
import { asked } from "./rows";
import { Panel } from "./Panel";
import { Score } from "./Score";
import { looked, sideOf, words } from "./cell";
import { cellKey, type CellMark } from "./useMarking";

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
const measure: Schemas["Measure"] = {
  unit: "in",
  target: 7,
  ok: [5, 10],
  watch: [3, 13],
  read: "line",
};

const sheet: Schemas["MarkSheet"] = {
  placement_id: "p",
  practice_id: "q",
  drill: "Two steps",
  technique: "base_block",
  technique_name: "Base block",
  date: "2026-10-13",
  planned_reps: 3,
  sides: 2,
  players: [player("a", "52", "Ilvar"), player("b", "64", "Sato")],
  faults: [{ key: "long", name: "First step too long", safety: false, severity: 2 }],
  measures: [
    {
      checkpoint: "first",
      name: "First step",
      technique: "base_block",
      technique_name: "Base block",
      measure,
    },
  ],
  own: [{ player_id: "b", checkpoint: "first", measure: { ...measure, ok: [5, 12] } }],
  marks: [],
  judged: { kind: "facets", of: 0, clean_at: 0 },
};

const cell = (more: Partial<CellMark>): CellMark => ({
  id: "m",
  player_id: "a",
  rep: 1,
  state: "looked",
  faults: [],
  ...more,
});

describe("sides", () => {
  it("take turns, and can be swapped", () => {
    expect([1, 2, 3].map((r) => sideOf(r, false))).toEqual(["left", "right", "left"]);
    expect([1, 2, 3].map((r) => sideOf(r, true))).toEqual(["right", "left", "right"]);
    const shown = (cards: number) => [1, 2, 3, 4, 5, 6, 7, 8].map((r) => sideOf(r, false, cards)[0]).join("");
    expect(shown(4)).toBe("lrlrrlrl"); // the second time each card is shown to the other side
    expect(shown(3)).toBe("lrlrlrlr"); // which an odd number does by itself
  });
});

describe("a measured rep", () => {
  it("keeps what was measured when something is added to it", () => {
    const now = cell({ measures: [{ checkpoint: "first", value: 12 }] });
    expect(looked(now, "a", 1).measures).toEqual([{ checkpoint: "first", value: 12 }]);
    expect(words(now, (k) => k)).toBe("measured 12");
  });
  it("is judged by the player's own range where he has one", () => {
    const house = textOf(
      draw(<Measuring sheet={sheet} player={sheet.players[0]!} onDone={() => undefined} />),
    );
    expect(house).toContain("OK 5–10");
    expect(house).not.toContain("his own range");
    const own = textOf(draw(<Measuring sheet={sheet} player={sheet.players[1]!} onDone={() => undefined} />));
    expect(own).toContain("OK 5–12");
    expect(own).toContain("his own range");
  });
  it("is held against what the call asks with so many yards to go", () => {
    const free = {
      call: "free",
      value: 12,
      longer: [
        { to_go: 15, value: 13 },
        { to_go: 20, value: 14 },
      ],
    };
    expect([undefined, 10, 14, 15, 19, 22].map((toGo) => asked(free, toGo))).toEqual([
      12, 12, 12, 13, 13, 14,
    ]);
    expect(asked({ call: "press", value: 1 }, 30)).toBe(1);
    const long = { ...sheet, measures: [{ ...sheet.measures[0]!, rows: [free] }] };
    const text = (toGo?: number) =>
      textOf(
        draw(
          <Measuring
            sheet={long}
            player={sheet.players[0]!}
            call="Free, rotate late"
            toGo={toGo}
            onDone={() => undefined}
          />,
        ),
      );
    expect(text()).toContain("free: 12 in");
    expect(text(17)).toContain("free: 13 in");
  });
  it("is not asked where nothing can be measured", () => {
    expect(
      draw(
        <Measuring sheet={{ ...sheet, measures: [] }} player={sheet.players[0]!} onDone={() => undefined} />,
      ),
    ).toBe("");
  });
});

describe("the score", () => {
  const cells = new Map([
    [cellKey("a", 1), cell({ faults: [{ key: "long" }] })],
    [cellKey("a", 2), cell({ id: "n", rep: 2, state: "assumed" })],
    [cellKey("b", 1), cell({ id: "o", player_id: "b", praise: true })],
    [cellKey("b", 2), cell({ id: "x", player_id: "b", rep: 2, state: "unsettled" })],
  ]);
  const markup = draw(
    <Score
      sheet={sheet}
      cells={cells}
      waiting={new Set(["n"])}
      refused={new Set(["x"])}
      rep={1}
      row={0}
      columns={3}
      onChoose={() => undefined}
    />,
  );
  it("says every rep in words", () => {
    expect(markup).toContain("52 Ilvar, rep 1: First step too long");
    expect(markup).toContain("52 Ilvar, rep 2: assumed clean");
    expect(markup).toContain("64 Sato, rep 1: praised");
    expect(markup).toContain("64 Sato, rep 2: open question");
    expect(markup).toContain("64 Sato, rep 3: not marked");
  });
  it("shows what is not saved yet", () => {
    expect(markup.match(/, not saved yet"/g)).toHaveLength(1);
    expect(markup.match(/, could not be saved"/g)).toHaveLength(1);
  });
});

describe("the panel", () => {
  const nothing = () => undefined;
  it("names the side, the faults and the keys", () => {
    const text = textOf(
      draw(
        <Panel
          sheet={sheet}
          player={sheet.players[0]!}
          rep={2}
          marks={0}
          usual={[{ technique_key: sheet.technique, faults: ["no_fault"] }]}
          noting={false}
          side="right"
          onFault={nothing}
          onFacet={nothing}
          onGrade={nothing}
          onFlag={nothing}
          onResult={nothing}
          onEffort={nothing}
          onExchange={nothing}
          onWrongCall={nothing}
          onClean={nothing}
          onPraise={nothing}
          onSwap={nothing}
          onAsk={nothing}
          onState={nothing}
          onMoveOn={nothing}
          onUndo={nothing}
          onNote={nothing}
        />,
      ),
    );
    for (const part of [
      "right ▶",
      "First step too long",
      "Measure",
      "Other side",
      "Next rep",
      "Wrong assignment",
    ])
      expect(text).toContain(part);
  });
});
