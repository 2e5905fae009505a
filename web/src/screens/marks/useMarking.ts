import { useCallback, useMemo } from "react";
import { useLocation } from "react-router";
import type { Schemas } from "@/api/client";
import { markKey } from "@/sync/kinds";
import { contentOf } from "@/sync/machine";
import { useRecords } from "@/sync/react";
import { useSync } from "@/sync/context";
import { useUndo } from "@/sync/undo";
import { join, split } from "./shown";

type MarkInput = Schemas["MarkInput"];

/** What stands in one cell of the score: a player's rep. */
export type CellMark = Omit<MarkInput, "placement_id" | "play_id" | "made_at" | "on" | "rep"> & {
  rep: number;
  /** Of a grade, from which on it is clean; known here, and not sent. */
  grade_clean?: number;
};
type Body = Omit<CellMark, "id">;

export const cellKey = (player: string, rep: number) => `${player}:${rep}`;

export interface Marking {
  cells: Map<string, CellMark>;
  /** Ids of the marks that are not with the server yet. */
  waiting: ReadonlySet<string>;
  /** Ids of the marks that the server does not take. */
  refused: ReadonlySet<string>;
  /** Writes what now stands in some cells, as one step that undo takes back. */
  write: (next: Body[]) => void;
  undo: () => Body | undefined;
  redo: () => Body | undefined;
  canUndo: boolean;
  canRedo: boolean;
}

const withdrawn = ({ player_id, rep, technique_key }: Body): Body => ({
  player_id,
  rep,
  technique_key,
  state: "withdrawn",
});

/** The marks of a placed drill: what the server has, with what waits on this device over it. */
export function useMarking(sheet: Schemas["MarkSheet"]): Marking {
  const { engine } = useSync();
  const records = useRecords();
  const { pathname } = useLocation();
  const placement = sheet.placement_id;

  const each = sheet.shows === "each";
  // Of a rep that shows several techniques there is a mark of each; of any other there is one.
  const partOf = useCallback(
    (m: Body) =>
      each && m.technique_key !== undefined && m.technique_key !== sheet.technique ? m.technique_key : "",
    [each, sheet.technique],
  );
  const server = useMemo(() => {
    const map = new Map<string, Map<string, CellMark>>();
    for (const m of sheet.marks) {
      const cell = fromServer(m);
      const key = cellKey(m.player_id, m.rep);
      const parts = map.get(key) ?? new Map<string, CellMark>();
      map.set(key, parts.set(partOf(cell), cell));
    }
    return map;
  }, [sheet.marks, partOf]);

  const { cells, waiting, refused } = useMemo(() => {
    const all = new Map([...server].map(([key, parts]) => [key, new Map(parts)]));
    const waits = new Set<string>();
    const no = new Set<string>();
    const ours = `mark/${placement}/`;
    for (const [key, rec] of records) {
      if (!key.startsWith(ours)) continue;
      const m = contentOf(rec) as Body;
      const { id } = rec.next ?? rec.head;
      (rec.trouble ? no : waits).add(id);
      const at = cellKey(m.player_id, m.rep);
      const parts = all.get(at) ?? new Map<string, CellMark>();
      if (m.state === "withdrawn" && !rec.trouble) parts.delete(partOf(m));
      else parts.set(partOf(m), { ...m, id });
      all.set(at, parts);
    }
    const joined = new Map<string, CellMark>();
    for (const [key, parts] of all) {
      const cell = join(sheet, [...parts.values()]);
      if (cell) joined.set(key, cell);
    }
    return { cells: joined, waiting: waits, refused: no };
  }, [server, records, placement, partOf, sheet]);

  const put = useCallback(
    (list: Body[]) => {
      engine.edit(
        list
          .flatMap((m) => split(sheet, m))
          .map((m) => {
            const p = sheet.players.find((x) => x.id === m.player_id);
            const part = partOf(m);
            const key = markKey(placement, m.player_id, m.rep);
            return {
              key: part === "" ? key : `${key}/${part}`,
              kind: "mark",
              content: { ...m, id: undefined, grade_clean: undefined, placement_id: placement },
              base: server.get(cellKey(m.player_id, m.rep))?.get(part)?.id ?? "",
              about: { says: `${p?.jersey} ${p?.last_name}, rep ${m.rep} of ${sheet.drill}`, href: pathname },
            };
          }),
      );
    },
    [engine, placement, server, sheet, partOf, pathname],
  );
  const steps = useUndo(put);
  const { record } = steps;
  const write = useCallback(
    (next: Body[]) => {
      if (next.length === 0) return;
      record(
        next.map((m) => cells.get(cellKey(m.player_id, m.rep)) ?? withdrawn(m)),
        next,
      );
      put(next);
    },
    [cells, put, record],
  );
  return {
    cells,
    waiting,
    refused,
    write,
    undo: () => steps.undo()?.[0],
    redo: () => steps.redo()?.[0],
    canUndo: steps.canUndo,
    canRedo: steps.canRedo,
  };
}

const read = new WeakMap<Schemas["Mark"], CellMark>();

/** A mark as its cell takes it: the same one for the same mark, so that only what changed is painted again. */
export function fromServer(m: Schemas["Mark"]): CellMark {
  const known = read.get(m);
  if (known) return known;
  const cell: CellMark = {
    id: m.id,
    player_id: m.player_id,
    rep: m.rep,
    technique_key: m.technique_key,
    state: m.state,
    assignment: m.assignment,
    technique: m.technique,
    finish: m.finish,
    measures:
      m.measures.length > 0 ? m.measures.map(({ checkpoint, value }) => ({ checkpoint, value })) : undefined,
    faults: m.faults.map((f) => ({ key: f.key, caused_by: f.caused_by, penalty: f.penalty })),
    praise: m.praise,
    note: m.note,
    side: m.side === "left" || m.side === "right" ? m.side : undefined,
    result: m.result,
    tallies: m.tallies,
    asked: m.asked,
    grade: m.state === "looked" ? m.grade : undefined,
    grade_clean: m.grade_clean,
  };
  read.set(m, cell);
  return cell;
}
