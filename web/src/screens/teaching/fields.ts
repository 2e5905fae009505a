import { entries, entryFields, type EntryField } from "@/api/entries.gen";
import type { Kind } from "@/api/queries";
import type { Shape } from "@/kit/form/shape";
import { keyOfWords } from "@/parts/words";

/** How one field of an entry is edited. */
export type Field = EntryField;

/** The fields of each kind, in the order in which a coach thinks of them. */
export const fieldsOf: Record<Kind, Field[]> = entryFields;

/** What an entry of the library, or a part of one, is made of. */
export const entryShape = (name: keyof typeof entries): Shape => entries[name];

/** What an entry of a kind takes, with the words of its fields. */
export const shapeFor = (kind: Kind): Shape => entryShape(kind);

/** What a new entry of a kind starts from. */
export const blank: Partial<Record<Kind, Record<string, unknown>>> = {
  fault: { severity: 2 },
  table: { columns: [{ key: "depth", unit: "yd" }], rows: [] },
  drill: {
    working: 1,
    lanes: 3,
    rep_seconds: 5,
    reset_seconds: 20,
    setup_seconds: 30,
    minutes: 5,
    min_minutes: 3,
    contact: "air",
    space_yd: [6, 4],
    setup: { things: [{ is: "worker", at: [1, 2] }], ways: [] },
    trains: [],
  },
};

/** A key made of a name: small letters, digits and underscores, ours by its first word. */
export function keyFrom(name: string): string {
  const key = keyOfWords(name, 70);
  return key && `own_${key}`;
}

/** A key that none of a list has yet. */
export function freeKey(list: readonly { key?: unknown }[], base: string): string {
  let key = base;
  for (let n = 2; list.some((x) => x.key === key); n++) key = `${base}_${n}`;
  return key;
}

/** A value of a field in words, for showing two versions side by side: of a list, one line for each. */
export function shown(value: unknown): string {
  if (value === undefined || value === null || value === "") return "–";
  if (Array.isArray(value))
    return value.every((v) => typeof v !== "object") ? value.join(", ") : value.map(shown).join("\n");
  if (typeof value === "object")
    return Object.entries(value)
      .filter(([name]) => name !== "key")
      .map(([name, v]) => `${name.replaceAll("_", " ")} ${shown(v).replaceAll("\n", "; ")}`)
      .join(", ");
  return String(value);
}

/** What was found wrong, with "stages[0].clean" as "stage 1, clean"; what it is about is said once. */
export function inWords(says: string): string {
  const step = (s: string) => {
    const [, name = s, i] = /^(\w+)\[(\d+)\]$/.exec(s) ?? [];
    const words = name.replaceAll("_", " ");
    return i === undefined ? words : `${words.replace(/(?<!s)s$/, "")} ${Number(i) + 1}`;
  };
  return says
    .replace(/\b[a-z_]+(\[\d+\])?(\.[a-z_]+(\[\d+\])?)+|\b[a-z_]+\[\d+\]|^[a-z]+(_[a-z]+)+(?=:)/g, (path) =>
      path.split(".").map(step).join(", "),
    )
    .replace(/(^|\. )([^.:]+): \2(?= )/, "$1$2");
}
