import { createContext, useContext } from "react";
import type { Engine } from "./engine";
import type { Draft } from "./shelf";

/** Where drafts are kept. */
export interface Drafts {
  get: (key: string) => Promise<Draft | undefined>;
  put: (key: string, content: unknown, base: string) => void;
  drop: (key: string) => void;
}

export interface Sync {
  engine: Engine;
  drafts: Drafts;
}

export const SyncContext = createContext<Sync | null>(null);

export function useSync(): Sync {
  const sync = useContext(SyncContext);
  if (!sync) throw new Error("useSync outside of a SyncProvider");
  return sync;
}
