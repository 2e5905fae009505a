import {
  createContext,
  useContext,
  useEffect,
  useLayoutEffect,
  useRef,
  useState,
  useSyncExternalStore,
  type ReactNode,
} from "react";
import { bind, lay, listen, screenLayer, shownKeys, start, type Key, type Layer } from "./registry";

export type { Key } from "./registry";

const LayerContext = createContext<Layer>(screenLayer);

/** Makes keys work while the part is on the screen, on its layer, and lists them under `?`. */
export function useKeys(keys: Key[]) {
  const layer = useContext(LayerContext);
  const latest = useRef(keys);
  useLayoutEffect(() => {
    latest.current = keys;
  });
  // What is listed changes seldom, what it runs with every render.
  const listed = JSON.stringify(keys.map((k) => [k.keys, k.does, k.inFields ?? false, k.given ?? false]));
  // Before it is painted: what is seen can be pressed.
  useLayoutEffect(() => {
    const list = (JSON.parse(listed) as [string, string, boolean, boolean][]).map(
      ([names, does, inFields, given], i): Key => ({
        keys: names,
        does,
        inFields,
        given,
        run: (e) => latest.current[i]?.run(e),
      }),
    );
    return bind(layer, list);
  }, [listed, layer]);
}

/** A layer over the screen: while it is there the keys below it do nothing. */
export function KeyLayer({ children }: { children: ReactNode }) {
  const [layer] = useState(() => Symbol("layer"));
  useLayoutEffect(() => lay(layer), [layer]);
  return <LayerContext value={layer}>{children}</LayerContext>;
}

/** Hears the keyboard while it is mounted. */
export function useKeyboard() {
  useEffect(() => start(), []);
}

/** All keys of the screen that work now. */
export const useShownKeys = (): readonly Key[] => useSyncExternalStore(listen, shownKeys);
