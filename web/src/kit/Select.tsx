import clsx from "clsx";
import { Select as Radix } from "radix-ui";
import { useState } from "react";
import { KeyLayer } from "@/keys/react";

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
  invalid?: boolean;
  /** Within a line of text. */
  slim?: boolean;
  /** What stands there while nothing is chosen. */
  placeholder?: string;
  id?: string;
  className?: string;
}

// An option of the part underneath may not be empty; ours may mean "all" or "none" by it.
const none = "\u00a0";
const inside = (value: string) => value || none;
const outside = (value: string) => (value === none ? "" : value);

/** One of a few: a list that is opened by a press or a key and searched by typing. For many there is the Combobox. */
export function Select({
  label,
  value,
  options,
  onChange,
  disabled,
  invalid,
  slim,
  placeholder,
  id,
  className,
}: Props) {
  const [open, setOpen] = useState(false);
  return (
    <Radix.Root
      value={inside(value)}
      onValueChange={(v) => onChange(outside(v))}
      disabled={disabled}
      open={open}
      onOpenChange={setOpen}
    >
      <Radix.Trigger
        id={id}
        aria-label={label}
        aria-invalid={invalid || undefined}
        className={clsx(
          "inline-flex max-w-full items-center gap-1 text-left",
          slim
            ? "min-h-6 border-b border-rule pointer-coarse:min-h-11"
            : "field justify-between pointer-coarse:min-h-11",
          className,
        )}
      >
        <span className="truncate">
          <Radix.Value placeholder={placeholder} />
        </span>
        <span aria-hidden>▾</span>
      </Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          position="popper"
          sideOffset={3}
          collisionPadding={8}
          className="z-50 max-h-(--radix-select-content-available-height) min-w-(--radix-select-trigger-width) max-w-[calc(100vw-1rem)] overflow-hidden border border-ink bg-sheet py-1 text-ink"
        >
          {/* The part keeps its options while it is closed; the keyboard is theirs only while it is open. */}
          <KeyLayer on={open}>
            <Radix.Viewport className="max-h-[60vh] overflow-auto">
              {options.map((o) => (
                <Radix.Item
                  key={o.value}
                  value={inside(o.value)}
                  className="menu-item pointer-coarse:min-h-11"
                >
                  <Radix.ItemText>{o.name}</Radix.ItemText>
                  {o.more && <span className="label ml-auto pl-4">{o.more}</span>}
                </Radix.Item>
              ))}
            </Radix.Viewport>
          </KeyLayer>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
