import type { ReactNode } from "react";
import { Engine } from "./engine";
import { memoryShelf } from "./memory";
import type { Outcome, Outgoing } from "./ports";
import { SyncContext } from "./context";

/** What saves, for a test: in memory, with a server that the test is. */
export function testSync(answer: (kind: string, change: Outgoing) => Outcome = () => saved(1)) {
  let n = 0;
  const drafts = new Map<string, { user: string; key: string; content: unknown; base: string; at: string }>();
  const engine = new Engine({
    shelf: memoryShelf(),
    send: (kind, changes) => Promise.resolve(changes.map((c) => answer(kind, c))),
    batchOf: () => 1,
    tell: () => undefined,
    hear: () => undefined,
    lead: (leading) => leading(),
    saved: () => undefined,
    newId: () => `00000000-0000-7000-8000-${String(++n).padStart(12, "0")}`,
    now: () => new Date("2026-10-13T17:00:00Z"),
    later: () => () => undefined,
  });
  void engine.start();
  return {
    engine,
    drafts: {
      get: (key: string) => Promise.resolve(drafts.get(key)),
      put: (key: string, content: unknown, base: string) =>
        void drafts.set(key, { user: "u", key, content, base, at: "2026-10-13T16:00:00Z" }),
      drop: (key: string) => void drafts.delete(key),
    },
  };
}

export const saved = (version: number, answer: unknown = { version }): Outcome => ({
  is: "saved",
  base: String(version),
  answer,
});

export function WithSync({
  sync = testSync(),
  children,
}: {
  sync?: ReturnType<typeof testSync>;
  children: ReactNode;
}) {
  return <SyncContext value={sync}>{children}</SyncContext>;
}
