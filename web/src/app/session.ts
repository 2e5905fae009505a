import type { QueryClient } from "@tanstack/react-query";
import { useSyncExternalStore } from "react";
import { api, data, forgetRead, keepToken, whenSignedOut } from "@/api/client";

let ended = false;
const listeners = new Set<() => void>();

function set(now: boolean) {
  if (now === ended) return;
  ended = now;
  for (const told of listeners) told();
}

/** The session has ended in the middle of work: the frame asks to sign in over the screen. */
export const sessionEnded = () => set(true);
whenSignedOut(sessionEnded);

/** Somebody has signed in. */
export const sessionBegun = () => set(false);

/** Forgets all that was read: it was for who was signed in before. */
export function forgetAll(client: QueryClient) {
  client.clear();
  forgetRead();
}

export function useSessionEnded(): boolean {
  return useSyncExternalStore(
    (told) => {
      listeners.add(told);
      return () => listeners.delete(told);
    },
    () => ended,
  );
}

/** Reads the request token anew: the one that was sent is old. */
export async function refreshToken(): Promise<void> {
  try {
    keepToken((await data(api.GET("/session"))).csrf);
  } catch {
    // The next try says what is wrong.
  }
}
