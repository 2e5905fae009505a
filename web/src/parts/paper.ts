/**
 * The size of type, in points, at which so many rows go on what is left of a page.
 *
 * @param rows how many there are
 * @param room of the page, in points (A4 across has 538)
 * @param lines of a row, with the space around them, in sizes of its type
 */
export function sizeOf(rows: number, room: number, lines: number, largest: number, least: number): number {
  return Math.max(least, Math.min(largest, Math.floor((room / Math.max(1, rows) / lines) * 2) / 2));
}
