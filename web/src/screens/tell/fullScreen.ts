import { useCallback, useRef, useSyncExternalStore } from "react";

const listen = (l: () => void) => {
  document.addEventListener("fullscreenchange", l);
  return () => document.removeEventListener("fullscreenchange", l);
};

/** A part of the page that fills the screen by one key, for a room or for the player beside one. */
export function useFullScreen<T extends HTMLElement>() {
  const part = useRef<T>(null);
  const on = useSyncExternalStore(listen, () => document.fullscreenElement !== null);
  const toggle = useCallback(() => {
    if (document.fullscreenElement) void document.exitFullscreen();
    // Where a browser has none it stays as it is.
    else void part.current?.requestFullscreen().catch(() => undefined);
  }, []);
  return { part, on, toggle };
}

/** The picture as large as it fits with its words under it. */
export const onScreen = "mx-auto w-[min(100%,calc((100vh-13rem)*16/9))]";
