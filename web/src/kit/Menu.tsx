import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";
import { KeyLayer } from "@/keys/react";
import { usePortal } from "./portal";

/** A button that opens a list of choices. While it is open the keyboard is the list's. */
export function Menu({ label, title, children }: { label: string; title: string; children: ReactNode }) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className="btn btn-quiet bg-paper" aria-label={`${label}, ${title}`}>
        {label} <span aria-hidden>▾</span>
      </DropdownMenu.Trigger>
      <Choices className="z-40 max-h-[70vh] min-w-44">{children}</Choices>
    </DropdownMenu.Root>
  );
}

interface ChoicesProps {
  label?: string;
  className: string;
  children: ReactNode;
}

/** The list that opens under the button of a menu. */
export function Choices({ label, className, children }: ChoicesProps) {
  const portal = usePortal();
  return (
    <DropdownMenu.Portal container={portal}>
      <DropdownMenu.Content
        align="start"
        sideOffset={3}
        collisionPadding={8}
        aria-label={label}
        className={`${className} overflow-auto border border-ink bg-sheet py-1 text-ink`}
      >
        <KeyLayer>{children}</KeyLayer>
      </DropdownMenu.Content>
    </DropdownMenu.Portal>
  );
}

interface ItemProps {
  onSelect: () => void;
  children: ReactNode;
  disabled?: boolean;
}

export function MenuItem({ onSelect, children, disabled }: ItemProps) {
  return (
    <DropdownMenu.Item className="menu-item" onSelect={onSelect} disabled={disabled}>
      {children}
    </DropdownMenu.Item>
  );
}

export function MenuLabel({ children }: { children: ReactNode }) {
  return <DropdownMenu.Label className="label px-3 py-1">{children}</DropdownMenu.Label>;
}
