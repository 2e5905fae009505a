import type { Rec } from "./machine";

/** What became of a change that was submitted. */
export type Settled = { is: "saved"; answer: unknown } | { is: "trouble" } | { is: "replaced" };

interface Waiting {
  id: string;
  settle: (s: Settled) => void;
}

/** Who waits for what becomes of a change of a record. */
export class Awaited {
  private readonly waiting = new Map<string, Waiting[]>();

  /** Waits for what becomes of a change. */
  outcome(key: string, id: string): Promise<Settled> {
    return new Promise((settle) => {
      this.waiting.set(key, [...(this.waiting.get(key) ?? []), { id, settle }]);
    });
  }

  /** The server has answered for a change. */
  saved(key: string, id: string, answer: unknown) {
    this.tell(key, (one) => (one === id ? { is: "saved", answer } : undefined));
  }

  /**
   * Tells who waits for a change that is in trouble, or whose place another one has taken. A change is still to
   * come while it is part of the record, or `underway` says so.
   */
  look(key: string, rec: Rec | undefined, underway: (id: string) => boolean) {
    this.tell(key, (id) => {
      if (rec?.head.id === id && rec.trouble) return { is: "trouble" };
      if (rec?.head.id === id || rec?.next?.id === id || underway(id)) return undefined;
      return { is: "replaced" };
    });
  }

  /** Tells each who waits for a change of a record what became of it, and forgets him; undefined: he waits on. */
  private tell(key: string, became: (id: string) => Settled | undefined) {
    const rest = (this.waiting.get(key) ?? []).filter(({ id, settle }) => {
      const settled = became(id);
      if (settled) settle(settled);
      return !settled;
    });
    if (rest.length > 0) this.waiting.set(key, rest);
    else this.waiting.delete(key);
  }
}
