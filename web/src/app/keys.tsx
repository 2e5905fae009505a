import { createContext, useContext, useEffect, useMemo, useRef, useState, type ReactNode } from "react";

/** One key of a screen: what is pressed, what it does in words, and what it runs. */
export interface Key {
  keys: string;
  does: string;
  run?: (event: KeyboardEvent) => void;
}

interface Registry {
  shown: Map<number, Key[]>;
  set: (id: number, keys: Key[]) => void;
  drop: (id: number) => void;
}

const KeysContext = createContext<Registry | null>(null);

export function KeysProvider({ children }: { children: ReactNode }) {
  const [shown, setShown] = useState(new Map<number, Key[]>());
  const registry = useMemo(
    () => ({
      set: (id: number, keys: Key[]) => setShown((old) => new Map(old).set(id, keys)),
      drop: (id: number) =>
        setShown((old) => {
          const next = new Map(old);
          next.delete(id);
          return next;
        }),
    }),
    [],
  );
  const value = useMemo(() => ({ shown, ...registry }), [shown, registry]);
  return <KeysContext value={value}>{children}</KeysContext>;
}

/** All keys that work now, for the list behind `?`. */
export function useShownKeys(): Key[] {
  const registry = useContext(KeysContext);
  return registry ? [...registry.shown.values()].flat() : [];
}

let nextId = 1;

/**
 * Makes keys work while the part is on the screen and lists them under `?`. Keys typed into a field, or while
 * a dialog is open, are left alone.
 */
export function useKeys(keys: Key[]) {
  const registry = useContext(KeysContext);
  const latest = useRef(keys);
  useEffect(() => {
    latest.current = keys;
  });
  const listed = keys.map((k) => `${k.keys}\t${k.does}`).join("\n");
  const set = registry?.set;
  const drop = registry?.drop;
  useEffect(() => {
    const id = nextId++;
    set?.(
      id,
      listed
        .split("\n")
        .filter(Boolean)
        .map((line) => {
          const [k = "", does = ""] = line.split("\t");
          return { keys: k, does };
        }),
    );
    return () => drop?.(id);
  }, [listed, set, drop]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.defaultPrevented || isTyping(event.target) || document.querySelector("[role=dialog]")) return;
      const pressed = nameOf(event);
      const found = latest.current.find((k) => k.run && k.keys.split(" ").includes(pressed));
      if (found?.run) {
        event.preventDefault();
        found.run(event);
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
}

/** The name of a key press: `Ctrl+z`, `Shift+ArrowLeft`, `a`, `?`. */
export function nameOf(event: KeyboardEvent | React.KeyboardEvent): string {
  const plain = event.key === " " ? "Space" : event.key;
  const ctrl = event.ctrlKey || event.metaKey ? "Ctrl+" : "";
  const alt = event.altKey ? "Alt+" : "";
  const shift = event.shiftKey && plain.length > 1 ? "Shift+" : "";
  return ctrl + alt + shift + (ctrl ? plain.toLowerCase() : plain);
}

function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || ["INPUT", "TEXTAREA", "SELECT"].includes(target.tagName))
  );
}
