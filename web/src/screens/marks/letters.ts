import type { Schemas } from "@/api/client";

/**
 * Letters that mean something else while marking, so that no fault may take them: assignment, finish,
 * technique, note, praise, question, unseen, undo, measure, the other side, a player by his number; and, of
 * the picture: back and forth, the other view, run or stop.
 */
export const reserved = "abfimnpqtuvxyz";

/**
 * Gives each fault a letter of its own to be marked by. A fault gets the first letter of one of its words that
 * is still free, else any letter of its name, else any free letter; the order of names decides, so the most
 * important fault comes first. A fault beyond the free letters gets none ("") and is reached through the list.
 */
export function faultLetters(names: string[]): string[] {
  const taken = new Set(reserved);
  return names.map((raw) => {
    const name = raw.toLowerCase();
    const words = name.split(/\s+/).map((w) => w[0] ?? "");
    const letter =
      [...words, ...name, ..."cdeghjklorsw"].find((c) => /^[a-z]$/.test(c) && !taken.has(c)) ?? "";
    taken.add(letter);
    return letter;
  });
}

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
