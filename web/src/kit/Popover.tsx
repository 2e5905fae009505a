import clsx from "clsx";
import { Popover as Radix } from "radix-ui";
import type { ReactNode } from "react";
import { KeyLayer } from "@/keys/react";
import { usePortal } from "./portal";

interface Props {
  label: string;
  /** The button that opens it. */
  trigger: ReactNode;
  open?: boolean;
  onOpenChange?: (open: boolean) => void;
  /** On which side of its button it begins. */
  align?: "start" | "center" | "end";
  className?: string;
  children: ReactNode;
}

/** Something more about what was pressed, beside it. The keyboard is in it while it is open, and goes back. */
export function Popover({ label, trigger, open, onOpenChange, align = "start", className, children }: Props) {
  const portal = usePortal();
  return (
    <Radix.Root open={open} onOpenChange={onOpenChange}>
      <Radix.Trigger asChild>{trigger}</Radix.Trigger>
      <Radix.Portal container={portal}>
        <Radix.Content
          align={align}
          sideOffset={3}
          collisionPadding={8}
          aria-label={label}
          className={clsx(
            "z-50 max-h-[70vh] max-w-[calc(100vw-1rem)] overflow-auto border border-ink bg-sheet text-ink",
            className,
          )}
        >
          <KeyLayer>{children}</KeyLayer>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
