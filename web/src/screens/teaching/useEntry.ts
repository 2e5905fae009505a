import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { v7 as uuid } from "uuid";
import { Problem, api, problemFrom, type Schemas } from "@/api/client";
import { queries, taught, type Kind } from "@/api/queries";
import { setSaving } from "@/app/saving";

type Entry = Schemas["Entry"];

export type Fields = Record<string, unknown>;

export interface EntryState {
  data?: Entry;
  error: Error | null;
  saving: boolean;
  /** What was refused, in words, and the field it names. */
  message?: string;
  field?: string;
  /** The entry as somebody else has made it meanwhile. */
  clash?: Entry;
  /** Saves the whole entry; undefined when it was refused. While a clash is shown, it is saved over theirs. */
  save: (
    fields: Fields | undefined,
    more?: { retired?: boolean; note?: string },
  ) => Promise<Entry | undefined>;
  /** Takes the other version over. */
  takeTheirs: () => void;
}

/** An entry of the library and how it is saved: as a version, on top of the one that was read. */
export function useEntry(kind: Kind, key: string, fresh = false): EntryState {
  const client = useQueryClient();
  const entry = useQuery({ ...queries.entry(kind, key), enabled: !fresh });
  const house = useQuery({ ...queries.house(), enabled: fresh });
  const [saving, setBusy] = useState(false);
  const [refused, setRefused] = useState<{ message: string; field?: string }>();
  const [clash, setClash] = useState<Entry>();
  const version = clash?.version ?? entry.data?.version ?? house.data?.version ?? 0;
  return {
    data: entry.data,
    error: entry.error,
    saving,
    message: refused?.message,
    field: refused?.field,
    clash,
    takeTheirs: () => {
      if (clash) client.setQueryData(queries.entry(kind, key).queryKey, clash);
      setClash(undefined);
      setRefused(undefined);
      setSaving({ waiting: 0, savedAt: new Date() });
    },
    save: async (fields, more = {}) => {
      setBusy(true);
      setSaving({ waiting: 1 });
      try {
        const answer = await api.PUT("/library/entries/{kind}/{key}", {
          params: { path: { kind, key } },
          body: { id: uuid(), version, fields, ...more },
        });
        if (!answer.data) throw problemFrom(answer.error, answer.response.status);
        setRefused(undefined);
        setClash(undefined);
        setSaving({ waiting: 0, savedAt: new Date() });
        client.setQueryData(queries.entry(kind, key).queryKey, answer.data);
        for (const k of taught) if (k !== "entry") void client.invalidateQueries({ queryKey: [k] });
        return answer.data;
      } catch (e) {
        const p = e instanceof Problem ? e : new Problem("The server does not answer", 0);
        setRefused({ message: p.message, field: p.field });
        setSaving({ waiting: 1, trouble: "see the entry" });
        if (p.status === 409 && p.body && typeof p.body === "object" && "current" in p.body)
          setClash((p.body as Schemas["EntryConflict"]).current);
        return undefined;
      } finally {
        setBusy(false);
      }
    },
  };
}
