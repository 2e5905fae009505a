/** The list with one element moved to another place. */
export function reorder<T>(list: readonly T[], from: number, to: number): T[] {
  const next = [...list];
  const [moved] = next.splice(from, 1);
  if (moved !== undefined) next.splice(Math.max(0, Math.min(to, next.length)), 0, moved);
  return next;
}
