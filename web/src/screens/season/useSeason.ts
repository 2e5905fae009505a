import { useCallback, useEffect, useMemo, useRef } from "react";
import { useLocation } from "react-router";
import type { Schemas } from "@/api/client";
import { weekdayDate } from "@/parts/words";
import { useSync } from "@/sync/context";
import { contentOf, type Trouble } from "@/sync/machine";
import { useRecords } from "@/sync/react";
import { useUndo } from "@/sync/undo";
import { alike, calendarOf, type Calendar, type Entry } from "./days";

/** An entry that is not saved, and why. */
export interface Unsaved {
  key: string;
  mine: Entry["of"] | null;
  trouble: Trouble;
}

export interface Season {
  calendar: Calendar;
  /** Makes the calendar this; one step of undo. */
  change: (next: Calendar) => void;
  undo: () => void;
  redo: () => void;
  canUndo: boolean;
  canRedo: boolean;
  /** What was done cannot be taken back. */
  forget: () => void;
  unsaved: Unsaved[];
  keepMine: (u: Unsaved) => void;
  takeTheirs: (u: Unsaved) => void;
}

const called = (e: Entry) => (e.is === "practice" ? e.of.title : `Game against ${e.of.opponent}`);

/** The calendar of the season: what waits to be saved over what the server has, entry by entry. */
export function useSeason(season: Schemas["Season"]): Season {
  const { engine } = useSync();
  const { pathname } = useLocation();
  const records = useRecords();
  const server = useMemo(() => calendarOf(season), [season]);
  const { calendar, unsaved } = useMemo(() => {
    const calendar = new Map(server);
    const unsaved: Unsaved[] = [];
    for (const [key, rec] of records) {
      const [is, id = ""] = key.split("/");
      if (is !== "practice" && is !== "game") continue;
      const content = contentOf(rec) as Entry["of"] | null;
      if (content) calendar.set(id, { is, of: content } as Entry);
      else calendar.delete(id);
      if (rec.trouble) unsaved.push({ key, mine: content, trouble: rec.trouble });
    }
    return { calendar: calendar as Calendar, unsaved };
  }, [server, records]);
  const latest = useRef(calendar);
  const versions = useRef(new Map<string, number>());
  useEffect(() => {
    latest.current = calendar;
    versions.current = new Map([...season.practices, ...season.games].map((x) => [x.id, x.version]));
  });
  const put = useCallback(
    (next: Calendar) => {
      const was = latest.current;
      const edits = [...new Set([...was.keys(), ...next.keys()])]
        .filter((id) => !alike(was.get(id), next.get(id)))
        .map((id) => {
          const e = (next.get(id) ?? was.get(id))!;
          return {
            key: `${e.is}/${id}`,
            kind: e.is,
            content: next.get(id)?.of ?? null,
            base: String(versions.current.get(id) ?? 0),
            about: { says: `${called(e)}, ${weekdayDate(e.of.date)}`, href: pathname },
          };
        });
      latest.current = next;
      if (edits.length > 0) engine.edit(edits);
    },
    [engine, pathname],
  );
  const steps = useUndo(put);
  const { record } = steps;
  const change = useCallback(
    (next: Calendar) => {
      record(latest.current, next);
      put(next);
    },
    [put, record],
  );
  return {
    calendar,
    change,
    undo: steps.undo,
    redo: steps.redo,
    canUndo: steps.canUndo,
    canRedo: steps.canRedo,
    forget: steps.forget,
    unsaved,
    keepMine: (u) => void engine.settle(u.key, u.mine),
    takeTheirs: (u) => {
      steps.forget();
      engine.drop(u.key);
    },
  };
}
