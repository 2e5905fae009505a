import type { Schemas } from "@/api/client";
import { one, part, shapeOf } from "@/kit/form/shape";

/** What is taken of a drill: from so many to so many minutes and lanes. */
const drillShape = one(shapeOf("previewReps"), "drills");
export const minutesTaken = part(drillShape, "minutes");
export const lanesTaken = part(drillShape, "lanes");

/** A drill as it lies in the period being planned. */
export type Placed = Schemas["PlacementInput"];

/** What is kept of a drill that lies in a period, always in one order. */
export const placed = ({ id, drill, technique = "", cards, start, minutes, lanes }: Placed): Placed => ({
  id,
  drill,
  technique,
  ...(cards && { cards }),
  start,
  minutes,
  lanes,
});

type Cards = NonNullable<Schemas["Drill"]["cards"]>;

/** The cards of a drill in an order of their keys; all of them as the library has them where none of it is left. */
export function inPack(drill: Pick<Schemas["Drill"], "cards">, order?: string[]): Cards {
  const all = drill.cards ?? [];
  const pack = (order ?? []).flatMap((k) => all.find((c) => c.key === k) ?? []);
  return pack.length > 0 ? pack : all;
}

const end = (d: Placed) => d.start + d.minutes;

/** The drills in order of time. */
export function inOrder(drills: Placed[]): Placed[] {
  return [...drills].sort((a, b) => a.start - b.start);
}

/** The first stretch of free minutes that holds `want`, else the longest free one; null when all is full. */
export function firstRoom(
  drills: Placed[],
  length: number,
  want: number,
): { start: number; minutes: number } | null {
  let at = 0;
  let best: { start: number; minutes: number } | null = null;
  for (const next of [...inOrder(drills), { start: length, minutes: 0 }]) {
    const free = next.start - at;
    if (free >= want) return { start: at, minutes: want };
    if (free > 0 && free > (best?.minutes ?? 0)) best = { start: at, minutes: free };
    at = Math.max(at, next.start + next.minutes);
  }
  return best;
}

/**
 * Moves one drill to a minute and lets the others make way: they keep their order by their middles, are pushed
 * to the right where they would overlap, and back to the left from the end of the period. What does not fit
 * stays overlapping at the end, for the rules of the server to name.
 */
export function move(drills: Placed[], id: string, start: number, length: number): Placed[] {
  const moved = drills.map((d) =>
    d.id === id ? { ...d, start: clamp(start, 0, Math.max(0, length - d.minutes)) } : d,
  );
  return spread(moved, length, id);
}

/** Gives one drill a number of minutes and lets the others make way. */
export function resize(drills: Placed[], id: string, minutes: number, length: number): Placed[] {
  const sized = drills.map((d) => (d.id === id ? { ...d, minutes: clamp(minutes, 1, length) } : d));
  return spread(sized, length);
}

function spread(drills: Placed[], length: number, moving?: string): Placed[] {
  const middle = (d: Placed) => d.start + d.minutes / 2 + (d.id === moving ? -0.01 : 0);
  const order = [...drills].sort((a, b) => middle(a) - middle(b));
  let at = 0;
  const right = order.map((d) => {
    const start = Math.max(d.start, at);
    at = start + d.minutes;
    return { ...d, start };
  });
  let limit = length;
  for (const d of right.reverse()) {
    if (end(d) > limit) d.start = Math.max(0, limit - d.minutes);
    limit = d.start;
  }
  return right.reverse();
}

function clamp(v: number, lo: number, hi: number): number {
  return Math.min(Math.max(Math.round(v), lo), hi);
}
