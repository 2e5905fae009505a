import { useCallback, useRef, useState, type RefCallback } from "react";

/** How wide an element is, in px; undefined while it is not seen, as on paper. The first result goes on it. */
export function useWidth<E extends HTMLElement>(): [RefCallback<E>, number | undefined] {
  const [width, setWidth] = useState<number>();
  const watch = useRef<ResizeObserver>(undefined);
  const ref = useCallback((e: E | null) => {
    watch.current?.disconnect();
    if (!e) return;
    const look = () => setWidth(e.clientWidth || undefined);
    watch.current = new ResizeObserver(look);
    watch.current.observe(e);
    look();
  }, []);
  return [ref, width];
}
