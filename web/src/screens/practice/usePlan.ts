import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useLocation } from "react-router";
import { api, data, type Schemas } from "@/api/client";
import { weekdayDate } from "@/parts/words";
import { useRecord } from "@/sync/react";
import { useSync } from "@/sync/context";
import { contentOf } from "@/sync/machine";
import { useUndo } from "@/sync/undo";
import { within } from "@/kit/form/shape";
import { lanesTaken, minutesTaken, placed, type Placed } from "./arrange";

/** What the coach sees when somebody else changed the period meanwhile. */
export interface Clash {
  theirs: Schemas["Period"];
  message: string;
}

export interface Plan {
  drills: Placed[];
  reps: Map<string, Schemas["Reps"]>;
  /** Changes the drills. Steps that are not remembered belong to one that will be: a drag on its way. */
  change: (drills: Placed[], remember?: boolean) => void;
  /** Takes what was put into it elsewhere as a step of its own. */
  adopt: (done: Schemas["PutIn"]) => void;
  /** Takes back what was put in; false when it is another period's. */
  putBack: (done: Schemas["PutIn"]) => boolean;
  undo: () => void;
  redo: () => void;
  canUndo: boolean;
  canRedo: boolean;
  error?: { message: string; field?: string };
  clash?: Clash;
  /** At a clash: saves these drills over theirs. */
  settle: (drills: Placed[]) => void;
  takeTheirs: () => void;
}

const strip = (p: Schemas["Period"]): Placed[] => p.placements.map(placed);

const same = (a: Placed[], b: Placed[]) => JSON.stringify(a) === JSON.stringify(b);

/**
 * A group's plan of one period: every change is shown at once and its rep arithmetic asked from the server. What is
 * shown is what waits to be saved, else what the server has: somebody else's change appears as it is saved.
 */
export function usePlan(practice: Schemas["Practice"], period: Schemas["Period"], group: string): Plan {
  const { engine } = useSync();
  const { pathname } = useLocation();
  const key = `period/${period.id}/${group}`;
  const rec = useRecord(key);
  const server = useMemo(() => strip(period), [period]);
  const drills = rec ? (contentOf(rec) as Placed[]) : server;
  const latest = useRef(drills);
  useEffect(() => {
    latest.current = drills;
  });
  const { title, date } = practice.practice;
  const put = useCallback(
    (next: Placed[]) => {
      latest.current = next;
      engine.edit([
        {
          key,
          kind: "period",
          content: next,
          base: String(period.version),
          about: { says: `${period.name}, ${title} of ${weekdayDate(date)}`, href: pathname },
        },
      ]);
    },
    [engine, key, period.version, period.name, title, date, pathname],
  );
  const steps = useUndo(put);
  const { record, amend, forget } = steps;

  // Steps were made on what stood there; they end where somebody else has changed it.
  const seen = useRef(period.version);
  useEffect(() => {
    if (period.version === seen.current) return;
    seen.current = period.version;
    if (engine.ownBase(key) !== String(period.version)) forget();
  }, [period.version, engine, key, forget]);

  const change = useCallback(
    (next: Placed[], remember = true) => {
      if (same(latest.current, next)) return;
      if (remember) record(latest.current, next);
      else amend(next);
      put(next);
    },
    [put, record, amend],
  );
  const adopt = useCallback(
    (done: Schemas["PutIn"]) => {
      if (done.period_id !== period.id) return;
      engine.own(key, String(done.version));
      record(done.before.map(placed), done.after.map(placed));
    },
    [engine, key, record, period.id],
  );
  const putBack = useCallback(
    (done: Schemas["PutIn"]) => {
      if (done.period_id !== period.id) return false;
      change(done.before.map(placed));
      return true;
    },
    [change, period.id],
  );
  const reps = useReps(practice, drills, period);
  const trouble = rec?.trouble;
  return {
    drills,
    reps,
    change,
    adopt,
    putBack,
    undo: steps.undo,
    redo: steps.redo,
    canUndo: steps.canUndo,
    canRedo: steps.canRedo,
    error: trouble?.why === "refused" ? trouble : undefined,
    clash:
      trouble?.why === "conflict"
        ? { theirs: trouble.theirs as Schemas["Period"], message: trouble.message }
        : undefined,
    settle: (next) => void engine.settle(key, next),
    takeTheirs: () => {
      forget();
      engine.drop(key);
    },
  };
}

/** The rep arithmetic of drills that may not be saved yet, asked anew as they change. */
function useReps(practice: Schemas["Practice"], drills: Placed[], period: Schemas["Period"]) {
  const [reps, setReps] = useState(() => new Map(period.placements.map((d) => [d.id, d.reps])));
  const shape = JSON.stringify(drills.map((d) => [d.id, d.drill, d.minutes, d.lanes]));
  const { players, limited } = practice;
  useEffect(() => {
    const list = (JSON.parse(shape) as [string, string, number, number][]).filter(
      ([, , minutes, lanes]) => within(minutesTaken, minutes) && within(lanesTaken, lanes),
    );
    if (list.length === 0 || players < 1) return;
    const stop = new AbortController();
    data(
      api.POST("/reps/preview", {
        body: {
          players,
          limited,
          drills: list.map(([, drill, minutes, lanes]) => ({ drill, minutes, lanes })),
        },
        signal: stop.signal,
      }),
    )
      .then((answer) => setReps(new Map(list.map(([id], i) => [id, answer[i]!]))))
      .catch(() => undefined); // an older answer stays until the next one
    return () => stop.abort();
  }, [shape, players, limited]);
  return reps;
}
