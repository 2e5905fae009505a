import { format, parseISO } from "date-fns";

/** "13 Oct" */
export const dayMonth = (date: string) => format(parseISO(date), "d MMM");
/** "Tue 13 Oct" */
export const weekdayDate = (date: string) => format(parseISO(date), "EEE d MMM");
/** "17:40" of a moment, by the clock of the device. */
export const time = (at: string) => format(parseISO(at), "HH:mm");
/** "18:14" from minutes after midnight. */
export const clock = (minute: number) =>
  `${String(Math.floor(minute / 60) % 24).padStart(2, "0")}:${String(minute % 60).padStart(2, "0")}`;
/** "84%" */
export const percent = (share: number) => `${Math.round(100 * share)}%`;
/** "86–96" */
export const range = (low: number, high: number) => `${Math.round(100 * low)}–${Math.round(100 * high)}`;
/** "1 rep", "4 reps" */
export const count = (n: number, one: string, many = `${one}s`) => `${n} ${n === 1 ? one : many}`;
/** Of a card that takes others than its drill: "takes 2 working, 2 helping" */
export const menWords = ([work, help]: number[]) => `takes ${work} working, ${help} helping`;
/** "6 ft 2 in" */
export const feet = (inches: number) =>
  `${Math.floor(inches / 12)} ft ${Math.round((inches % 12) * 10) / 10} in`;

export const availability: Record<string, string> = {
  available: "available",
  limited: "limited, no contact",
  out: "out",
  head_hold: "head-injury hold",
};

/** What was filmed, as a title: a game with where it was, or a team period of a practice. */
export const filmTitle = (g: { opponent: string; home: boolean; practice?: boolean }) =>
  g.practice ? g.opponent : `${g.opponent}, ${g.home ? "at home" : "away"}`;

/** A key made of words: small letters, digits and lines, so many at most; empty where none are left. */
export const keyOfWords = (words: string, most: number) =>
  words
    .toLowerCase()
    .normalize("NFKD")
    .replace(/[^a-z0-9]+/g, "_")
    .replace(/^_+|_+$/g, "")
    .slice(0, most);
