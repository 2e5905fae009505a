import { useCallback, useEffect, useMemo, useRef } from "react";
import { useLocation } from "react-router";
import type { Schemas } from "@/api/client";
import { weekdayDate } from "@/parts/words";
import { useSync } from "@/sync/context";
import { contentOf, type Trouble } from "@/sync/machine";
import { useRecords } from "@/sync/react";
import { useUndo } from "@/sync/undo";
import { alike, scriptOf, type Period, type Script } from "./periods";

/** A period that is not saved, and why. */
export interface Unsaved {
  id: string;
  mine: Period | null;
  trouble: Trouble;
}

export interface Editing {
  script: Script;
  /** Makes the script this; one step of undo. */
  change: (next: Script) => void;
  undo: () => void;
  redo: () => void;
  canUndo: boolean;
  canRedo: boolean;
  unsaved: Unsaved[];
  /** At a conflict: mine over theirs. */
  keepMine: (u: Unsaved) => void;
  takeTheirs: (u: Unsaved) => void;
}

/**
 * The script of a practice: what waits to be saved over what the server has, period by period, so that two who
 * change different periods never meet.
 */
export function useScript(practice: Schemas["Practice"]): Editing {
  const { engine } = useSync();
  const { pathname } = useLocation();
  const records = useRecords();
  const { id: practiceId, title, date } = practice.practice;
  const prefix = `block/${practiceId}/`;
  const server = useMemo(() => scriptOf(practice.periods), [practice.periods]);
  const { script, unsaved } = useMemo(() => {
    const script = new Map(server);
    const unsaved: Unsaved[] = [];
    for (const [key, rec] of records) {
      if (!key.startsWith(prefix)) continue;
      const id = key.slice(prefix.length);
      const content = contentOf(rec) as Period | null;
      if (content) script.set(id, content);
      else script.delete(id);
      if (rec.trouble) unsaved.push({ id, mine: content, trouble: rec.trouble });
    }
    return { script: script as Script, unsaved };
  }, [server, records, prefix]);

  const latest = useRef(script);
  const known = useRef(practice.periods);
  // The drills of what was taken out: put back, it has them again.
  const dropped = useRef(new Map<string, Schemas["PlacementInput"][]>());
  useEffect(() => {
    latest.current = script;
    known.current = practice.periods;
  });
  const put = useCallback(
    (next: Script) => {
      const was = latest.current;
      const ids = new Set([...was.keys(), ...next.keys()]);
      const edits = [...ids]
        .filter((id) => !alike(was.get(id), next.get(id)))
        .map((id) => {
          const there = known.current.find((p) => p.id === id);
          const now = next.get(id);
          if (!now && there)
            dropped.current.set(
              id,
              there.placements.map(({ id, drill, technique, start, minutes, lanes }) => ({
                id,
                drill,
                technique,
                start,
                minutes,
                lanes,
              })),
            );
          const placements = dropped.current.get(id);
          return {
            key: prefix + id,
            kind: "block",
            content: now ? { ...now, placements: placements?.length ? placements : undefined } : null,
            base: String(there?.version ?? 0),
            about: {
              says: `${(now ?? was.get(id))?.name}, ${title} of ${weekdayDate(date)}`,
              href: pathname,
            },
          };
        });
      latest.current = next;
      if (edits.length > 0) engine.edit(edits);
    },
    [engine, prefix, title, date, pathname],
  );
  const steps = useUndo(put);
  const { record } = steps;
  const change = useCallback(
    (next: Script) => {
      record(latest.current, next);
      put(next);
    },
    [put, record],
  );
  return {
    script,
    change,
    undo: steps.undo,
    redo: steps.redo,
    canUndo: steps.canUndo,
    canRedo: steps.canRedo,
    unsaved,
    keepMine: (u) => void engine.settle(prefix + u.id, u.mine),
    takeTheirs: (u) => {
      steps.forget();
      engine.drop(prefix + u.id);
    },
  };
}
