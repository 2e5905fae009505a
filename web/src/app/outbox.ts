import { Problem, api, data, type Schemas } from "@/api/client";
import { setSaving } from "./saving";

export type MarkInput = Schemas["MarkInput"];

const batch = 200;

/** Where marks wait. Each is an entry of its own, so that two tabs never overwrite each other's. */
export interface Shelf {
  all: () => MarkInput[];
  add: (mark: MarkInput) => void;
  drop: (id: string) => void;
}

/** A shelf in the browser's storage: it outlives a reload and a closed laptop. */
export function storedShelf(user: string): Shelf {
  const prefix = `nineyard.mark.${user}.`;
  return {
    all: () =>
      Object.keys(localStorage)
        .filter((k) => k.startsWith(prefix))
        .sort() // ids are in order of time
        .map((k) => JSON.parse(localStorage.getItem(k) ?? "null") as MarkInput),
    add: (mark) => localStorage.setItem(prefix + mark.id, JSON.stringify(mark)),
    drop: (id) => localStorage.removeItem(prefix + id),
  };
}

/**
 * The marks that are not yet on disk at the server. A mark is on the shelf before it is painted, leaves it only
 * when the server has answered for it, and is sent again until then. Sending twice is harmless: its id is ours.
 */
export class Outbox {
  private readonly shelf: Shelf;
  private readonly send: (marks: MarkInput[]) => Promise<string[]>;
  private flying = false;
  private failures = 0;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private listeners = new Set<() => void>();
  private ids: ReadonlySet<string> = new Set();
  /** Marks the server will not take, with its reason. They stay shown until they are let go. */
  refused: readonly { mark: MarkInput; reason: string }[] = [];

  constructor(shelf: Shelf, send: (marks: MarkInput[]) => Promise<string[]>) {
    this.shelf = shelf;
    this.send = send;
    this.tell();
  }

  /** Ids of the marks that wait. */
  waiting = (): ReadonlySet<string> => this.ids;
  queue = (): MarkInput[] => this.shelf.all();
  listen = (told: () => void) => {
    this.listeners.add(told);
    return () => this.listeners.delete(told);
  };

  add(marks: MarkInput[]) {
    for (const m of marks) this.shelf.add(m);
    this.tell();
    // Paint first; the marks are on the shelf already.
    setTimeout(() => void this.flush());
  }

  letGo() {
    this.refused = [];
    this.tell();
  }

  async flush(): Promise<void> {
    if (this.flying) return;
    this.flying = true;
    clearTimeout(this.timer);
    try {
      for (let size = batch; ;) {
        const next = this.shelf.all().slice(0, size);
        if (next.length === 0) break;
        try {
          for (const id of await this.send(next)) this.shelf.drop(id);
          this.failures = 0;
          this.tell(undefined, new Date());
          size = batch;
        } catch (error) {
          if (!(error instanceof Problem) || error.passing || error.status === 401 || error.status === 403) {
            this.retryLater(error);
            return;
          }
          // One of them is wrong. Send them one at a time to find it; refuse that one alone.
          if (next.length > 1) {
            size = 1;
            continue;
          }
          this.refuse(next[0]!, error.message);
        }
      }
    } finally {
      this.flying = false;
    }
  }

  private refuse(mark: MarkInput, reason: string) {
    this.shelf.drop(mark.id);
    this.refused = [...this.refused, { mark, reason }];
    this.tell();
  }

  private retryLater(error: unknown) {
    this.failures++;
    const wait = Math.min(500 * 2 ** (this.failures - 1), 8000);
    this.timer = setTimeout(() => void this.flush(), wait);
    this.tell(error instanceof Problem && error.status > 0 ? error.message : "no answer, trying again");
  }

  private tell(trouble?: string, savedAt?: Date) {
    this.ids = new Set(this.shelf.all().map((m) => m.id));
    if (this.ids.size > 0 || savedAt) setSaving({ waiting: this.ids.size, trouble, savedAt });
    for (const told of this.listeners) told();
  }
}

const boxes = new Map<string, Outbox>();

/** The outbox of a user; the same one for every screen. */
export function outboxOf(user: string): Outbox {
  let box = boxes.get(user);
  if (!box) {
    box = new Outbox(
      storedShelf(user),
      async (marks) => (await data(api.POST("/marks", { body: { marks } }))).saved,
    );
    boxes.set(user, box);
    const own = box;
    window.addEventListener("online", () => void own.flush());
    void box.flush();
  }
  return box;
}
