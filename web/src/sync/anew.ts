import type { QueryClient } from "@tanstack/react-query";
import { makeAllOld, makeOld } from "@/api/old";
import { workedOut } from "@/api/queries";

const gather = 25; // ms in which what is told is gathered before screens read it anew
const settle = 700; // ms after the last change before what is worked out from many is read anew
const longest = 3000; // ms that it may wait at most while changes go on

/**
 * Has screens read anew what has become old: records at once, what is worked out from many of them once it has
 * come to rest. Only what is on the screen is read; the rest is when it is opened.
 */
export class Anew {
  private readonly client: QueryClient;
  private readonly quick = new Set<string>();
  private readonly slow = new Set<string>();
  private timer: ReturnType<typeof setTimeout> | undefined;
  private slowTimer: ReturnType<typeof setTimeout> | undefined;
  private since = 0;

  constructor(client: QueryClient) {
    this.client = client;
  }

  /** The first parts of the keys of what is old; undefined: everything. */
  read(keys: string[] | undefined) {
    if (!keys) {
      void makeAllOld(this.client);
      return;
    }
    for (const k of keys) (workedOut.includes(k) ? this.slow : this.quick).add(k);
    if (this.quick.size > 0) this.timer ??= setTimeout(this.readQuick, gather);
    if (this.slow.size === 0) return;
    const now = Date.now();
    if (this.slowTimer === undefined) this.since = now;
    clearTimeout(this.slowTimer);
    this.slowTimer = setTimeout(this.readSlow, Math.max(0, Math.min(settle, this.since + longest - now)));
  }

  private readonly readQuick = () => {
    this.timer = undefined;
    this.invalidate(this.quick);
  };

  private readonly readSlow = () => {
    this.slowTimer = undefined;
    this.invalidate(this.slow);
  };

  private invalidate(keys: Set<string>) {
    const now = new Set(keys);
    keys.clear();
    void makeOld(this.client, { predicate: (q) => now.has(String(q.queryKey[0])) });
  }
}
