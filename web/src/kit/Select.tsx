import clsx from "clsx";
import { DropdownMenu } from "radix-ui";
import { KeyLayer } from "@/keys/react";
import { usePortal } from "./portal";

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

/**
 * One of a few: opened by a press or a key, searched by typing. The page behind it stays as it is for whoever
 * hears it. For many there is the Combobox.
 */
export function Select(p: Props) {
  const portal = usePortal();
  const chosen = p.options.find((o) => o.value === p.value);
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger
        id={p.id}
        disabled={p.disabled}
        aria-invalid={p.invalid || undefined}
        className={clsx(
          "inline-flex max-w-full items-center gap-1 text-left",
          p.slim
            ? "min-h-6 border-b border-rule pointer-coarse:min-h-11"
            : "field justify-between pointer-coarse:min-h-11",
          p.className,
        )}
      >
        <span className="relative truncate">
          <span className="sr-only">{p.label}: </span>
          {chosen?.name ?? p.placeholder ?? "choose"}
        </span>
        <span aria-hidden>▾</span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal container={portal}>
        <DropdownMenu.Content
          align="start"
          sideOffset={3}
          collisionPadding={8}
          aria-label={p.label}
          className="z-50 max-h-[min(60vh,var(--radix-dropdown-menu-content-available-height))] min-w-(--radix-dropdown-menu-trigger-width) max-w-[calc(100vw-1rem)] overflow-auto border border-ink bg-sheet py-1 text-ink"
        >
          <KeyLayer>
            <DropdownMenu.RadioGroup value={p.value} onValueChange={p.onChange}>
              {p.options.map((o) => (
                <DropdownMenu.RadioItem
                  key={o.value}
                  value={o.value}
                  textValue={o.name}
                  className="menu-item pointer-coarse:min-h-11 pointer-coarse:items-center"
                >
                  <span aria-hidden className="w-4 shrink-0">
                    {o.value === p.value ? "✓" : ""}
                  </span>
                  {o.name}
                  {o.more && <span className="label ml-auto pl-4">{o.more}</span>}
                </DropdownMenu.RadioItem>
              ))}
            </DropdownMenu.RadioGroup>
          </KeyLayer>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
