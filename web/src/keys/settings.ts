import { useSyncExternalStore } from "react";
import type { Key } from "./registry";

const place = "nineyard.keys";

/** What the coach has made of the keys of one character, on this device. */
export interface KeySettings {
  /** Keys of one character do nothing: what they do is done by buttons. */
  off: boolean;
  /** What is pressed instead, by what it does. */
  instead: Record<string, string>;
}

function read(): KeySettings {
  try {
    const kept = JSON.parse(localStorage.getItem(place) ?? "{}") as Partial<KeySettings>;
    return { off: kept.off === true, instead: kept.instead ?? {} };
  } catch {
    return { off: false, instead: {} };
  }
}

let settings: KeySettings | undefined;
const listeners = new Set<() => void>();

export const keySettings = (): KeySettings => (settings ??= read());

export function setKeySettings(next: KeySettings) {
  settings = next;
  try {
    localStorage.setItem(place, JSON.stringify(next));
  } catch {
    // They hold for this page alone.
  }
  for (const told of listeners) told();
}

export const useKeySettings = (): KeySettings =>
  useSyncExternalStore((told) => {
    listeners.add(told);
    return () => listeners.delete(told);
  }, keySettings);

/** What is pressed in place of a character; empty: nothing. */
export function changed(one: string, key: Pick<Key, "does" | "given">): string {
  const { off, instead } = keySettings();
  if (off) return "";
  return key.given ? one : (instead[key.does] ?? one);
}
