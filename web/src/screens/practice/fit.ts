/** An A4 page on its side within its margins, in points; the line of its head is taken off. */
const page = { width: 791, height: 505 };

/** The sizes of type that paper is printed in, in points: the largest that fits. */
const sizes = [12, 10.5, 9, 8, 7];

/** How high a line is and how wide a letter of it, by the size of type. */
const lineHeight = 1.35;
const letter = 0.5;

/** A column of a table: what stands in it, and which part of the width is its own. */
export interface Text {
  length: number;
  /** Of the width that the fixed columns leave. */
  share: number;
}

export interface Block {
  /** Of the page's width. */
  share: number;
  /** What the narrow columns take, in points at 12 pt. */
  fixed: number;
  /** For each line of the table, the texts that may need several lines of type. */
  rows: Text[][];
  /** Text under the table, over its whole width: so many letters. */
  under?: number;
}

const padding = 4.6; // over and under a cell, with its border

/** How high a block is, in points, at a size of type. It is an estimate, a little on the high side. */
export function heightOf(b: Block, size: number): number {
  const width = page.width * b.share;
  const free = Math.max(1, width - (b.fixed * size) / 12);
  const lines = (t: Text) => Math.max(1, Math.ceil((t.length * letter * size) / (free * t.share)));
  const table = b.rows.reduce(
    (sum, row) => sum + Math.max(1, ...row.map(lines)) * lineHeight * size + padding,
    lineHeight * size + padding,
  );
  const under = Math.ceil(((b.under ?? 0) * letter * size) / width) * lineHeight * size;
  return table + under;
}

/** The largest size of type at which all blocks go on one page; the smallest when none does. */
export function sizeFor(blocks: Block[]): number {
  return sizes.find((s) => blocks.every((b) => heightOf(b, s) <= page.height)) ?? sizes.at(-1)!;
}
