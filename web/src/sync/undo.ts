import { useCallback, useRef, useState } from "react";

const longest = 100;

/** What was done to something, so that it can be taken back and done again. */
export interface Undo<S> {
  /** Remembers a step: how it was, and how it is now. */
  record: (before: S, after: S) => void;
  /** Makes the last step end elsewhere: a drag that goes on, a word that is typed on. */
  amend: (after: S) => void;
  undo: () => S | undefined;
  redo: () => S | undefined;
  canUndo: boolean;
  canRedo: boolean;
  /** Forgets all steps: somebody else has changed what they were made on. */
  forget: () => void;
}

/** Undo and redo of whatever `put` puts in place. */
export function useUndo<S>(put: (state: S) => void): Undo<S> {
  const past = useRef<{ before: S; after: S }[]>([]);
  const future = useRef<{ before: S; after: S }[]>([]);
  const [can, setCan] = useState({ undo: false, redo: false });
  const told = useCallback(() => {
    setCan({ undo: past.current.length > 0, redo: future.current.length > 0 });
  }, []);
  const record = useCallback(
    (before: S, after: S) => {
      past.current = [...past.current.slice(1 - longest), { before, after }];
      future.current = [];
      told();
    },
    [told],
  );
  const amend = useCallback((after: S) => {
    const step = past.current.at(-1);
    if (step) past.current = [...past.current.slice(0, -1), { ...step, after }];
  }, []);
  const go = (from: typeof past, to: typeof past, side: "before" | "after") => {
    const step = from.current.pop();
    if (!step) return undefined;
    to.current.push(step);
    put(step[side]);
    told();
    return step[side];
  };
  const forget = useCallback(() => {
    past.current = [];
    future.current = [];
    told();
  }, [told]);
  return {
    record,
    amend,
    undo: () => go(past, future, "before"),
    redo: () => go(future, past, "after"),
    canUndo: can.undo,
    canRedo: can.redo,
    forget,
  };
}
