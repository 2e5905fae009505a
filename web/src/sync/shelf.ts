import { openDB, type DBSchema, type IDBPDatabase } from "idb";
import { step, type Rec } from "./machine";
import type { Kept, Shelf } from "./ports";

interface Schema extends DBSchema {
  records: { key: [string, string]; value: { user: string; key: string; rev: number; rec: Rec } };
  counters: { key: string; value: number };
  drafts: { key: [string, string]; value: Draft };
}

/** What is half typed: kept on the device until it is saved or let go. */
export interface Draft {
  user: string;
  key: string;
  /** What was typed, as its form keeps it. */
  content: unknown;
  /** What it was typed over, so that it can be told from it. */
  base: string;
  at: string;
}

export type Database = IDBPDatabase<Schema>;

/** The device's own database. */
export function openDatabase(name = "nineyard"): Promise<Database> {
  return openDB<Schema>(name, 1, {
    upgrade(db) {
      db.createObjectStore("records", { keyPath: ["user", "key"] });
      db.createObjectStore("counters");
      db.createObjectStore("drafts", { keyPath: ["user", "key"] });
    },
  });
}

const all = (user: string) => IDBKeyRange.bound([user, ""], [user, "\uffff"]);

/** A shelf in the browser's database: it outlives a reload, a closed laptop and the tab. */
export function durableShelf(db: Database, user: string): Shelf {
  return {
    all: async () => (await db.getAll("records", all(user))).map(({ key, rev, rec }) => ({ key, rev, rec })),
    apply: async (acts) => {
      const tx = db.transaction(["records", "counters"], "readwrite");
      const records = tx.objectStore("records");
      const counters = tx.objectStore("counters");
      let rev = (await counters.get(user)) ?? 0;
      const kept: Kept[] = [];
      for (const { key, action } of acts) {
        const rec = step((await records.get([user, key]))?.rec, key, action);
        rev++;
        if (rec) void records.put({ user, key, rev, rec });
        else void records.delete([user, key]);
        kept.push({ key, rev, rec });
      }
      void counters.put(rev, user);
      await tx.done;
      return kept;
    },
  };
}
