import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { Engine } from "./engine";
import { memoryShelf } from "./memory";
import type { Outcome, Outgoing, Shelf, Told } from "./ports";

/** The server as far as saving goes: versions, and a log of changes that answers one sent again as it did first. */
class Server {
  records = new Map<string, { version: number; value: string; history: string[] }>();
  log = new Map<string, { value: string; answer: Outcome }>();
  applied = new Map<string, number>();

  put(key: string, c: Outgoing): Outcome {
    const value = c.content as string;
    const before = this.log.get(c.id);
    if (before) {
      expect(before.value).toBe(value); // an id is of one content
      return before.answer;
    }
    const now = this.records.get(key) ?? { version: 0, value: "", history: [] };
    if (value.startsWith("bad"))
      return { is: "trouble", trouble: { why: "refused", message: "no", status: 422 } };
    if (Number(c.base) !== now.version) {
      const theirs = { version: now.version, value: now.value };
      return {
        is: "trouble",
        trouble: { why: "conflict", message: "both", theirs, base: String(now.version) },
      };
    }
    this.applied.set(value, (this.applied.get(value) ?? 0) + 1);
    this.records.set(key, { version: now.version + 1, value, history: [...now.history, value] });
    const answer: Outcome = {
      is: "saved",
      base: String(now.version + 1),
      answer: { version: now.version + 1, value },
    };
    this.log.set(c.id, { value, answer });
    return answer;
  }
  has = (key: string, value: string) => !!this.records.get(key)?.history.includes(value);
}

interface Tab {
  engine: Engine;
  alive: boolean;
  hear: (t: Told) => void;
  lead?: () => void;
  /** What this tab knows of the server, as its screens would. */
  known: Map<string, string>;
}

type Fault = "none" | "lost before" | "lost after" | "twice" | "500" | "offline" | "signed out";

/** Two coaches' devices with tabs, a server, and a line between that does what lines do. */
class World {
  server = new Server();
  clock = 1_000_000;
  timers: { at: number; run: () => void; tab: Tab }[] = [];
  devices = [0, 1].map(() => ({
    shelf: memoryShelf(),
    tabs: [] as Tab[],
    signedOut: false,
    last: new Map<string, { value: string; by: Tab }>(),
    queue: Promise.resolve(),
  }));
  fault: Fault = "none";
  ids = 0;
  acknowledged = 0;
  private readonly s: fc.Scheduler;

  constructor(s: fc.Scheduler) {
    this.s = s;
  }

  async open(d: number): Promise<void> {
    const device = this.devices[d]!;
    const tab: Tab = { alive: true, hear: () => undefined, known: new Map(), engine: undefined as never };
    // What a tab that is gone had not handed over is gone with it.
    const shelf: Shelf = {
      all: () => device.shelf.all(),
      // Transactions on one store are done in the order in which they were asked for.
      apply: (acts) =>
        new Promise((done) => {
          device.queue = device.queue.then(async () => {
            await this.s.schedule(Promise.resolve(), "shelf");
            if (tab.alive) done(await device.shelf.apply(acts));
          });
        }),
    };
    tab.engine = new Engine({
      shelf,
      send: (_kind, changes) => this.send(d, tab, changes),
      batchOf: () => 2,
      tell: (told) => {
        if (!tab.alive) return;
        for (const other of device.tabs)
          if (other !== tab && other.alive)
            void this.s.schedule(Promise.resolve(), "told").then(() => other.alive && other.hear(told));
      },
      hear: (told) => (tab.hear = told),
      lead: (leading) => {
        tab.lead = leading;
        this.elect(d);
      },
      saved: (_kind, key, content, answer) => {
        this.acknowledged++;
        // Nothing is told to be saved that is not.
        expect(this.server.has(key, content as string)).toBe(true);
        tab.known.set(key, String((answer as { version: number }).version));
      },
      newId: () => `change ${++this.ids}`,
      now: () => new Date(this.clock),
      later: (ms, run) => {
        const timer = { at: this.clock + ms, run, tab };
        this.timers.push(timer);
        return () => (this.timers = this.timers.filter((t) => t !== timer));
      },
    });
    device.tabs.push(tab);
    await tab.engine.start();
  }

