import { Tabs as Radix } from "radix-ui";
import type { ReactNode } from "react";

interface Props {
  label: string;
  value: string;
  onChange: (value: string) => void;
  tabs: { value: string; name: ReactNode; content: ReactNode }[];
}

/** Sheets that lie over each other; the arrows go from name to name. */
export function Tabs({ label, value, onChange, tabs }: Props) {
  return (
    <Radix.Root value={value} onValueChange={onChange}>
      <Radix.List aria-label={label} className="mb-2 flex gap-3 border-b border-rule">
        {tabs.map((t) => (
          <Radix.Trigger
            key={t.value}
            value={t.value}
            className="min-h-7 border-b-2 border-transparent pb-1 text-small font-semibold text-soft data-[state=active]:border-flag data-[state=active]:text-ink pointer-coarse:min-h-11"
          >
            {t.name}
          </Radix.Trigger>
        ))}
      </Radix.List>
      {tabs.map((t) => (
        <Radix.Content key={t.value} value={t.value}>
          {t.content}
        </Radix.Content>
      ))}
    </Radix.Root>
  );
}
