import clsx from "clsx";
import type { ComponentProps } from "react";

interface Props extends Omit<ComponentProps<"button">, "disabled"> {
  /** What is done most here, or what is done seldom. */
  kind?: "main" | "quiet";
  /** It cannot be pressed just now, because it was or because there is nothing to do. */
  off?: boolean;
}

/**
 * A button. One that is off keeps the keyboard, which a disabled one would drop: it is said to be off, and a press
 * does nothing.
 */
export function Button({ kind, off, className, onClick, type = "button", ...rest }: Props) {
  return (
    <button
      type={type}
      aria-disabled={off || undefined}
      className={clsx("btn", kind === "main" && "btn-main", kind === "quiet" && "btn-quiet", className)}
      onClick={(e) => {
        if (off) e.preventDefault();
        else onClick?.(e);
      }}
      {...rest}
    />
  );
}
