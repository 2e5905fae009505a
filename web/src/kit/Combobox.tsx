import { Command } from "cmdk";
import { Popover } from "radix-ui";
import { useState } from "react";
import { KeyLayer } from "@/keys/react";
import { usePortal } from "./portal";
import type { Option } from "./Select";

interface Props {
  label: string;
  /** What the button says. */
  word: string;
  options: Option[];
  onChoose: (value: string) => void;
  disabled?: boolean;
  invalid?: boolean;
  id?: string;
}

/** One of many, found by typing any part of its name. */
export function Combobox({ label, word, options, onChoose, disabled, invalid, id }: Props) {
  const [open, setOpen] = useState(false);
  const portal = usePortal();
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        id={id}
        className="field inline-flex max-w-full items-center gap-1 pointer-coarse:min-h-11"
        disabled={disabled}
        aria-invalid={invalid || undefined}
      >
        <span className="truncate">{word}</span>
        <span className="sr-only">: {label}</span> <span aria-hidden>▾</span>
      </Popover.Trigger>
      <Popover.Portal container={portal}>
        <Popover.Content
          align="start"
          sideOffset={3}
          collisionPadding={8}
          aria-label={label}
          className="z-50 w-80 max-w-[calc(100vw-1rem)] border border-ink bg-sheet p-1 text-ink"
        >
          <KeyLayer>
            <Command label={label} loop>
              <Command.Input className="field w-full" placeholder="Type a part of its name" />
              <Command.List className="mt-1 max-h-[50vh] overflow-auto">
                <Command.Empty className="say p-2 text-small text-soft">
                  Nothing has these words.
                </Command.Empty>
                {options.map((o) => (
                  <Command.Item
                    key={o.value}
                    value={`${o.name} ${o.value}`}
                    className="menu-item aria-selected:bg-ink aria-selected:text-invert pointer-coarse:min-h-11"
                    onSelect={() => {
                      setOpen(false);
                      onChoose(o.value);
                    }}
                  >
                    {o.name}
                    {o.more && <span className="label ml-auto pl-4">{o.more}</span>}
                  </Command.Item>
                ))}
              </Command.List>
            </Command>
          </KeyLayer>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
