import type { Outcome } from "./ports";

const first = 500; // ms
const longest = 8000;

/**
 * How long to wait before what failed is sent once more: for everything when the server is away, else for the
 * record alone. Each further failure doubles it. Times are in ms.
 */
export class Patience {
  private readonly delayed = new Map<string, { tries: number; until: number }>();
  private pausedUntil = 0;
  private failures = 0;

  /** How long everything waits from now on; 0 or less: not at all. */
  paused(now: number): number {
    return this.pausedUntil - now;
  }

  /** How long a record waits from now on; 0 or less: not at all. */
  left(key: string, now: number): number {
    return (this.delayed.get(key)?.until ?? 0) - now;
  }

  /** Whether a record has failed by itself. */
  failed(key: string): boolean {
    return this.delayed.has(key);
  }

  /** Whether no record waits for itself. */
  get none(): boolean {
    return this.delayed.size === 0;
  }

  /** A record was answered for, or made another: it waits no longer. */
  forget(key: string) {
    this.delayed.delete(key);
  }

  /** The server answers. */
  answered() {
    this.failures = 0;
  }

  /** Nothing waits any longer, though what failed by itself still goes by itself. */
  end() {
    this.pausedUntil = 0;
    this.failures = 0;
    for (const d of this.delayed.values()) d.until = 0;
  }

  /** Has a record wait, or everything. It returns whether everything begins to wait. */
  postpone(key: string, o: Outcome & { is: "later" }, now: number): boolean {
    const wait = (tries: number) => o.waitMs ?? Math.min(first * 2 ** tries, longest);
    if (!o.everything) {
      const tries = this.delayed.get(key)?.tries ?? 0;
      this.delayed.set(key, { tries: tries + 1, until: now + wait(tries) });
      return false;
    }
    if (this.pausedUntil > now) return false;
    this.pausedUntil = now + wait(this.failures++);
    return true;
  }
}
