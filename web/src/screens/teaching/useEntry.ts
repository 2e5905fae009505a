import { useQuery } from "@tanstack/react-query";
import { useLocation } from "react-router";
import type { Schemas } from "@/api/client";
import { queries, type Kind } from "@/api/queries";
import type { EntryContent } from "@/sync/kinds";
import { useSave } from "@/sync/react";

type Entry = Schemas["Entry"];

export type Fields = Record<string, unknown>;

export interface EntryState {
  data?: Entry;
  error: Error | null;
  /** It is being saved, or waits for it. */
  saving: boolean;
  /** What was refused, in words, and the field it names. */
  message?: string;
  field?: string;
  /** The entry as somebody else has made it meanwhile. */
  clash?: Entry;
  /** Saves the whole entry; undefined when it was not taken. At a clash it is saved over theirs. */
  save: (
    fields: Fields | undefined,
    more?: Omit<EntryContent, "fields">,
    /** The version that the fields were made on; the one that is shown when absent. */
    on?: number,
  ) => Promise<Entry | undefined>;
  /** Lets go of what was not saved: theirs stands. */
  takeTheirs: () => void;
}

/** An entry of the library and how it is saved: as a version, on top of the one that was read. */
export function useEntry(kind: Kind, key: string, fresh = false): EntryState {
  const entry = useQuery({ ...queries.entry(kind, key), enabled: !fresh });
  const house = useQuery({ ...queries.house(), enabled: fresh });
  const { pathname } = useLocation();
  const saving = useSave<EntryContent>("entry", `entry/${kind}/${key}`);
  const clash = saving.conflict?.theirs as Entry | undefined;
  const shown = entry.data?.version ?? house.data?.version ?? 0;
  return {
    data: entry.data,
    error: entry.error,
    saving: saving.busy,
    message: saving.refused?.message ?? saving.conflict?.message,
    field: saving.refused?.field,
    clash,
    takeTheirs: saving.drop,
    save: async (fields, more = {}, on = shown) => {
      const content: EntryContent = { fields, ...more };
      const named = (fields ?? entry.data?.fields)?.name;
      // Made on the version that the conflict shows.
      if (clash) saving.drop();
      const done = await saving.save(content, clash?.version ?? on, {
        says: `${kind[0]!.toUpperCase()}${kind.slice(1)} ${typeof named === "string" ? named : key}`,
        href: pathname,
      });
      return done.is === "saved" ? (done.answer as Entry) : undefined;
    },
  };
}
