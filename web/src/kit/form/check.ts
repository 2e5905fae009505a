import { z } from "zod";
import type { Shape } from "./shape";

/** What is wrong with a value, as a coach would be told: the name of the field, and what it takes. */
export type Issue = Parameters<z.core.$ZodErrorMap>[0];

const checks = new WeakMap<Shape, z.ZodType>();

/** The check that follows from a shape. */
export function checkOf(shape: Shape): z.ZodType {
  let check = checks.get(shape);
  if (!check) {
    check = z.fromJSONSchema(shape as z.core.JSONSchema.JSONSchema, {
      defaultTarget: "openapi-3.0",
    });
    checks.set(shape, check);
  }
  return check;
}

const empty = (v: unknown) => v === undefined || v === null || v === "";

/** The message of an issue, where the check stops at a field. */
export function say(shape: Shape, issue: Issue): string {
  const field = (issue.path ?? []).reduce<Shape>(
    (s, p) => (typeof p === "number" ? (s.items ?? {}) : (s.properties?.[String(p)] ?? {})),
    shape,
  );
  const name = field.title ?? String(issue.path?.at(-1) ?? "This");
  const unit = field["x-unit"] ? ` ${field["x-unit"]}` : "";
  const { minimum, exclusiveMinimum: over, maximum: max } = field;
  if (issue.code === "invalid_type" && empty(issue.input)) return `${name} is missing.`;
  if (issue.code === "too_small" && issue.origin === "string")
    return issue.input === "" ? `${name} is missing.` : `${name} needs ${field.minLength} letters or more.`;
  if (issue.code === "too_big" && issue.origin === "string")
    return `${name} takes ${field.maxLength} letters at most.`;
  if (field.items) return `${name} takes ${field.minItems ?? 0} to ${field.maxItems} of them.`;
  if (field.type === "number" || field.type === "integer") {
    const whole = field.type === "integer" ? " a whole number" : "";
    if (over !== undefined && max !== undefined)
      return `${name} is${whole} over ${over} and up to ${max}${unit}.`;
    if (minimum !== undefined && max !== undefined)
      return `${name} is${whole} from ${minimum} to ${max}${unit}.`;
    return `${name} is${whole || " a number"}.`;
  }
  if (field.enum) return `${name} is one of ${field.enum.join(", ")}.`;
  if (field.format === "date") return `${name} is a day, such as 2026-10-12.`;
  return `${name} cannot be read.`;
}

/** What is wrong with a value at each of its fields: the first thing of each. */
export function wrongs(shape: Shape, value: unknown): Record<string, string> {
  const done = checkOf(shape).safeParse(value, { error: (issue) => say(shape, issue) });
  const found: Record<string, string> = {};
  for (const issue of done.error?.issues ?? []) found[issue.path.join(".")] ??= issue.message;
  return found;
}
