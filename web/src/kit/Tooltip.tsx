import { Tooltip as Radix } from "radix-ui";
import type { ReactElement, ReactNode } from "react";
import { usePortal } from "./portal";

/** How long a pointer rests before a hint opens, in ms. The keyboard does not wait. */
const wait = 350;

interface Props {
  /** What is cut, or said only by a shape. It is never the only place: touch has no hints. */
  text: ReactNode;
  children: ReactElement;
}

/** A hint at what the pointer rests on or the keyboard has. Escape closes it. */
export function Tooltip({ text, children }: Props) {
  const portal = usePortal();
  return (
    <Radix.Provider delayDuration={wait}>
      <Radix.Root>
        <Radix.Trigger asChild>{children}</Radix.Trigger>
        <Radix.Portal container={portal}>
          <Radix.Content
            sideOffset={4}
            collisionPadding={8}
            className="z-50 max-w-xs border border-ink bg-ink px-2 py-1 text-small text-invert"
          >
            {text}
          </Radix.Content>
        </Radix.Portal>
      </Radix.Root>
    </Radix.Provider>
  );
}
