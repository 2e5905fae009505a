import type { Schemas } from "@/api/client";
import { count } from "@/parts/words";
import type { CellMark } from "./useMarking";

type Body = Omit<CellMark, "id">;

const blank = (player_id: string, rep: number): Body => ({ player_id, rep, state: "looked", faults: [] });

/** A rep that is clean because the coach moved on. */
export const assumed = (player_id: string, rep: number): Body => ({ player_id, rep, state: "assumed" });

/** The cell with a fault put in, or taken out if it stands there. */
export function toggleFault(now: CellMark | undefined, player: string, rep: number, key: string): Body {
  const faults = now?.faults ?? [];
  const has = faults.some((f) => f.key === key);
  return {
    ...looked(now, player, rep),
    faults: has ? faults.filter((f) => f.key !== key) : [...faults, { key }],
    technique: undefined, // follows from the faults
    grade: undefined,
  };
}

/** The cell with its last fault changed; what the technique is follows from the faults. */
function withLast(
  now: CellMark | undefined,
  player: string,
  rep: number,
  change: (f: NonNullable<CellMark["faults"]>[number]) => NonNullable<CellMark["faults"]>[number],
): Body {
  const faults = now?.faults ?? [];
  return {
    ...looked(now, player, rep),
    faults: faults.map((f, i) => (i === faults.length - 1 ? change(f) : f)),
    technique: undefined,
    grade: undefined,
  };
}

/** The cell with its last fault charged to the teammate who caused it; charged to him already, to the player again. */
export const charge = (now: CellMark | undefined, player: string, rep: number, teammate: string): Body =>
  withLast(now, player, rep, (f) => ({
    ...f,
    caused_by: f.caused_by === teammate ? undefined : teammate,
  }));

/** The cell with its last fault as one that drew a flag, or as one that did not. */
export const drewFlag = (now: CellMark | undefined, player: string, rep: number): Body =>
  withLast(now, player, rep, (f) => ({ ...f, penalty: f.penalty ? undefined : true }));

/** Whether something of a mark is charged to the player himself. */
export const faulty = (
  m: Pick<CellMark, "faults" | "technique" | "assignment" | "grade" | "grade_clean">,
): boolean =>
  (m.faults ?? []).some((f) => !f.caused_by) ||
  m.technique === 0 ||
  m.assignment === 0 ||
  (m.grade ?? 1) < (m.grade_clean ?? 1);

/** The cell with a facet changed from right to wrong or back. */
export function toggleFacet(
  now: CellMark | undefined,
  player: string,
  rep: number,
  facet: "assignment" | "technique" | "finish",
): Body {
  const wrong = now?.[facet] === 0;
  return { ...looked(now, player, rep), [facet]: wrong ? 1 : 0 };
}

/** The cell with its one grade a step up or down, kept on the scale; what it begins at follows from its faults. */
export function stepGrade(
  now: CellMark | undefined,
  player: string,
  rep: number,
  { of, clean_at }: Schemas["Judged"],
  by: 1 | -1,
): Body {
  const usual = (now?.faults ?? []).some((f) => !f.caused_by) ? 0 : of;
  const grade = Math.max(0, Math.min(of, (now?.grade ?? usual) + by));
  return { ...looked(now, player, rep), grade, grade_clean: clean_at };
}

/** The cell as not gradable for a reason, or looked at and clean if that is what it says already. */
export function toggleState(
  now: CellMark | undefined,
  player: string,
  rep: number,
  state: "unseen" | "unsettled",
): Body {
  if (now?.state === state) return blank(player, rep);
  return { player_id: player, rep, state, note: now?.note, side: now?.side, tallies: kept(now) };
}

/** The cell as an open question to a coach, or to nobody in particular. */
export const askedOf = (now: CellMark | undefined, player: string, rep: number, asked?: string): Body => ({
  player_id: player,
  rep,
  state: "unsettled",
  note: now?.note,
  side: now?.side,
  tallies: kept(now),
  asked,
});

/** Tallies that go with any state: a wrong call of the coach's goes with one alone. */
const kept = (now: CellMark | undefined) => now?.tallies?.filter((t) => t !== "wrong_call");

/** The cell with what became of his own duel: not said, lost, won, and round again. It is apart from how he did it. */
export const nextResult = (now: CellMark | undefined, player: string, rep: number): Body => ({
  ...looked(now, player, rep),
  result: now?.result === undefined ? 0 : now.result === 0 ? 1 : undefined,
});

