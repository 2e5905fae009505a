import type { Schemas } from "@/api/client";
import type { CellMark } from "@/screens/marks/useMarking";

type Sheet = Schemas["GameSheet"];

/** What stands of a player on a play: a mark of one technique. */
export interface Graded {
  technique: string;
  mark: CellMark;
}
export type Cells = ReadonlyMap<string, Graded>;

const names = new Map<string, Map<string, string>>();

/** The key of a cell. Each is made once: a score asks for thousands of them with every key that is pressed. */
export function cellOf(player: string, play: string): string {
  let of = names.get(player);
  if (!of) {
    if (names.size > 500) names.clear();
    of = new Map();
    names.set(player, of);
  }
  let name = of.get(play);
  if (name === undefined) {
    name = `${player}:${play}`;
    of.set(play, name);
  }
  return name;
}

/**
 * What a player does on a play: what is marked, else what the call asks, else what he did on the play before
 * on which he is marked, else what the group does most.
 */
export function techniqueOn(sheet: Sheet, cells: Cells, player: string, at: number): string | undefined {
  const play = sheet.plays[at];
  if (!play) return undefined;
  const marked = cells.get(cellOf(player, play.id))?.technique;
  if (marked) return marked;
  if (play.technique && sheet.techniques.some((t) => t.key === play.technique)) return play.technique;
  for (let i = at - 1; i >= 0; i--) {
    const before = cells.get(cellOf(player, sheet.plays[i]!.id))?.technique;
    if (before) return before;
  }
  return sheet.techniques[0]?.key;
}

/** Changes of who is on the field, from a play on: by play, who comes in and who goes out. */
export type Changes = ReadonlyMap<number, ReadonlyMap<string, boolean>>;

/**
 * Who is on the field on a play: as on the play before, with the changes that were said and whoever is marked on
 * it. Where the coach has moved on, it is those who are marked. Before anything is marked it is those of the first
 * play that is, else who the coach has at the top.
 */
export function onField(
  sheet: Sheet,
  cells: Cells,
  changes: Changes,
  first: ReadonlySet<string>,
  at: number,
): ReadonlySet<string> {
  const marked = (i: number) =>
    sheet.players.flatMap((p) => cells.get(cellOf(p.id, sheet.plays[i]!.id))?.mark ?? []);
  const past = (list: CellMark[], there: ReadonlySet<string>) =>
    list.some((m) => m.state === "assumed") || (list.length > 0 && list.length >= there.size);
  let there = new Set(first);
  const begins = sheet.plays.findIndex((_, i) => past(marked(i), there));
  if (begins >= 0) there = new Set(marked(begins).map((m) => m.player_id));
  for (let i = 0; i <= at; i++) {
    for (const [id, inside] of changes.get(i) ?? [])
      if (inside) there.add(id);
      else there.delete(id);
    const on = marked(i);
    if (past(on, there)) there = new Set(on.map((m) => m.player_id));
    else for (const m of on) there.add(m.player_id);
  }
  return there;
}

/** Whether anybody is marked on a play. */
export const markedOn = (sheet: Sheet, cells: Cells, play: string) =>
  sheet.players.some((p) => cells.has(cellOf(p.id, play)));

/** The first play from one on that nobody is marked on; -1 when there is none. */
export const nextOpen = (sheet: Sheet, cells: Cells, from: number) =>
  sheet.plays.findIndex((p, i) => i >= from && !markedOn(sheet, cells, p.id));

/** A play, or a player on it. */
export interface Place {
  at: number;
  row?: number;
}

/** What is left of a game, in the order of its plays. */
export interface Left {
  unmarked: Place[];
  open: Place[];
  unseen: Place[];
}

export function leftOf(sheet: Sheet, cells: Cells): Left {
  const left: Left = { unmarked: [], open: [], unseen: [] };
  sheet.plays.forEach((play, at) => {
    sheet.players.forEach((p, row) => {
      const m = cells.get(cellOf(p.id, play.id))?.mark;
      if (m?.state === "unsettled") left.open.push({ at, row });
      if (m?.state === "unseen") left.unseen.push({ at, row });
    });
    if (!markedOn(sheet, cells, play.id)) left.unmarked.push({ at });
  });
  return left;
}

/** What is left to do in a game, counted. */
export interface Totals {
  plays: number;
  graded: number;
  assumed: number;
  unseen: number;
  open: number;
}

export function totals(sheet: Sheet, cells: Cells): Totals {
  const out: Totals = { plays: sheet.plays.length, graded: 0, assumed: 0, unseen: 0, open: 0 };
  const plays = new Set<string>();
  for (const [key, { mark }] of cells) {
    plays.add(key.slice(key.indexOf(":") + 1));
    if (mark.state === "assumed") out.assumed++;
    if (mark.state === "unseen") out.unseen++;
    if (mark.state === "unsettled") out.open++;
  }
  out.graded = sheet.plays.filter((p) => plays.has(p.id)).length;
  return out;
}

/** Those at the top of the line-up first, spot by spot, then those behind them, then the rest. */
export function inOrder(players: Schemas["Player"][], lineUp?: Schemas["LineUp"]) {
  const rank = new Map<string, number>();
  for (const [i, spot] of (lineUp?.spots ?? []).entries())
    for (const [j, p] of spot.players.entries())
      rank.set(p.player_id, Math.min(100 * j + i, rank.get(p.player_id) ?? Infinity));
  const of = (p: Schemas["Player"]) => rank.get(p.id) ?? Infinity;
  return players.toSorted((a, b) => (of(a) === of(b) ? 0 : of(a) - of(b)));
}

/** Cut-ups that any game has, and those of the fronts it was played against. */
export function worthALook(plays: Sheet["plays"]): string[] {
  const fronts = [...new Set(plays.map((p) => p.play.front).filter(Boolean))].slice(0, 3);
  return [
    "third and long",
    "gain <0",
    "fault",
    "praise",
    "open",
    "unseen",
    "right but lost",
    "wrong but won",
    ...fronts.map((f) => `${f.toLowerCase()} front`),
  ];
}

/** A sheet of one technique, for what marking a rep and marking a play have in common. */
export const sheetOf = (s: Schemas["GameSheet"], t: Schemas["SheetTechnique"]): Schemas["MarkSheet"] => ({
  placement_id: s.game_id,
  practice_id: s.game_id,
  drill: s.opponent,
  technique: t.key,
  technique_name: t.name,
  date: s.date,
  planned_reps: s.plays.length,
  sides: 1,
  players: s.players,
  faults: t.faults,
  measures: t.measures,
  decided: t.decided,
  own: s.own,
  judged: s.judged,
  marks: [],
});
