/** The list with a part of one element changed. */
export const changed = <T>(list: readonly T[], at: number, part: Partial<T>): T[] =>
  list.map((x, i) => (i === at ? { ...x, ...part } : x));

/** The list with one element moved to another place. */
export function reorder<T>(list: readonly T[], from: number, to: number): T[] {
  const next = [...list];
  const [moved] = next.splice(from, 1);
  if (moved !== undefined) next.splice(Math.max(0, Math.min(to, next.length)), 0, moved);
  return next;
}
