import clsx from "clsx";
import type { ComponentProps } from "react";
import { Link } from "react-router";

/**
 * How a press looks: plain, done most here, done seldom, as words in a text, as whatever is in it (a row, a
 * name, a bar), beside a picture, where nothing may shine, as the head of what it leads to, or as
 * a line of text that leads on.
 */
export type Kind = "plain" | "main" | "quiet" | "text" | "bare" | "film" | "head" | "way";

const way = "inline-flex min-h-6 items-center underline pointer-coarse:min-h-11";

const looks: Record<Kind, string> = {
  plain: "btn",
  main: "btn btn-main",
  quiet: "btn btn-quiet",
  text: "textual",
  bare: "bare",
  film: "film-button",
  head: `head ${way}`,
  way,
};

interface Props extends Omit<ComponentProps<"button">, "disabled" | "aria-pressed"> {
  kind?: Kind;
  /** It cannot be pressed just now, because it was or because there is nothing to do. */
  off?: boolean;
  /** Whether what it stands for is chosen; absent for a button that does something once. */
  pressed?: boolean;
  /** Pressed by the pointer it leaves the keyboard to the screen: the next key is the screen's, not a second press. */
  leavesKeys?: boolean;
}

/**
 * A button. One that is off keeps the keyboard, which a disabled one would drop: it is said to be off, and a press
 * does nothing.
 */
export function Button({
  kind = "plain",
  off,
  pressed,
  leavesKeys,
  className,
  onClick,
  type = "button",
  ...rest
}: Props) {
  return (
    <button
      type={type}
      aria-disabled={off || undefined}
      aria-pressed={pressed}
      className={clsx(looks[kind], className)}
      onMouseDown={leavesKeys ? leaveKeys : undefined}
      onClick={(e) => {
        if (off) e.preventDefault();
        else onClick?.(e);
      }}
      {...rest}
    />
  );
}

function leaveKeys(e: React.MouseEvent) {
  e.preventDefault(); // it would take the keyboard
  if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
}

/** A way to another screen that is as weighty as a button. */
export function ButtonLink({
  kind = "plain",
  className,
  ...rest
}: { kind?: Kind } & ComponentProps<typeof Link>) {
  return <Link className={clsx(looks[kind], className)} {...rest} />;
}

/** A file to take away. */
export function FileLink({
  kind = "quiet",
  className,
  children,
  href,
  name,
}: {
  kind?: Kind;
  className?: string;
  href: string;
  /** What the file is called; what the server calls it where it does not say. */
  name?: string;
  children: React.ReactNode;
}) {
  return (
    <a className={clsx(looks[kind], className)} href={href} download={name ?? true}>
      {children}
    </a>
  );
}

/** Asks for a file of the device. The same one may be chosen again. */
export function FilePick({
  kind = "plain",
  className,
  accept,
  disabled,
  children,
  onPick,
}: {
  kind?: Kind;
  className?: string;
  accept: string;
  disabled?: boolean;
  children: React.ReactNode;
  onPick: (file: File) => void;
}) {
  return (
    <label className={clsx(looks[kind], className)}>
      {children}
      <input
        type="file"
        accept={accept}
        className="sr-only"
        disabled={disabled}
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = "";
          if (file) onPick(file);
        }}
      />
    </label>
  );
}
