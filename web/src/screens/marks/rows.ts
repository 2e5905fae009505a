import type { Schemas } from "@/api/client";

/** What a row asks with so many yards to go; where they are not known, what it asks at the usual ones. */
export const asked = (row: Schemas["StandardRow"], toGo = 0): number =>
  row.longer?.findLast((x) => x.to_go <= toGo)?.value ?? row.value;

/** The row of a table for a call: the one that names most of it. */
export const rowOf = <Row extends { call: string }>(rows: Row[], call?: string): Row | undefined =>
  rows
    .filter((r) => call?.toLowerCase().includes(r.call.toLowerCase()))
    .toSorted((a, b) => b.call.length - a.call.length)[0];
