import { useState } from "react";
import { v7 as uuid } from "uuid";
import { Problem } from "./client";

/** What a change carries that is sent past the shelf: what only works with a line, such as who may come in. */
export const once = () => ({ "Change-Id": uuid() });

interface Refusal {
  message: string;
  field?: string;
}

/** Sends something by hand: whether it is on its way, and what was said of it. */
export function useSending() {
  const [busy, setBusy] = useState(false);
  const [refused, setRefused] = useState<Refusal>();
  return {
    busy,
    refused,
    clear: () => setRefused(undefined),
    /** Runs it; undefined where it was refused. */
    run: async <A>(call: () => Promise<A>): Promise<{ answer: A } | undefined> => {
      setBusy(true);
      setRefused(undefined);
      try {
        return { answer: await call() };
      } catch (e) {
        setRefused({
          message: e instanceof Error ? e.message : "That did not work",
          field: e instanceof Problem ? e.field : undefined,
        });
        return undefined;
      } finally {
        setBusy(false);
      }
    },
  };
}
