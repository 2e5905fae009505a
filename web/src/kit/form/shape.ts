import { forms } from "@/api/forms.gen";
import type { operations } from "@/api/schema.gen";

/** What is known of a field, or of a whole form: words, unit, range and lengths, as the contract has them. */
export interface Shape {
  type?: string;
  title?: string;
  "x-unit"?: string;
  format?: string;
  enum?: readonly (string | number)[];
  pattern?: string;
  nullable?: boolean;
  minimum?: number;
  maximum?: number;
  exclusiveMinimum?: number;
  minLength?: number;
  maxLength?: number;
  minItems?: number;
  maxItems?: number;
  items?: Shape;
  /** What each value of a map is. */
  additionalProperties?: Shape;
  required?: readonly string[];
  properties?: Record<string, Shape>;
}

/** The operations that a form fills in. */
export type FormName = keyof typeof forms;

/** What an operation takes. */
export type Body<N extends FormName> = operations[N]["requestBody"]["content"]["application/json"];

export const shapeOf = (name: FormName): Shape => forms[name];

/** The shape of a field. */
export const part = (shape: Shape, name: string): Shape => shape.properties?.[name] ?? {};

/** What may be chosen of a field. */
export const choicesOf = (shape: Shape): string[] => (shape.enum ?? []).map(String);

/** What may be chosen at a field of a form. */
export const choices = (shape: Shape, name: string): string[] => choicesOf(part(shape, name));

/** The least and the most of a number, and its step, for its field. */
export function range(shape: Shape): { min?: number; max?: number; step: number | "any" } {
  return { min: shape.minimum, max: shape.maximum, step: shape.type === "integer" ? 1 : "any" };
}

/** What one of the list at a field is. */
export const one = (shape: Shape, name: string): Shape => part(shape, name).items ?? {};

/** Whether a number is one that a field takes. */
export const within = (shape: Shape, n: number): boolean =>
  n >= (shape.minimum ?? -Infinity) && n <= (shape.maximum ?? Infinity);

/** The nearest number to n that a field takes. */
export const clamp = (shape: Shape, n: number): number =>
  Math.min(shape.maximum ?? n, Math.max(shape.minimum ?? n, n));

/** The check comes when it is asked for; nothing where it cannot come, because the line is down. */
export const loadCheck = () => import("./check").catch(() => undefined);

/** What is wrong with a value at each of its fields, before it is sent; nothing where the check cannot come. */
export async function wrongsOf(shape: Shape, value: unknown): Promise<Record<string, string>> {
  const check = await loadCheck();
  return check?.wrongs(shape, value) ?? {};
}

/** Of something kept elsewhere, what the form has a field for. */
export function fitting<V extends object>(shape: Shape, kept: V): Partial<V> {
  const known = Object.entries(kept).filter(([name]) => shape.properties?.[name]);
  return Object.fromEntries(known) as Partial<V>;
}
