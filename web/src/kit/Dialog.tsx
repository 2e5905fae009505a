import { Dialog as Radix } from "radix-ui";
import { useRef, type ReactNode } from "react";
import { KeyLayer } from "@/keys/react";
import { useReturnFocus } from "./focus";
import { Portals } from "./portal";

interface Props {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  children: ReactNode;
  wide?: boolean;
  /** It asks for something that must be answered: pressing beside it does not close it, nor does Escape. */
  stays?: boolean;
}

/**
 * A window over the screen. The keyboard is in its first field when it opens, and back where it was when it
 * closes; keys of the screen below do nothing meanwhile. Escape closes it.
 */
export function Dialog({ open, onOpenChange, title, children, wide, stays }: Props) {
  const body = useRef<HTMLDivElement>(null);
  const { onOpenAutoFocus, onCloseAutoFocus } = useReturnFocus();
  const hold = (e: Event) => stays && e.preventDefault();
  return (
    <Radix.Root open={open} onOpenChange={onOpenChange}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-30 bg-rail/45" />
        <Radix.Content
          aria-describedby={undefined}
          onEscapeKeyDown={hold}
          onInteractOutside={hold}
          onOpenAutoFocus={(e) => {
            onOpenAutoFocus();
            const within = body.current;
            const field =
              within?.querySelector<HTMLElement>("[data-first]") ??
              within?.querySelector<HTMLElement>(
                "input:not([type=radio],[type=checkbox],[type=file]), input:checked, select, textarea, [role=combobox]",
              );
            if (!field) return; // nothing to fill in: the way out comes first
            e.preventDefault();
            field.focus();
          }}
          onCloseAutoFocus={onCloseAutoFocus}
          className={`fixed left-1/2 top-[8vh] z-40 max-h-[84vh] w-[calc(100vw-2rem)] ${wide ? "max-w-3xl" : "max-w-md"} -translate-x-1/2 overflow-auto border border-ink bg-sheet p-4 text-ink`}
        >
          <KeyLayer>
            <div className="mb-3 flex items-baseline justify-between gap-4">
              <Radix.Title className="head">{title}</Radix.Title>
              {!stays && (
                <Radix.Close className="textual">
                  Close <span className="kbd">Esc</span>
                </Radix.Close>
              )}
            </div>
            <div ref={body}>
              <Portals>{children}</Portals>
            </div>
          </KeyLayer>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
