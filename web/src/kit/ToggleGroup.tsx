import { ToggleGroup as Radix } from "radix-ui";
import type { ReactNode } from "react";

interface Props<V extends string> {
  label: string;
  value: V;
  options: { value: V; name: ReactNode }[];
  onChange: (value: V) => void;
}

/** One of a few that all stand there; walked by the arrows. One is always chosen. */
export function ToggleGroup<V extends string>({ label, value, options, onChange }: Props<V>) {
  return (
    <Radix.Root
      type="single"
      aria-label={label}
      value={value}
      onValueChange={(next: V | "") => next && onChange(next)}
      className="flex flex-wrap"
    >
      {options.map((o) => (
        <Radix.Item
          key={o.value}
          value={o.value}
          className="btn -ml-px rounded-none border-soft first:ml-0 data-[state=on]:border-ink data-[state=on]:bg-ink data-[state=on]:text-invert"
        >
          {o.name}
        </Radix.Item>
      ))}
    </Radix.Root>
  );
}
