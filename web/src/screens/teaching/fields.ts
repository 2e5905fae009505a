import type { Kind } from "@/api/queries";
import { entryShape, part, type Shape } from "@/kit/form/shape";
import { keyOfWords } from "@/parts/words";

/** How one field of an entry is edited. */
export type Field = { name: string; label: string; help?: string } & (
  | { as: "line" | "text" | "flag" | "measure" | "stages" | "schools" | "json" }
  | { as: "words"; hint: string }
  | { as: "number"; step?: number }
  /** One of those of the schema; with `none` it may be left open. */
  | { as: "choice"; none?: string }
  | { as: "keys"; of: "checkpoint" | "fault" | "group" | "technique" }
  | { as: "pair" }
);

/** The fields of each kind, in the order in which a coach thinks of them. What each takes stands in the schema. */
export const fieldsOf: Record<Kind, Field[]> = {
  technique: [
    { name: "name", label: "Name", as: "line" },
    { name: "aliases", label: "Also called", as: "words", hint: "one term, another term" },
    { name: "groups", label: "Taught to", as: "keys", of: "group" },
    { name: "summary", label: "In a sentence", as: "text" },
  ],
  checkpoint: [
    { name: "name", label: "What is right", as: "line" },
    { name: "cue", label: "Cue", as: "line", help: "What is said on the field, in a few words." },
    { name: "phase", label: "Phase of the rep", as: "line" },
    { name: "measure", label: "Measured standard", as: "measure" },
    { name: "words", label: "Or words of the eye, in order", as: "words", hint: "too high, right, too low" },
    { name: "right", label: "Those that pass", as: "words", hint: "right" },
  ],
  fault: [
    { name: "name", label: "Name", as: "line" },
    { name: "aliases", label: "Also called", as: "words", hint: "one term, another term" },
    { name: "at", label: "At checkpoint", as: "keys", of: "checkpoint" },
    { name: "effect", label: "What it causes", as: "text" },
    { name: "severity", label: "Severity", as: "choice" },
    { name: "safety", label: "The head or back of a player is at risk", as: "flag" },
  ],
  drill: [
    { name: "name", label: "Name", as: "line" },
    { name: "aliases", label: "Also called", as: "words", hint: "one term, another term" },
    { name: "trains", label: "Trains (the first names the technique)", as: "keys", of: "checkpoint" },
    { name: "works_on", label: "Works on", as: "keys", of: "fault" },
    { name: "roles", label: "Who does what", as: "text" },
    { name: "working", label: "Working a lane", as: "number" },
    { name: "helping", label: "Helping a lane", as: "number" },
    { name: "lanes", label: "Lanes", as: "number" },
    { name: "sides", label: "Sides", as: "choice" },
    { name: "rep_seconds", label: "Rep, seconds", as: "number", step: 0.5 },
    { name: "reset_seconds", label: "Reset, seconds", as: "number", step: 0.5 },
    { name: "setup_seconds", label: "Set-up, seconds", as: "number" },
    { name: "minutes", label: "Usual minutes", as: "number" },
    { name: "min_minutes", label: "Least minutes", as: "number" },
    { name: "contact", label: "Contact", as: "choice" },
    { name: "help_contact", label: "Contact of helping", as: "choice", none: "as the drill" },
    { name: "space_yd", label: "Lane, yards downfield × across", as: "pair" },
    { name: "equipment", label: "Equipment", as: "line" },
    { name: "coach_at", label: "Coach stands", as: "line" },
    { name: "watch", label: "and watches", as: "line" },
    { name: "self_check", label: "Self-check without a coach", as: "text" },
    { name: "alone", label: "Run with one coach", as: "text" },
    { name: "game", label: "Must show up in", as: "line" },
    { name: "cautions", label: "Cautions", as: "text" },
    { name: "conditioning", label: "Conditioning: reps longer than a play are meant", as: "flag" },
    {
      name: "setup",
      label: "Drawing",
      as: "json",
      help: "What stands where and who moves how: yards downfield, yards across.",
    },
  ],
  ladder: [
    { name: "name", label: "Name", as: "line" },
    { name: "stages", label: "Stages", as: "stages" },
  ],
  question: [
    { name: "name", label: "Name", as: "line" },
    { name: "asks", label: "The question", as: "text" },
    { name: "schools", label: "Schools", as: "schools" },
    { name: "house", label: "Taught here", as: "line" },
    { name: "why", label: "Why here", as: "text" },
  ],
};

const shapes = new Map<Kind, Shape>();

/** What an entry of a kind takes, with the words of its fields. */
export function shapeFor(kind: Kind): Shape {
  const known = shapes.get(kind);
  if (known) return known;
  const shape = entryShape(kind);
  const titled = fieldsOf[kind].map((f) => [f.name, { ...part(shape, f.name), title: f.label }]);
  const whole = {
    ...shape,
    properties: { ...shape.properties, ...(Object.fromEntries(titled) as Record<string, Shape>) },
  };
  shapes.set(kind, whole);
  return whole;
}

/** What a new entry of a kind starts from. */
export const blank: Partial<Record<Kind, Record<string, unknown>>> = {
  fault: { severity: 2 },
  drill: {
    working: 1,
    helping: 0,
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
    works_on: [],
  },
};

/** A key made of a name: small letters, digits and underscores, ours by its first word. */
export function keyFrom(name: string): string {
  const key = keyOfWords(name, 70);
  return key && `own_${key}`;
}

/** A value of a field in words, for showing two versions side by side. */
export function shown(value: unknown): string {
  if (value === undefined || value === null || value === "") return "–";
  if (Array.isArray(value) && value.every((v) => typeof v !== "object")) return value.join(", ");
  if (typeof value === "object") return JSON.stringify(value, null, 1);
  return String(value);
}
