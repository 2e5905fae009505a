import { Command } from "cmdk";
import { useState } from "react";
import { asButton, type Control } from "./Field";
import { Popover } from "./Popover";
import type { Option } from "./Select";

interface Props {
  label: string;
  /** What the button says. */
  word: string;
  options: Option[];
  onChoose: (value: string) => void;
  disabled?: boolean;
  control?: Control;
}

/** One of many, found by typing any part of its name. */
export function Combobox({ label, word, options, onChoose, disabled, control }: Props) {
  const [open, setOpen] = useState(false);
  return (
    <Popover
      label={label}
      open={open}
      onOpenChange={setOpen}
      className="w-80 p-1"
      trigger={
        <button
          type="button"
          {...asButton(control)}
          className="field inline-flex max-w-full items-center gap-1"
          disabled={disabled}
        >
          <span className="truncate">{word}</span>
          <span className="sr-only">: {label}</span> <span aria-hidden>▾</span>
        </button>
      }
    >
      <Command label={label} loop>
        <Command.Input className="field w-full" placeholder="Type a part of its name" />
        <Command.List className="mt-1 max-h-[50vh] overflow-auto">
          <Command.Empty className="say p-2 text-small text-soft">Nothing has these words.</Command.Empty>
          {options.map((o) => (
            <Command.Item
              key={o.value}
              value={`${o.name} ${o.value}`}
              className="menu-item aria-selected:bg-ink aria-selected:text-invert"
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
    </Popover>
  );
}
