import { useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useState, useSyncExternalStore, type ReactNode } from "react";
import { v7 as uuid } from "uuid";
import { madeOldBy, workedOut } from "@/api/queries";
import { sessionEnded } from "@/app/session";
import { Loading } from "@/kit/States";
import { Anew } from "./anew";
import type { Settled } from "./awaited";
import { Engine, type Edit, type Saving } from "./engine";
import { kindOf, type KindName, type ActContent } from "./kinds";
import { SyncContext, useSync, type Drafts, type Sync } from "./context";
import { memoryShelf } from "./memory";
import { takeOver } from "./outbox";
import type { Told } from "./ports";
import { durableShelf, openDatabase, type Database, type Draft } from "./shelf";
import { follow } from "./stream";
import type { About, Rec, Trouble } from "./machine";

function draftsOf(db: Database | undefined, user: string): Drafts {
  const memory = new Map<string, Draft>();
  const quiet = (p: Promise<unknown>) => void p.catch(() => undefined);
  return {
    get: async (key) => memory.get(key) ?? (await db?.get("drafts", [user, key]).catch(() => undefined)),
    put: (key, content, base) => {
      const draft = { user, key, content, base, at: new Date().toISOString() };
      if (db) quiet(db.put("drafts", draft));
      else memory.set(key, draft);
    },
    drop: (key) => {
      memory.delete(key);
      if (db) quiet(db.delete("drafts", [user, key]));
    },
  };
}

/** Opens what a user has on this device: the engine, with what waits from before, and the drafts. */
async function open(user: string, client: QueryClient, anew: Anew): Promise<Sync> {
  const db = await openDatabase().catch(() => undefined);
  const channel = new BroadcastChannel(`nineyard.sync.${user}`);
  const engine = new Engine({
    shelf: db ? durableShelf(db, user) : memoryShelf(),
    send: (kind, changes) => {
      const k = kindOf(kind);
      if (!k) throw new Error(`nothing sends ${kind}`);
      return k.send(changes);
    },
    batchOf: (kind) => kindOf(kind)?.batch ?? 1,
    tell: (told) => channel.postMessage(told),
    hear: (told) => {
      channel.onmessage = (e: MessageEvent<Told>) => told(e.data);
    },
    lead: (leading) => {
      if (navigator.locks)
        void navigator.locks.request(`nineyard.sync.${user}`, () => {
          leading();
          return new Promise(() => undefined); // as long as the tab lives
        });
      else leading();
    },
    saved: (kind, key, content, answer) => {
      const k = kindOf(kind);
      const old = k && madeOldBy(k.operation(content));
      // What is being read now was asked for before this was saved.
      const records = (old ?? []).filter((name) => !workedOut.includes(name));
      void client.cancelQueries({ predicate: (q) => records.includes(String(q.queryKey[0])) });
      k?.saved?.(client, key, content, answer);
      anew.read(old);
    },
    newId: () => uuid(),
    now: () => new Date(),
    later: (ms, run) => {
      const timer = setTimeout(run, ms);
      return () => clearTimeout(timer);
    },
  });
  await engine.start();
  takeOver(engine, user);
  return { engine, drafts: draftsOf(db, user) };
}

const opened = new Map<string, Promise<Sync>>();

/** Gives the screens of a user what saves. */
export function SyncProvider({ user, children }: { user: string; children: ReactNode }) {
  const client = useQueryClient();
  const [anew] = useState(() => new Anew(client));
  const [sync, setSync] = useState<{ user: string; sync: Sync }>();
  useEffect(() => {
    let here = true;
    let once = opened.get(user);
    if (!once) opened.set(user, (once = open(user, client, anew)));
    void once.then((s) => here && setSync({ user, sync: s }));
    return () => {
      here = false;
    };
  }, [user, client, anew]);
  const engine = sync?.user === user ? sync.sync.engine : undefined;
  useEffect(() => {
    if (!engine) return;
    const leave = (e: BeforeUnloadEvent) => engine.unkept && e.preventDefault();
    // What was told while the line was down could not be read; that may have been anything.
    const online = () => {
      engine.wake();
      anew.read(undefined);
    };
    window.addEventListener("online", online);
    window.addEventListener("beforeunload", leave);
    const onOpen = () => {
      engine.wake();
      void client.refetchQueries({ predicate: (q) => q.state.status === "error" });
    };
    const stop = follow({ anew, user, onOpen, onEnded: sessionEnded });
    return () => {
      stop();
      window.removeEventListener("online", online);
      window.removeEventListener("beforeunload", leave);
    };
  }, [engine, client, user, anew]);
  if (!engine) return <Loading what="what waits on this device" />;
  return <SyncContext value={sync!.sync}>{children}</SyncContext>;
}

/** How the saving stands. */
export function useSaving(): Saving {
  const { engine } = useSync();
  return useSyncExternalStore(engine.listen, engine.saving, engine.saving);
}

/** What waits of all records. */
export function useRecords(): ReadonlyMap<string, Rec> {
  const { engine } = useSync();
  return useSyncExternalStore(engine.listen, engine.records, engine.records);
}

/** What waits of a record. */
export function useRecord(key: string): Rec | undefined {
  const { engine } = useSync();
  const get = useCallback(() => engine.record(key), [engine, key]);
  return useSyncExternalStore(engine.listen, get, get);
}

export interface Save<C> {
  /** It is being saved, or waits for it. */
  busy: boolean;
  /** Why the server does not take it. */
  refused?: Trouble & { why: "refused" };
  /** Somebody else has changed it meanwhile. */
  conflict?: Trouble & { why: "conflict" };
  save: (content: C, base: string | number, about?: About) => Promise<Settled>;
  /** At a conflict: saves this over theirs. */
  settle: (content: C) => Promise<Settled>;
  /** Lets go of what is not saved. */
  drop: () => void;
}

/** Saving one record. */
export function useSave<C>(kind: KindName, key: string): Save<C> {
  const { engine } = useSync();
  const rec = useRecord(key);
  const trouble = rec?.trouble;
  return {
    busy: !!rec && !trouble,
    refused: trouble?.why === "refused" ? trouble : undefined,
    conflict: trouble?.why === "conflict" ? trouble : undefined,
    save: (content, base, about) => engine.submit({ key, kind, content, base: String(base), about }),
    settle: (content) => engine.settle(key, content),
    drop: () => engine.drop(key),
  };
}

/** Doing something once, such as putting a drill in: what becomes of it, and its answer. */
export function useAct<A>() {
  const { engine } = useSync();
  const [key, setKey] = useState("");
  const [answer, setAnswer] = useState<A>();
  const rec = useRecord(key);
  const trouble = rec?.trouble;
  return {
    busy: !!rec && !trouble,
    error: trouble?.message,
    answer,
    /** Forgets the answer, and what was refused. */
    reset: () => {
      if (trouble) engine.drop(key);
      setKey("");
      setAnswer(undefined);
    },
    run: async (content: ActContent, about: About): Promise<A | undefined> => {
      if (trouble) engine.drop(key);
      const id = uuid();
      const edit: Edit = { key: `act/${id}`, kind: "act", id, content, base: "0", about };
      setKey(edit.key);
      const settled = await engine.submit(edit);
      if (settled.is !== "saved") return undefined;
      setAnswer(settled.answer as A);
      return settled.answer as A;
    },
  };
}
