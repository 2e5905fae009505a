import { step, type Rec } from "./machine";
import type { Act, Kept, Shelf } from "./ports";

/** A shelf in memory, for a browser that keeps nothing: it lives as long as the page. */
export function memoryShelf(from: Rec[] = [], last = 0): Shelf {
  let rev = last;
  const records = new Map<string, Kept>(from.map((rec) => [rec.key, { key: rec.key, rev: ++rev, rec }]));
  return {
    all: () => Promise.resolve([...records.values()].filter((k) => k.rec)),
    apply: (acts: Act[]) =>
      Promise.resolve(
        acts.map(({ key, action }) => {
          const kept = { key, rev: ++rev, rec: step(records.get(key)?.rec, key, action) };
          records.set(key, kept);
          return kept;
        }),
      ),
  };
}
