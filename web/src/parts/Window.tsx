import { Dialog } from "radix-ui";
import { useRef, type ReactNode } from "react";

interface Props {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  children: ReactNode;
  wide?: boolean;
}

/**
 * A window over the screen. The keyboard is in its first field when it opens; Escape closes it and focus
 * returns to where it was.
 */
export function Window({ open, onOpenChange, title, children, wide }: Props) {
  const body = useRef<HTMLDivElement>(null);
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-rail/45" />
        <Dialog.Content
          aria-describedby={undefined}
          onOpenAutoFocus={(e) => {
            const field = body.current?.querySelector<HTMLElement>(
              "input:not([type=radio]), input:checked, select, textarea",
            );
            if (!field) return; // nothing to fill in: the way out comes first
            e.preventDefault();
            field.focus();
          }}
          className={`fixed left-1/2 top-[8vh] z-40 max-h-[84vh] w-[calc(100vw-2rem)] ${wide ? "max-w-3xl" : "max-w-md"} -translate-x-1/2 overflow-auto border border-ink bg-sheet p-4 text-ink`}
        >
          <div className="mb-3 flex items-baseline justify-between gap-4">
            <Dialog.Title className="head">{title}</Dialog.Title>
            <Dialog.Close className="label">
              Close <span className="kbd">Esc</span>
            </Dialog.Close>
          </div>
          <div ref={body}>{children}</div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
