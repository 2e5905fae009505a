import type { Schemas } from "@/api/client";

/**
 * Letters that mean something else while marking, so that no fault may take them: assignment, finish,
 * technique, note, praise, question, unseen, undo, measure, the other side, a player by his number; and, of
 * the picture: back and forth, the other view, run or stop.
 */
export const reserved = "abfimnpqtuvxyz";

/**
 * Letters that mean something with Shift: the duel, effort, the exchange call, our own wrong call, a point more, whom a
 * question is put to, doing it again; and, of the picture: over and over, a cut-up, the pen, labels, both cameras.
 */
export const reservedShift = "bcdeloqtvwxz";

const alphabet = "abcdefghijklmnopqrstuvwxyz";

/**
 * Gives each fault a letter of its own to be marked by. A fault gets the first letter of one of its words that
 * is still free, else any letter of its name, else any free letter; the order of names decides, so the most
 * important fault comes first. A fault beyond the free letters gets a capital, which is pressed with Shift, by the
 * same rule; one beyond those gets none ("") and is reached through the list.
 */
export function faultLetters(names: string[]): string[] {
  const small = new Set(reserved);
  const capital = new Set(reservedShift);
  const pick = (name: string, taken: Set<string>) => {
    const words = name.split(/\s+/).map((w) => w[0] ?? "");
    const letter = [...words, ...name, ...alphabet].find((c) => alphabet.includes(c) && !taken.has(c)) ?? "";
    taken.add(letter);
    return letter;
  };
  return names.map((raw) => {
    const name = raw.toLowerCase();
    return pick(name, small) || pick(name, capital).toUpperCase();
  });
}

/** The key of a letter, as keys are bound. */
export const keyOf = (letter: string) =>
  letter === letter.toLowerCase() ? letter : `Shift+${letter.toLowerCase()}`;

/** A letter as it stands on the key: a capital with the sign of Shift. */
export const shownKey = (letter = "") =>
  letter === "" ? "·" : letter === letter.toLowerCase() ? letter : `⇧${letter.toLowerCase()}`;

const known = new WeakMap<object, Map<string, string>>();

/** The letters of a sheet's faults by their keys, worked out once a sheet. */
export function lettersOf(faults: { key: string; name: string }[]): Map<string, string> {
  let letters = known.get(faults);
  if (!letters) {
    const list = faultLetters(faults.map((f) => f.name));
    letters = new Map(faults.map((f, i) => [f.key, list[i] ?? ""]));
    known.set(faults, letters);
  }
  return letters;
}

/** The row of a digit: by its place on the keyboard, or as it was typed on a pad of digits. */
export const rowOf = ({ code, key }: KeyboardEvent) => {
  const digit = /^(?:Digit|Numpad)(\d)$/.exec(code)?.[1] ?? key;
  return digit === "0" ? 9 : Number(digit) - 1;
};

/** Faults with those first that a player usually shows; their letters stay. */
export function usualFirst<F extends { key: string }>(
  faults: F[],
  usual: Schemas["Usual"][],
  technique: string,
  player: string,
): F[] {
  const of = (id?: string) => usual.find((u) => u.technique_key === technique && u.player_id === id);
  const order = (of(player) ?? of())?.faults;
  if (!order) return faults;
  const place = new Map(order.map((key, i) => [key, i]));
  const at = (f: F) => place.get(f.key) ?? order.length;
  return faults.toSorted((a, b) => at(a) - at(b));
}
