import type { Schemas } from "@/api/client";
import type { Of } from "@/sync/sheet";

type Play = Schemas["PlayInput"];

/** How the plays of a game are put on a sheet. */
export const playsOf = (game: string): Of<Play> => ({
  idOf: (key) => (key.startsWith(`play/${game}/`) ? key.split("/")[2] : undefined),
  keyOf: (id) => `play/${game}/${id}`,
  read: (_key, content) => content as Play,
  write: (_id, p) => p ?? null,
  alike: (a, b) => JSON.stringify(a) === JSON.stringify(b),
  says: (p) => `Play ${p.number}`,
});

/** "2nd & 7, own 44": where a play began, as far as it is said. */
export const situation = (p: Play): string =>
  [
    p.down > 0 &&
      `${["1st", "2nd", "3rd", "4th"][p.down - 1]}${p.distance === undefined ? "" : ` & ${p.distance}`}`,
    p.spot,
  ]
    .filter(Boolean)
    .join(", ");

/** "+4", "−3", "0" */
export const gained = (n: number | undefined): string =>
  n === undefined ? "" : n > 0 ? `+${n}` : n < 0 ? `−${-n}` : "0";

/** Plays that belong to one drive, as they follow each other. */
export function drives(plays: { play: Play }[]): { drive: number; from: number; plays: number }[] {
  const list: { drive: number; from: number; plays: number }[] = [];
  plays.forEach(({ play }, at) => {
    const last = list.at(-1);
    if (last && play.drive > 0 && last.drive === play.drive) last.plays = at - last.from + 1;
    else list.push({ drive: play.drive, from: at, plays: 1 });
  });
  return list.filter((d) => d.drive > 0);
}

/** An empty play to begin with. */
export const blank = (number: number, unit: Play["unit"]): Play => ({
  number,
  unit,
  drive: 0,
  quarter: 0,
  clock: "",
  down: 0,
  spot: "",
  hash: "",
  personnel: "",
  formation: "",
  motion: "",
  call: "",
  front: "",
  coverage: "",
  result: "",
  context: [],
});

/** Words of the staff that stand in a column already, the most used first. */
export function known(
  plays: Iterable<Play>,
  of: "call" | "formation" | "front" | "coverage" | "result" | "personnel" | "motion",
) {
  const times = new Map<string, number>();
  for (const p of plays) if (p[of]) times.set(p[of], (times.get(p[of]) ?? 0) + 1);
  return [...times].sort(([a, n], [b, m]) => m - n || a.localeCompare(b)).map(([w]) => w);
}

/** The labels that are words of the staff. */
export const words = ["formation", "motion", "call", "front", "coverage", "personnel", "result"] as const;
export const labels: Record<(typeof words)[number], string> = {
  formation: "Formation",
  motion: "Motion",
  call: "Call",
  front: "Front",
  coverage: "Coverage",
  personnel: "Personnel",
  result: "Result",
};

/** Those of them that may be said otherwise; a call has its other names in the book of calls. */
export const aliased = ["Front", "Coverage", "Formation", "Motion", "Personnel", "Result"] as const;
