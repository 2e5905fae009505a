import { useMemo } from "react";
import type { Schemas } from "@/api/client";
import { weekdayDate } from "@/parts/words";
import { useSheet, type Of, type Sheet } from "@/sync/sheet";
import { alike, calendarOf, type Entry } from "./days";

export type Season = Sheet<Entry>;

const called = (e: Entry) => (e.is === "practice" ? e.of.title : `Game against ${e.of.opponent}`);

/** Practices and games, each a record of its own kind. */
const entries: Of<Entry> = {
  idOf: (key) => /^(?:practice|game)\/([^/]+)$/.exec(key)?.[1],
  keyOf: (id, e) => `${e.is}/${id}`,
  read: (key, content) => ({ is: key.split("/")[0], of: content }) as Entry,
  write: (_id, e) => e?.of ?? null,
  alike,
  says: (e) => `${called(e)}, ${weekdayDate(e.of.date)}`,
};

/** The calendar of the season. */
export function useSeason(season: Schemas["Season"]): Season {
  const server = useMemo(() => calendarOf(season), [season]);
  const versions = useMemo(
    () => new Map([...season.practices, ...season.games].map((x) => [x.id, x.version])),
    [season],
  );
  return useSheet(server, versions, entries);
}
