import { AlertDialog as Radix } from "radix-ui";
import type { ReactNode } from "react";
import { KeyLayer } from "@/keys/react";
import { useReturnFocus } from "./focus";

interface Props {
  title: string;
  /** What has happened, and what is to be decided. */
  says: ReactNode;
  /** The ways out of it: `AlertWay`s. There is no other. */
  ways: ReactNode;
  children?: ReactNode;
}

/** A question that must be answered before anything else: neither Escape nor a press beside it closes it. */
export function AlertDialog({ title, says, ways, children }: Props) {
  const focus = useReturnFocus();
  return (
    <Radix.Root open>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-30 bg-rail/45" />
        <Radix.Content
          {...focus}
          onEscapeKeyDown={(e) => e.preventDefault()}
          className="fixed left-1/2 top-[6vh] z-40 max-h-[88vh] w-[calc(100vw-1.5rem)] max-w-3xl -translate-x-1/2 overflow-auto border-2 border-watch bg-sheet p-4 text-ink"
        >
          <KeyLayer>
            <Radix.Title className="head">{title}</Radix.Title>
            <Radix.Description className="say mt-1">{says}</Radix.Description>
            {children}
            <p className="mt-3 flex flex-wrap gap-2">{ways}</p>
          </KeyLayer>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}

/** A way out of the question. The keyboard begins at the one that changes nothing. */
export function AlertWay({ main, children }: { main?: boolean; children: ReactNode }) {
  return main ? (
    <Radix.Action asChild>{children}</Radix.Action>
  ) : (
    <Radix.Cancel asChild>{children}</Radix.Cancel>
  );
}
