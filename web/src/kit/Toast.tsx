import { Toast as Radix } from "radix-ui";
import { createContext, useCallback, useContext, useMemo, useRef, useState, type ReactNode } from "react";
import { useKeys } from "@/keys/react";
import { Button } from "./Button";

/** A word about what was done. */
export interface Told {
  text: ReactNode;
  /** What can be done about it: taking it back, most of all. */
  way?: { word: string; run: () => void };
}

const ToastContext = createContext<(told: Told) => void>(() => undefined);

/** Tells something that was done; the last word stands. */
export const useToast = () => useContext(ToastContext);

/** How long a word stands that asks for nothing, in ms. One that can be acted on stays until it is, or is closed. */
const stays = 8000;

/** Gives what is in it a place for words about what was done: over the bottom, in nobody's way, reached by F8. */
export function Toasts({ children }: { children: ReactNode }) {
  const [told, setTold] = useState<Told & { n: number }>();
  const n = useRef(0);
  const first = useRef<HTMLButtonElement>(null); // of its buttons
  const tell = useCallback((next: Told) => setTold({ ...next, n: ++n.current }), []);
  const keys = useMemo(
    () =>
      told
        ? [{ keys: "F8", does: "To the last message", inFields: true, run: () => first.current?.focus() }]
        : [],
    [told],
  );
  useKeys(keys);
  return (
    <Radix.Provider label="Message" swipeDirection="down">
      <ToastContext value={tell}>{children}</ToastContext>
      {told && (
        <Radix.Root
          key={told.n}
          duration={told.way ? Infinity : stays}
          onOpenChange={(open) => !open && setTold((now) => (now?.n === told.n ? undefined : now))}
          className="flex flex-wrap items-center gap-x-3 gap-y-1 border border-ink bg-sheet p-2 text-ink"
        >
          <Radix.Description className="say min-w-0 flex-1 text-small">{told.text}</Radix.Description>
          {told.way && (
            <Radix.Action altText={told.way.word} asChild>
              <Button ref={first} onClick={told.way.run}>
                {told.way.word}
              </Button>
            </Radix.Action>
          )}
          <Radix.Close asChild>
            <Button ref={told.way ? undefined : first} kind="quiet">
              Close<span className="sr-only"> the message</span>
            </Button>
          </Radix.Close>
        </Radix.Root>
      )}
      <Radix.Viewport
        hotkey={[]}
        label="Messages, by F8"
        className="fixed inset-x-2 bottom-16 z-50 mx-auto max-w-xl outline-none screen-only md:bottom-3"
      />
    </Radix.Provider>
  );
}
