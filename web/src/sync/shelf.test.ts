import "fake-indexeddb/auto";
import fc from "fast-check";
import { afterEach, describe, expect, it } from "vitest";
import type { Action } from "./machine";
import { memoryShelf } from "./memory";
import type { Act, Shelf } from "./ports";
import { durableShelf, openDatabase, type Database } from "./shelf";
import { Engine } from "./engine";
import { takeOver } from "./outbox";
import { testSync } from "./testing";

const edit = (id: string, content: unknown, base = "1"): Action => ({
  do: "edit",
  kind: "period",
  id,
  content,
  base,
  madeAt: "2026-10-13T17:00:00Z",
});

const open: Database[] = [];
let n = 0;
async function durable(user = "u", name = `db${++n}`): Promise<Shelf> {
  const db = await openDatabase(name);
  open.push(db);
  return durableShelf(db, user);
}
afterEach(() => open.splice(0).forEach((db) => db.close()));

/** Every shelf keeps what the machine says. */
describe.each([
  ["in the browser's database", () => durable()],
  ["in memory", () => Promise.resolve(memoryShelf())],
])("a shelf %s", (_, make) => {
  it("does one act after the other and counts what it keeps", async () => {
    const shelf = await make();
    const first = await shelf.apply([{ key: "a", action: edit("1", "x") }]);
    expect(first).toMatchObject([
      { key: "a", rev: 1, rec: { head: { id: "1", content: "x", sent: false } } },
    ]);
    const both = await Promise.all([
      shelf.apply([{ key: "a", action: { do: "sending", id: "1" } }]),
      shelf.apply([
        { key: "a", action: edit("2", "y") },
        { key: "b", action: edit("3", "z") },
      ]),
    ]);
    expect(both[1]).toMatchObject([
      { key: "a", rev: 3, rec: { head: { id: "1", sent: true }, next: { id: "2" } } },
      { key: "b", rev: 4 },
    ]);
    const done = await shelf.apply([
      { key: "a", action: { do: "saved", id: "1", base: "2" } },
      { key: "b", action: { do: "drop", id: "3" } },
    ]);
    expect(done[0]?.rec?.head).toMatchObject({ id: "2", content: "y", base: "2", sent: false });
    expect((await shelf.all()).map((k) => k.key)).toEqual(["a"]);
  });
  it("keeps what the other one keeps, whatever is done to it", async () => {
    const action = fc.oneof(
      fc.nat({ max: 5 }).map((i) => edit(String(i), i)),
      fc.nat({ max: 5 }).map((i): Action => ({ do: "sending", id: String(i) })),
      fc.nat({ max: 5 }).map((i): Action => ({ do: "saved", id: String(i), base: "7" })),
      fc.nat({ max: 5 }).map((i): Action => ({ do: "drop", id: String(i) })),
      fc.nat({ max: 5 }).map((i): Action => ({
        do: "trouble",
        id: String(i),
        trouble: { why: "conflict", message: "both", theirs: {}, base: "9" },
      })),
      fc
        .nat({ max: 5 })
        .map((i): Action => ({ do: "settle", over: String(i), id: `s${i}`, content: i, madeAt: "" })),
    );
    const acts = fc.array(fc.record({ key: fc.constantFrom("a", "b"), action }), { maxLength: 12 });
    await fc.assert(
      fc.asyncProperty(acts, async (list: Act[]) => {
        const [one, other] = [await make(), memoryShelf()];
        expect(await one.apply(list)).toEqual(await other.apply(list));
        const there = async (s: Shelf) =>
          (await s.all()).sort((a, b) => a.key.localeCompare(b.key)).map((k) => k.rec);
        expect(await there(one)).toEqual(await there(other));
      }),
      { numRuns: 40 },
    );
  });
});

describe("what is kept on a device", () => {
  it("outlives the page and is each user's own", async () => {
    const shelf = await durable("kell", "shared");
    await shelf.apply([{ key: "a", action: edit("1", "x") }]);
    open.splice(0).forEach((db) => db.close());
    expect(await (await durable("kell", "shared")).all()).toHaveLength(1);
    expect(await (await durable("orrin", "shared")).all()).toHaveLength(0);
  });
  it("is kept in memory when the device keeps nothing, and it is said", async () => {
    const sync = testSync();
    const broken: Shelf = {
      all: () => Promise.resolve([]),
      apply: () => Promise.reject(new Error("the disk is full")),
    };
    const engine = new Engine({ ...portsOf(sync), shelf: broken });
    await engine.start();
    engine.edit([{ key: "period/1", kind: "period", content: "x", base: "1" }]);
    await engine.kept();
    expect(engine.saving().pageOnly).toBe(true);
  });
});

/** Ports that answer nothing: what waits goes on waiting. */
function portsOf(sync: ReturnType<typeof testSync>) {
  void sync;
  return {
    send: () => new Promise<never>(() => undefined),
    batchOf: () => 1,
    tell: () => undefined,
    hear: () => undefined,
    lead: (leading: () => void) => leading(),
    saved: () => undefined,
    newId: () => crypto.randomUUID(),
    now: () => new Date(),
    later: () => () => undefined,
  };
}

describe("marks that an older version of the page left waiting", () => {
  it("are taken over, each once, under the ids they had", async () => {
    const store = new Map<string, string>();
    const mark = (id: string, rep: number) =>
      JSON.stringify({ id, placement_id: "p", player_id: "a", rep, state: "looked", faults: [] });
    store.set("nineyard.mark.kell.1", mark("1", 1));
    store.set("nineyard.mark.kell.2", mark("2", 2));
    store.set("nineyard.mark.orrin.3", mark("3", 3));
    const local = new Proxy(
      {
        getItem: (k: string) => store.get(k) ?? null,
        removeItem: (k: string) => void store.delete(k),
      },
      {
        ownKeys: () => [...store.keys()],
        getOwnPropertyDescriptor: () => ({ enumerable: true, configurable: true }),
      },
    );
    Object.defineProperty(globalThis, "localStorage", { value: local, configurable: true });
    const engine = new Engine({ ...portsOf(testSync()), shelf: memoryShelf() });
    await engine.start();
    takeOver(engine, "kell");
    await engine.kept();
    await new Promise((done) => setTimeout(done));
    expect([...engine.records().values()].map((r) => [r.key, r.head.id])).toEqual([
      ["mark/p/a/1", "1"],
      ["mark/p/a/2", "2"],
    ]);
    expect([...store.keys()]).toEqual(["nineyard.mark.orrin.3"]);
  });
});
