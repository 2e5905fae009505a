import clsx from "clsx";
import type { ComponentProps, ReactNode } from "react";
import { useFormContext, useWatch } from "react-hook-form";
import { Field, FieldGroup, type Control } from "../Field";
import { useBound } from "./Form";
import { part, type Shape } from "./shape";

interface Props extends Omit<ComponentProps<"input">, "name" | "type" | "children"> {
  /** The field of the contract. */
  name: string;
  /** Instead of the contract's word, where the form says it otherwise. */
  label?: string;
  /** What holds the field: its place in the form. */
  place?: string;
  inline?: boolean;
}

/** What a field of the contract is, and what is wrong with it now. */
export function useFieldOf(name: string): { shape: Shape; label: string; error?: string } {
  const bound = useBound();
  const { formState } = useFormContext();
  const shape = part(bound.shape, name);
  const mine = formState.errors[name]?.message;
  const theirs = bound.refused?.field === name ? bound.refused.message : undefined;
  return { shape, label: shape.title ?? name, error: typeof mine === "string" ? mine : theirs };
}

interface BoundProps extends Pick<Props, "name" | "label" | "place" | "inline"> {
  children: (control: Control, shape: Shape) => ReactNode;
}

/** A field of the contract with its words, its unit, and what is wrong with it. */
function Bound({ name, label, place, inline, children }: BoundProps) {
  const { shape, label: title, error } = useFieldOf(name);
  return (
    <Field label={label ?? title} unit={shape["x-unit"]} error={error} className={place} inline={inline}>
      {(control) => children(control, shape)}
    </Field>
  );
}

/** A line of text. */
export function TextField({
  name,
  label,
  place,
  inline,
  className,
  ...rest
}: Props & { type?: "email" | "password" }) {
  const { register } = useFormContext();
  return (
    <Bound {...{ name, label, place, inline }}>
      {(control, shape) => (
        <input
          {...control}
          maxLength={shape.maxLength}
          className={clsx("field", className)}
          {...rest}
          {...register(name)}
        />
      )}
    </Bound>
  );
}

/** A number as it is typed: with a comma or a point; NaN is what cannot be read. */
export function numberOf(text: unknown): number | null {
  if (typeof text === "number") return text;
  if (typeof text !== "string" || text.trim() === "") return null;
  const plain = text.trim().replace(",", ".");
  return /^[-+]?(\d+\.?\d*|\.\d+)$/.test(plain) ? Number(plain) : NaN;
}

/** A number, kept as it is typed ("1." on its way to "1.5") and read when it is sent. */
export function NumberField({ name, label, place, inline, className, ...rest }: Props) {
  const { register } = useFormContext();
  return (
    <Bound {...{ name, label, place, inline }}>
      {(control, shape) => (
        <input
          {...control}
          inputMode={(shape.minimum ?? -1) < 0 ? "text" : shape.type === "integer" ? "numeric" : "decimal"}
          className={clsx("field text-right", className)}
          {...rest}
          {...register(name, { setValueAs: numberOf })}
        />
      )}
    </Bound>
  );
}

/** A day. One that is left out is not sent. */
export function DayField({ name, label, place, inline, className, ...rest }: Props) {
  const { register } = useFormContext();
  return (
    <Bound {...{ name, label, place, inline }}>
      {(control) => (
        <input
          {...control}
          type="date"
          className={clsx("field", className)}
          {...rest}
          {...register(name, { setValueAs: (v: string) => v || undefined })}
        />
      )}
    </Bound>
  );
}

/** Yes or no. */
export function CheckField({ name, label }: { name: string; label?: string }) {
  const { register } = useFormContext();
  const { label: title } = useFieldOf(name);
  return (
    <label className="flex min-h-7 items-center gap-1.5 pointer-coarse:min-h-11">
      <input type="checkbox" {...register(name)} />
      {label ?? title}
    </label>
  );
}

export interface Choice {
  value: string;
  name: string;
  /** What is shown of a long name. */
  short?: string;
}

/** One of a few that are all seen, or several of them. */
export function ChoiceField({
  name,
  label,
  options,
  several,
}: {
  name: string;
  label?: string;
  options: Choice[];
  several?: boolean;
}) {
  const { register } = useFormContext();
  const { label: title, error } = useFieldOf(name);
  return (
    <FieldGroup label={label ?? title} error={error}>
      {options.map((o) => (
        <label
          key={o.value}
          className="flex min-h-7 items-center gap-1.5 text-small pointer-coarse:min-h-11 pointer-coarse:min-w-11"
        >
          <input type={several ? "checkbox" : "radio"} value={o.value} {...register(name)} />
          {o.short ? (
            <>
              <span aria-hidden>{o.short}</span>
              <span className="sr-only">{o.name}</span>
            </>
          ) : (
            o.name
          )}
        </label>
      ))}
    </FieldGroup>
  );
}

/** What stands in a field now. */
export const useNow = (name: string): unknown => useWatch({ name }) as unknown;
