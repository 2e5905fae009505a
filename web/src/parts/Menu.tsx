import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";

/** A button that opens a list of choices; the items are Radix menu items. */
export function Menu({ label, title, children }: { label: string; title: string; children: ReactNode }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="btn btn-quiet bg-paper" aria-label={`${title}: ${label}`}>
        {label} <span aria-hidden>▾</span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={3}
          className="z-40 max-h-[70vh] min-w-44 overflow-auto border border-ink bg-sheet py-1 text-ink"
        >
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
