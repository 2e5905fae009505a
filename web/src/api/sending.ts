import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { v7 as uuid } from "uuid";
import type { Refused } from "@/kit/form/Form";
import { Problem } from "./client";
import { makeOld } from "./old";
import { madeOldBy } from "./queries";

/** What a change carries that is sent past the shelf: what only works with a line, such as who may come in. */
export const once = () => ({ "Change-Id": uuid() });

/** Sends something by hand: whether it is on its way, and what was said of it. */
export function useSending() {
  const [busy, setBusy] = useState(false);
  const [refused, setRefused] = useState<Refused>();
  return {
    busy,
    refused,
    clear: () => setRefused(undefined),
    /** What is wrong with a field. */
    wrong: (field: string) => (refused?.field === field ? refused.message : undefined),
    /** What is wrong elsewhere than at the fields that say it themselves. */
    elsewhere: (...fields: string[]) =>
      refused && !fields.includes(refused.field ?? "") ? refused.message : undefined,
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

/** Reads anew what an operation makes old, before the server tells of it. */
export function useMadeOld() {
  const client = useQueryClient();
  return (operation: string) =>
    Promise.all((madeOldBy(operation) ?? []).map((key) => makeOld(client, { queryKey: [key] })));
}