  /** The oldest tab that lives sends. */
  elect(d: number) {
    const first = this.devices[d]!.tabs.find((t) => t.alive && t.lead);
    const lead = first?.lead;
    if (first && lead) {
      first.lead = () => undefined;
      lead();
    }
  }

  async send(d: number, tab: Tab, changes: Outgoing[]): Promise<Outcome[]> {
    const fault = this.devices[d]!.signedOut ? "signed out" : this.fault;
    const later: Outcome = { is: "later", why: fault, everything: fault !== "500" };
    await this.s.schedule(Promise.resolve(), "on the way");
    if (fault === "signed out") return changes.map(() => ({ is: "signedOut" }));
    if (fault === "lost before" || fault === "offline" || fault === "500") return changes.map(() => later);
    const put = () => changes.map((c) => this.server.put(c.key, c));
    const answers = put();
    if (fault === "twice") expect(put()).toEqual(answers);
    await this.s.schedule(Promise.resolve(), "on the way back");
    if (!tab.alive) return new Promise(() => undefined);
    return fault === "lost after" ? changes.map(() => later) : answers;
  }

  edit(d: number, t: number, key: string, value: string) {
    const { tabs, last } = this.devices[d]!;
    const tab = tabs.filter((x) => x.alive)[t % Math.max(1, tabs.filter((x) => x.alive).length)];
    if (!tab) return;
    last.set(key, { value, by: tab });
    tab.engine.edit([{ key, kind: "period", content: value, base: tab.known.get(key) ?? "0" }]);
    this.look(tab, d);
  }

  /** A power cut: what was not on the shelf yet may be lost, and only that. */
  async crash(d: number, t: number) {
    const device = this.devices[d]!;
    const tab = device.tabs.filter((x) => x.alive)[t];
    if (!tab) return;
    const kept = new Map((await device.shelf.all()).map((k) => [k.key, k.rec!]));
    for (const [key, rec] of tab.engine.records()) {
      const onShelf = kept.get(key);
      const newest = (r: typeof rec | undefined) => (r?.next ?? r?.head)?.content;
      if (newest(onShelf) !== newest(rec) && newest(rec) === device.last.get(key)?.value)
        device.last.delete(key);
    }
    tab.alive = false;
    this.timers = this.timers.filter((x) => x.tab !== tab);
    if (device.tabs.every((x) => !x.alive)) await this.open(d);
    this.elect(d);
  }

  /** What a tab shows: all that this coach made last is with the server, or is shown as waiting or troubled. */
  look(tab: Tab, d: number) {
    for (const [key, { value, by }] of this.devices[d]!.last) {
      // Another tab may hear of it a moment later.
      if (by !== tab) continue;
      const rec = tab.engine.record(key);
      if (!rec) expect(this.server.has(key, value)).toBe(true);
      else expect([(rec.next ?? rec.head).content === value, this.server.has(key, value)]).toContain(true);
    }
  }

  /** The coach decides what waits for him. */
  decide(d: number, mine: boolean) {
    const device = this.devices[d]!;
    const tab = device.tabs.find((x) => x.alive);
    for (const rec of tab?.engine.records().values() ?? []) {
      if (!rec.trouble) continue;
      const content = (rec.next ?? rec.head).content as string;
      if (rec.trouble.why === "conflict" && mine) tab!.engine.settle(rec.key, content);
      else {
        if (rec.trouble.why === "conflict") tab!.known.set(rec.key, rec.trouble.base);
        tab!.engine.drop(rec.key);
        if (device.last.get(rec.key)?.value === content) device.last.delete(rec.key);
      }
    }
  }

  async rest() {
    for (let i = 0; i < 400 && this.s.count() > 0; i++) await this.s.waitOne();
  }

