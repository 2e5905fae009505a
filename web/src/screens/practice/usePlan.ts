import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { Problem, api, data, problemFrom, type Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { setSaving } from "@/app/saving";
import type { Placed } from "./arrange";

const pause = 350; // ms between the last change and its saving

/** What the coach sees when somebody else changed the period meanwhile. */
export interface Clash {
  theirs: Schemas["Period"];
  message: string;
}

export interface Plan {
  drills: Placed[];
  reps: Map<string, Schemas["Reps"]>;
  change: (drills: Placed[], remember?: boolean) => void;
  undo: () => void;
  canUndo: boolean;
  error?: { message: string; field?: string };
  clash?: Clash;
  keepMine: () => void;
  takeTheirs: () => void;
}

const strip = (p: Schemas["Period"]): Placed[] =>
  p.placements.map(({ id, drill, technique, start, minutes, lanes }) => ({
    id,
    drill,
    technique,
    start,
    minutes,
    lanes,
  }));

const same = (a: Placed[], b: Placed[]) => JSON.stringify(a) === JSON.stringify(b);

/**
 * The plan of one period: every change is shown at once, its rep arithmetic is asked from the server, and it is
 * saved a moment after the last key. A change of somebody else is taken over unless there is one of our own that
 * is not saved; then both versions are shown.
 */
export function usePlan(practice: Schemas["Practice"], period: Schemas["Period"], group: string): Plan {
  const client = useQueryClient();
  const [drills, setDrills] = useState(() => strip(period));
  const [past, setPast] = useState<Placed[][]>([]);
  const [clash, setClash] = useState<Clash>();
  const [error, setError] = useState<Plan["error"]>();
  const version = useRef(period.version);
  const dirty = useRef(false);
  const latest = useRef(drills);
  useEffect(() => {
    latest.current = drills;
  });

  const put = useCallback(
    (saved: Schemas["Period"]) => {
      version.current = saved.version;
      client.setQueryData(queries.practice(practice.practice.id, group).queryKey, (old) =>
        old
          ? { ...old, periods: old.periods.map((p) => (p.id === saved.id ? { ...saved, own: p.own } : p)) }
          : old,
      );
      void client.invalidateQueries({ queryKey: ["today"] });
    },
    [client, practice.practice.id, group],
  );

  const save = useMutation({
    mutationFn: async (list: Placed[]) => {
      const answer = await api.PUT("/periods/{id}/placements", {
        params: { path: { id: period.id } },
        body: { version: version.current, placements: list },
      });
      if (answer.data) return answer.data;
      throw problemFrom(answer.error, answer.response.status);
    },
    retry: (n, e) => (!(e instanceof Problem) || e.passing) && n < 20,
    retryDelay: (n) => Math.min(500 * 2 ** n, 8000),
    onSuccess: (saved, sent) => {
      setError(undefined);
      put(saved);
      if (same(latest.current, sent)) dirty.current = false;
      setSaving({ waiting: dirty.current ? 1 : 0, savedAt: new Date() });
    },
    onError: (e) => {
      if (
        e instanceof Problem &&
        e.status === 409 &&
        e.body &&
        typeof e.body === "object" &&
        "current" in e.body
      ) {
        const body = e.body as Schemas["PeriodConflict"];
        setClash({ theirs: body.current, message: body.title });
        setSaving({ waiting: 1, trouble: "someone else changed it" });
        return;
      }
      setError({ message: e.message, field: e instanceof Problem ? e.field : undefined });
      setSaving({ waiting: 1, trouble: "see the plan" });
    },
  });

  // A change is saved a moment after the last one; leaving the screen saves at once.
  const { mutate } = save;
  const timer = useRef<number>(undefined);
  const change = useCallback(
    (next: Placed[], remember = true) => {
      if (same(latest.current, next)) return;
      if (remember) {
        const before = latest.current;
        setPast((p) => [...p.slice(-49), before]);
      }
      latest.current = next;
      dirty.current = true;
      setDrills(next);
      setError(undefined);
      setSaving({ waiting: 1 });
      window.clearTimeout(timer.current);
      timer.current = window.setTimeout(() => mutate(next), pause);
    },
    [mutate],
  );
  useEffect(
    () => () => {
      window.clearTimeout(timer.current);
      if (dirty.current) mutate(latest.current);
    },
    [mutate],
  );

  // Somebody else's saved change arrives with the next look at the practice.
  useEffect(() => {
    if (period.version === version.current || dirty.current) return;
    version.current = period.version;
    setDrills(strip(period));
    setPast([]);
  }, [period]);

  const reps = useReps(practice, drills, period);
  return {
    drills,
    reps,
    change,
    undo: () => {
      const before = past.at(-1);
      if (!before) return;
      setPast((p) => p.slice(0, -1));
      change(before, false);
    },
    canUndo: past.length > 0,
    error,
    clash,
    keepMine: () => {
      if (clash) version.current = clash.theirs.version;
      setClash(undefined);
      mutate(latest.current);
    },
    takeTheirs: () => {
      if (!clash) return;
      window.clearTimeout(timer.current);
      dirty.current = false;
      setDrills(strip(clash.theirs));
      put(clash.theirs);
      setPast([]);
      setClash(undefined);
      setSaving({ waiting: 0, savedAt: new Date() });
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
      ([, , minutes, lanes]) => minutes >= 1 && minutes <= 240 && lanes >= 1 && lanes <= 50,
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
