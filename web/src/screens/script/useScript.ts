import { useEffect, useMemo, useState } from "react";
import type { Schemas } from "@/api/client";
import { weekdayDate } from "@/parts/words";
import { useSheet, type Of, type Sheet } from "@/sync/sheet";
import { alike, scriptOf, type Period } from "./periods";

export interface Editing extends Sheet<Period> {
  /** Puts a new period in, with drills. */
  add: (id: string, period: Period, drills: Schemas["PlacementInput"][]) => void;
}

type Drills = ReadonlyMap<string, Schemas["PlacementInput"][]>;

/** The periods of a practice's script. One that is put back has the drills again with which it was taken out. */
function periodsOf(practice: string, of: string, drills: Drills): Of<Period> {
  const prefix = `block/${practice}/`;
  return {
    idOf: (key) => (key.startsWith(prefix) ? key.slice(prefix.length) : undefined),
    keyOf: (id) => prefix + id,
    read: (_key, content) => content as Period,
    write: (id, p, version) => (p ? { ...p, placements: version ? undefined : drills.get(id) } : null),
    alike,
    says: (p) => `${p.name}, ${of}`,
  };
}

/** The script of a practice. */
export function useScript({ practice, periods }: Schemas["Practice"]): Editing {
  const [drills] = useState(() => new Map<string, Schemas["PlacementInput"][]>());
  useEffect(() => {
    for (const p of periods)
      if (p.placements.length + p.others.length > 0)
        drills.set(
          p.id,
          [...p.placements, ...p.others.map((o) => o.placed)].map((d) => ({
            id: d.id,
            group: d.group,
            drill: d.drill,
            technique: d.technique,
            start: d.start,
            minutes: d.minutes,
            lanes: d.lanes,
          })),
        );
      else drills.delete(p.id);
  }, [periods, drills]);
  const { id, title, date } = practice;
  const of = useMemo(
    () => periodsOf(id, `${title} of ${weekdayDate(date)}`, drills),
    [id, title, date, drills],
  );
  const server = useMemo(() => scriptOf(periods), [periods]);
  const versions = useMemo(() => new Map(periods.map((p) => [p.id, p.version])), [periods]);
  const sheet = useSheet(server, versions, of);
  return {
    ...sheet,
    add: (id, period, list) => {
      drills.set(id, list);
      sheet.change(new Map(sheet.items).set(id, period));
    },
  };
}
