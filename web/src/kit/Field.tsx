import clsx from "clsx";
import { useId, type ReactNode } from "react";

/** What ties what is filled in to its words, for whoever hears them. */
export interface Control {
  id: string;
  "aria-invalid"?: true;
  "aria-describedby"?: string;
}

interface Props {
  label: ReactNode;
  /** Of the number, behind its name. */
  unit?: string;
  /** What is meant, under it. */
  hint?: ReactNode;
  /** What is wrong with it. */
  error?: string;
  /** The label beside it, within a line. */
  inline?: boolean;
  /** The label is only heard: what stands around it says it already. */
  quiet?: boolean;
  className?: string;
  /** An id that is known elsewhere. */
  id?: string;
  children: (control: Control) => ReactNode;
}

/** The same for a button that opens what is chosen from: a button is told apart as wrong by its look and its words. */
export const asButton = (c?: Control) => ({
  id: c?.id,
  "aria-describedby": c?.["aria-describedby"],
  "data-invalid": c?.["aria-invalid"],
});

/** Something to fill in, with its name, its unit, what is meant and what is wrong. */
export function Field({ label, unit, hint, error, inline, quiet, className, id, children }: Props) {
  const own = useId();
  const at = id ?? own;
  const about = [hint && `${at}-hint`, error && `${at}-error`].filter(Boolean).join(" ");
  return (
    <div
      className={clsx(
        inline ? "inline-flex flex-wrap items-center gap-1" : "grid content-start gap-0.5",
        className,
      )}
    >
      <label className={quiet ? "sr-only" : inline ? "text-label text-soft" : "label"} htmlFor={at}>
        {label}
        {unit && <span className="normal-case">, {unit}</span>}
      </label>
      {children({
        id: at,
        "aria-invalid": error ? true : undefined,
        "aria-describedby": about || undefined,
      })}
      {hint && (
        <span id={`${at}-hint`} className="say text-small text-soft">
          {hint}
        </span>
      )}
      {error && <Wrong id={`${at}-error`}>{error}</Wrong>}
    </div>
  );
}

/** Several to fill in that are one thing: days, a height, who he is. */
export function FieldGroup({
  label,
  error,
  className,
  children,
}: Pick<Props, "label" | "error" | "className"> & { children: ReactNode }) {
  const at = useId();
  return (
    <fieldset
      className={clsx("grid content-start gap-0.5", className)}
      aria-invalid={error ? true : undefined}
      aria-describedby={error ? `${at}-error` : undefined}
    >
      <legend className="label">{label}</legend>
      <span className="flex flex-wrap items-center gap-x-3 gap-y-1">{children}</span>
      {error && <Wrong id={`${at}-error`}>{error}</Wrong>}
    </fieldset>
  );
}

/** What is wrong, where it is wrong. */
export function Wrong({ id, children }: { id?: string; children: ReactNode }) {
  return (
    <span id={id} role="alert" className="say max-w-prose text-small font-semibold text-fault">
      {children}
    </span>
  );
}