  /** All is well again: it comes to rest, whatever it takes. */
  async end() {
    this.fault = "none";
    for (let round = 0; round < 60; round++) {
      for (const device of this.devices) {
        device.signedOut = false;
        for (const t of device.tabs) if (t.alive) t.engine.wake();
      }
      await this.rest();
      this.clock += 10_000;
      const due = this.timers.filter((t) => t.at <= this.clock + 1);
      this.timers = this.timers.filter((t) => t.at > this.clock + 1);
      for (const t of due) t.run();
      await this.rest();
      this.decide(0, true);
      this.decide(1, round % 2 === 0);
      await this.rest();
      const idle = this.devices.every((x) => x.tabs.every((t) => !t.alive || t.engine.records().size === 0));
      if (idle && this.s.count() === 0) return;
    }
    throw new Error("it does not come to rest");
  }
}

const key = fc.constantFrom("period/1", "period/2", "period/3");
const device = fc.nat({ max: 1 });
const tab = fc.nat({ max: 2 });
const act = fc.oneof(
  {
    weight: 6,
    arbitrary: fc.record({ what: fc.constant("edit" as const), device, tab, key, bad: fc.nat({ max: 9 }) }),
  },
  { weight: 4, arbitrary: fc.record({ what: fc.constant("go on" as const), n: fc.nat({ max: 6 }) }) },
  {
    weight: 3,
    arbitrary: fc.record({
      what: fc.constant("fault" as const),
      fault: fc.constantFrom<Fault>("none", "none", "lost before", "lost after", "twice", "500", "offline"),
    }),
  },
  { weight: 1, arbitrary: fc.record({ what: fc.constant("sign out" as const), device }) },
  { weight: 1, arbitrary: fc.record({ what: fc.constant("sign in" as const), device }) },
  { weight: 1, arbitrary: fc.record({ what: fc.constant("open" as const), device }) },
  { weight: 1, arbitrary: fc.record({ what: fc.constant("crash" as const), device, tab }) },
  { weight: 1, arbitrary: fc.record({ what: fc.constant("decide" as const), device, mine: fc.boolean() }) },
  { weight: 1, arbitrary: fc.record({ what: fc.constant("wait" as const), ms: fc.nat({ max: 9000 }) }) },
);

describe("saving as a state machine", () => {
  it("loses nothing, doubles nothing and shows nothing as saved that is not", async () => {
    let runs = 0;
    let edits = 0;
    let acknowledged = 0;
    await fc.assert(
      fc.asyncProperty(fc.scheduler(), fc.array(act, { minLength: 4, maxLength: 40 }), async (s, acts) => {
        const w = new World(s);
        await w.open(0);
        await w.open(1);
        for (const a of acts) {
          switch (a.what) {
            case "edit":
              edits++;
              w.edit(a.device, a.tab, a.key, `${a.bad === 0 ? "bad " : ""}${a.device} ${edits}`);
              break;
            case "go on":
              for (let i = 0; i < a.n && s.count() > 0; i++) await s.waitOne();
              break;
            case "fault":
              w.fault = a.fault;
              break;
            case "sign out":
              w.devices[a.device]!.signedOut = true;
              break;
            case "sign in":
              w.devices[a.device]!.signedOut = false;
              for (const t of w.devices[a.device]!.tabs) if (t.alive) t.engine.wake();
              break;
            case "open":
              await w.open(a.device);
              break;
            case "crash":
              await w.crash(a.device, a.tab);
              break;
            case "decide":
              w.decide(a.device, a.mine);
              break;
            case "wait": {
              w.clock += a.ms;
              const due = w.timers.filter((t) => t.at <= w.clock + 1);
              w.timers = w.timers.filter((t) => t.at > w.clock + 1);
              for (const t of due) t.run();
            }
          }
          w.devices.forEach((d, i) => d.tabs.forEach((t) => t.alive && w.look(t, i)));
        }
        await w.end();
        // Nothing is lost: what each coach made last and did not let go is in the record's history.
        for (const d of w.devices)
          for (const [k, { value }] of d.last)
            if (!value.startsWith("bad")) expect(w.server.has(k, value)).toBe(true);
        // Nothing is doubled.
        for (const n of w.server.applied.values()) expect(n).toBe(1);
        runs++;
        acknowledged += w.acknowledged;
      }),
      { numRuns: 1000 },
    );
    console.log(
      `saving: ${runs} random runs, ${edits} edits, ${acknowledged} times told as saved: none lost, none doubled`,
    );
  }, 120_000);
});
