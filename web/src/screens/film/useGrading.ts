import { useCallback, useMemo } from "react";
import { useLocation } from "react-router";
import type { Schemas } from "@/api/client";
import { fromServer, type CellMark } from "@/screens/marks/useMarking";
import { useSync } from "@/sync/context";
import { playMarkKey } from "@/sync/kinds";
import { contentOf } from "@/sync/machine";
import { useRecords } from "@/sync/react";
import { useUndo } from "@/sync/undo";
import { cellOf, type Cells, type Graded } from "./grading";

export type Body = Omit<CellMark, "id" | "rep">;

/** What is written into a cell: a mark of one technique, in place of one of another. */
export interface Write {
  play: string;
  technique: string;
  body: Body;
}

export interface Grading {
  cells: Cells;
  waiting: ReadonlySet<string>;
  refused: ReadonlySet<string>;
  write: (list: Write[]) => void;
  undo: () => Write | undefined;
  redo: () => Write | undefined;
  canUndo: boolean;
  canRedo: boolean;
}

const known = new WeakMap<Schemas["GameMark"], Graded>();

/** A mark as the score shows it: the same as long as the server's is, so that what did not change is not painted. */
function gradedOf(m: Schemas["GameMark"]): Graded {
  const graded = known.get(m) ?? { technique: m.technique_key, mark: fromServer(m.mark) };
  known.set(m, graded);
  return graded;
}

/** The marks of a group on the plays of a game: what the server has, with what waits on this device over it. */
export function useGrading(sheet: Schemas["GameSheet"]): Grading {
  const { engine } = useSync();
  const records = useRecords();
  const { pathname } = useLocation();
  const game = sheet.game_id;
  const number = useMemo(() => new Map(sheet.plays.map((p) => [p.id, p.play.number])), [sheet.plays]);

  const server = useMemo(() => {
    const map = new Map<string, Graded>();
    for (const m of sheet.marks) map.set(cellOf(m.mark.player_id, m.play_id), gradedOf(m));
    return map;
  }, [sheet.marks]);

  const { cells, waiting, refused } = useMemo(() => {
    const all = new Map<string, Graded>(server);
    const waits = new Set<string>();
    const no = new Set<string>();
    const ours = `mark/${game}/`;
    for (const [key, rec] of records) {
      if (!key.startsWith(ours)) continue;
      const [, , player, play, technique] = key.split("/") as [string, string, string, string, string];
      const m = contentOf(rec) as Body;
      const { id } = rec.next ?? rec.head;
      (rec.trouble ? no : waits).add(id);
      const cell = cellOf(player, play);
      if (m.state === "withdrawn") {
        if (!rec.trouble && all.get(cell)?.technique === technique) all.delete(cell);
      } else all.set(cell, { technique, mark: { ...m, id, rep: 0 } });
    }
    return { cells: all as Cells, waiting: waits, refused: no };
  }, [server, records, game]);

  const put = useCallback(
    (list: Write[]) => {
      engine.edit(
        list.map(({ play, technique, body }) => {
          const p = sheet.players.find((x) => x.id === body.player_id);
          const there = server.get(cellOf(body.player_id, play));
          return {
            key: playMarkKey(game, body.player_id, play, technique),
            kind: "mark",
            content: {
              ...body,
              id: undefined,
              rep: undefined,
              grade_clean: undefined,
              play_id: play,
              technique_key: technique,
            },
            base: there?.technique === technique ? there.mark.id : "",
            about: {
              says: `${p?.jersey} ${p?.last_name}, play ${number.get(play)} against ${sheet.opponent}`,
              href: pathname,
            },
          };
        }),
      );
    },
    [engine, game, server, sheet.players, sheet.opponent, number, pathname],
  );
  const steps = useUndo(put);
  const { record } = steps;
  const write = useCallback(
    (next: Write[]) => {
      if (next.length === 0) return;
      const before: Write[] = [];
      const after: Write[] = [];
      for (const w of next) {
        const gone: Body = { player_id: w.body.player_id, state: "withdrawn" };
        const was = cells.get(cellOf(w.body.player_id, w.play));
        // A mark of another technique gives way: first it goes, then the new one comes; and back the same way.
        if (was && was.technique !== w.technique) {
          after.push({ play: w.play, technique: was.technique, body: gone });
          before.push({ ...w, body: gone });
          before.push({ play: w.play, technique: was.technique, body: was.mark });
        } else before.push({ ...w, body: was?.mark ?? gone });
        after.push(w);
      }
      record(before, after);
      put(after);
    },
    [cells, put, record],
  );
  return {
    cells,
    waiting,
    refused,
    write,
    undo: () => steps.undo()?.at(-1),
    redo: () => steps.redo()?.at(-1),
    canUndo: steps.canUndo,
    canRedo: steps.canRedo,
  };
}
