/** The row of a table for a call: the one that names most of it. */
export const rowOf = <Row extends { call: string }>(rows: Row[], call?: string): Row | undefined =>
  rows
    .filter((r) => call?.toLowerCase().includes(r.call.toLowerCase()))
    .toSorted((a, b) => b.call.length - a.call.length)[0];
