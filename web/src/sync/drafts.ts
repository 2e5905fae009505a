import { useCallback, useEffect, useRef, useState } from "react";
import { useSync } from "./context";

const pause = 300; // ms between the last key and its keeping

export interface HalfTyped<T> {
  /** What was typed and not saved when the form was left, for the coach to take up or let go. */
  offered?: { content: T; at: Date; stale: boolean };
  /** Keeps what is typed now. */
  keep: (content: T) => void;
  /** It is saved, or let go: nothing is kept any longer. */
  drop: () => void;
}

/**
 * What is half typed in a form, kept on the device until it is saved or let go. `base` says what it is typed over;
 * a draft over something else is offered with a word of warning.
 */
export function useDraft<T>(key: string, base: string): HalfTyped<T> {
  const { drafts } = useSync();
  const [offered, setOffered] = useState<HalfTyped<T>["offered"]>();
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const waiting = useRef<{ content: T } | undefined>(undefined);
  const flush = useCallback(() => {
    clearTimeout(timer.current);
    if (waiting.current) drafts.put(key, waiting.current.content, base);
    waiting.current = undefined;
  }, [drafts, key, base]);
  useEffect(() => {
    let here = true;
    void drafts.get(key).then((d) => {
      // What is being typed already is newer than what was left.
      if (here && d && !waiting.current)
        setOffered({ content: d.content as T, at: new Date(d.at), stale: d.base !== base });
    });
    return () => {
      here = false;
    };
    // A new base while the form is open is a conflict, which is shown as one.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [drafts, key]);
  // A tab that goes has kept the last key too.
  useEffect(() => {
    window.addEventListener("pagehide", flush);
    return () => {
      window.removeEventListener("pagehide", flush);
      flush();
    };
  }, [flush]);
  const keep = useCallback(
    (content: T) => {
      waiting.current = { content };
      setOffered(undefined);
      clearTimeout(timer.current);
      timer.current = setTimeout(flush, pause);
    },
    [flush],
  );
  const drop = useCallback(() => {
    clearTimeout(timer.current);
    waiting.current = undefined;
    setOffered(undefined);
    drafts.drop(key);
  }, [drafts, key]);
  return { offered, keep, drop };
}
