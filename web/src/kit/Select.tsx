import clsx from "clsx";
import { DropdownMenu } from "radix-ui";
import { asButton, Field, type Control } from "./Field";
import { Choices } from "./Menu";

export interface Option {
  value: string;
  name: string;
  /** What is told apart of it, behind its name. */
  more?: string;
}

interface Props {
  label: string;
  value: string;
  options: Option[];
  onChange: (value: string) => void;
  disabled?: boolean;
  /** Within a line of text. */
  slim?: boolean;
  /** What stands there while nothing is chosen. */
  placeholder?: string;
  control?: Control;
  className?: string;
}

/**
 * One of a few: opened by a press or a key, searched by typing. The page behind it stays as it is for whoever
 * hears it. For many there is the Combobox.
 */
export function Select(p: Props) {
  const chosen = p.options.find((o) => o.value === p.value);
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger
        {...asButton(p.control)}
        disabled={p.disabled}
        className={clsx(
          "inline-flex max-w-full items-center gap-1 text-left",
          p.slim ? "min-h-6 border-b border-rule pointer-coarse:min-h-11" : "field justify-between",
          p.className,
        )}
      >
        <span className="relative truncate">
          <span className="sr-only">{p.label}: </span>
          {chosen?.name ?? p.placeholder ?? "choose"}
        </span>
        <span aria-hidden>▾</span>
      </DropdownMenu.Trigger>
      <Choices
        label={p.label}
        className="z-50 max-h-[min(60vh,var(--radix-dropdown-menu-content-available-height))] min-w-(--radix-dropdown-menu-trigger-width) max-w-[calc(100vw-1rem)]"
      >
        <DropdownMenu.RadioGroup value={p.value} onValueChange={p.onChange}>
          {p.options.map((o) => (
            <DropdownMenu.RadioItem key={o.value} value={o.value} textValue={o.name} className="menu-item">
              <span aria-hidden className="w-4 shrink-0">
                {o.value === p.value ? "✓" : ""}
              </span>
              {o.name}
              {o.more && <span className="label ml-auto pl-4">{o.more}</span>}
            </DropdownMenu.RadioItem>
          ))}
        </DropdownMenu.RadioGroup>
      </Choices>
    </DropdownMenu.Root>
  );
}

/** One of a few, with its name over it. */
export function SelectField(p: Omit<Props, "control">) {
  return <Field label={p.label}>{(control) => <Select {...p} control={control} />}</Field>;
}