type Tally = NonNullable<CellMark["tallies"]>[number];

/** Tallies of one kind follow each other, and then there is none. */
export const efforts: Tally[] = ["effort", "no_effort"];
export const exchanges: Tally[] = ["call_echoed", "call_not_echoed", "call_missing"];

/** The cell with the next tally of a kind. */
export function nextTally(now: CellMark | undefined, player: string, rep: number, kind: Tally[]): Body {
  const at = kind.findIndex((t) => now?.tallies?.includes(t));
  const next = kind[at + 1];
  const others = (now?.tallies ?? []).filter((t) => !kind.includes(t));
  const body: Body = now && now.state !== "assumed" ? { ...now, rep } : looked(now, player, rep);
  return { ...body, tallies: next ? [...others, next] : others };
}

/** The cell as one in which the coach's own call was wrong: it says nothing about the player. */
export function wrongCall(now: CellMark | undefined, player: string, rep: number): Body {
  if (now?.tallies?.includes("wrong_call")) return blank(player, rep);
  return {
    player_id: player,
    rep,
    state: "not_gradable",
    note: now?.note,
    side: now?.side,
    tallies: [...(now?.tallies ?? []), "wrong_call"],
  };
}

/** The cell as one that was looked at, with what it said. */
export function looked(now: CellMark | undefined, player: string, rep: number): Body {
  if (!now || now.state !== "looked")
    return {
      ...blank(player, rep),
      note: now?.note,
      praise: now?.praise,
      side: now?.side,
      tallies: kept(now),
    };
  const {
    player_id,
    rep: r,
    state,
    assignment,
    technique,
    finish,
    faults,
    measures,
    praise,
    note,
    side,
    result,
    tallies,
    grade,
    grade_clean,
  } = now;
  return {
    player_id,
    rep: r,
    state,
    assignment,
    technique,
    finish,
    faults,
    measures,
    praise,
    note,
    side,
    result,
    tallies,
    grade,
    grade_clean,
  };
}

/**
 * The side a rep is done on when nothing else is said: left and right in turn. With an even number of cards the turns change
 * places each time they are gone through, so that every card is shown to both sides.
 */
export const sideOf = (rep: number, swapped: boolean, cards = 1): "left" | "right" => {
  const again = cards % 2 === 0 ? Math.floor((rep - 1) / cards) : 0;
  return ((rep + again) % 2 === 1) !== swapped ? "left" : "right";
};

const state: Record<Exclude<CellMark["state"], "looked">, string> = {
  assumed: "assumed clean",
  unseen: "unseen",
  unsettled: "open question",
  not_gradable: "not gradable",
  withdrawn: "taken back",
};

const tallyWords: Record<Tally, string> = {
  effort: "effort away from the ball",
  no_effort: "no effort away from the ball",
  call_echoed: "call made and echoed",
  call_not_echoed: "call not echoed",
  call_missing: "no call made",
  wrong_call: "the coach’s own wrong call",
};

/** What a cell says in words, for the panel and for screen readers. */
export function words(cell: CellMark | undefined, name: (fault: string) => string): string {
  if (!cell) return "not marked";
  const said = (cell.tallies ?? []).map((t) => tallyWords[t]);
  if (cell.state !== "looked") return [state[cell.state], ...said].join(", ");
  const parts = (cell.faults ?? []).map((f) =>
    [name(f.key), f.caused_by && "caused by a teammate", f.penalty && "drew a flag"]
      .filter(Boolean)
      .join(", "),
  );
  if (cell.assignment === 0) parts.push("wrong assignment");
  if (cell.technique === 0 && parts.length === 0) parts.push("technique wrong");
  if (cell.finish === 0) parts.push("no finish");
  if (cell.grade !== undefined && cell.grade_clean !== undefined)
    parts.push(
      cell.grade_clean > 1 || cell.grade > 1
        ? count(cell.grade, "point")
        : cell.grade === 1
          ? "plus"
          : "minus",
    );
  for (const m of cell.measures ?? []) parts.push(`measured ${m.value}`);
  if (cell.praise) parts.push("praised");
  if (parts.length === 0) parts.push("looked at, clean");
  if (cell.result !== undefined) parts.push(cell.result === 1 ? "won" : "lost");
  parts.push(...said);
  return parts.join(", ");
}
