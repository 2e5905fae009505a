import { useCallback, useEffect, useMemo, useRef } from "react";
import { useLocation } from "react-router";
import { useSync } from "./context";
import { contentOf, type Trouble } from "./machine";
import { useRecords } from "./react";
import { useUndo } from "./undo";

/** How records of one kind, or of several, are put on a sheet. */
export interface Of<T> {
  /** The id that the record of a key has on the sheet; undefined for one that is not on it. */
  idOf: (key: string) => string | undefined;
  keyOf: (id: string, item: T) => string;
  /** What is on the sheet for the content of a record. */
  read: (key: string, content: unknown) => T;
  /** The content of a record; null when it is taken out. Version 0: the server does not have it. */
  write: (id: string, item: T | undefined, version: number) => unknown;
  alike: (a: T | undefined, b: T | undefined) => boolean;
  /** In words, for what is not saved. */
  says: (item: T) => string;
}

/** A record that is not saved, and why. */
export interface Unsaved<T> {
  key: string;
  id: string;
  mine: T | null;
  trouble: Trouble;
}

/** Records that are worked on together, with undo of many steps over all of them. */
export interface Sheet<T> {
  items: ReadonlyMap<string, T>;
  /** Makes the sheet this; one step of undo. */
  change: (next: ReadonlyMap<string, T>) => void;
  undo: () => void;
  redo: () => void;
  canUndo: boolean;
  canRedo: boolean;
  /** What was done cannot be taken back. */
  forget: () => void;
  unsaved: Unsaved<T>[];
  /** At a conflict: mine over theirs. */
  keepMine: (u: Unsaved<T>) => void;
  takeTheirs: (u: Unsaved<T>) => void;
}

/**
 * What waits to be saved over what the server has, record by record, so that two who change different ones never
 * meet. `of` stays the same from one painting to the next.
 */
export function useSheet<T>(
  server: ReadonlyMap<string, T>,
  versions: ReadonlyMap<string, number>,
  of: Of<T>,
): Sheet<T> {
  const { engine } = useSync();
  const { pathname } = useLocation();
  const records = useRecords();
  const { items, unsaved } = useMemo(() => {
    const items = new Map(server);
    const unsaved: Unsaved<T>[] = [];
    for (const [key, rec] of records) {
      const id = of.idOf(key);
      if (id === undefined) continue;
      const content = contentOf(rec);
      const mine = content === null ? null : of.read(key, content);
      if (mine === null) items.delete(id);
      else items.set(id, mine);
      if (rec.trouble) unsaved.push({ key, id, mine, trouble: rec.trouble });
    }
    return { items: items as ReadonlyMap<string, T>, unsaved };
  }, [server, records, of]);
  const latest = useRef(items);
  const known = useRef(versions);
  useEffect(() => {
    latest.current = items;
    known.current = versions;
  });
  const put = useCallback(
    (next: ReadonlyMap<string, T>) => {
      const was = latest.current;
      const edits = [...new Set([...was.keys(), ...next.keys()])]
        .filter((id) => !of.alike(was.get(id), next.get(id)))
        .map((id) => {
          const item = (next.get(id) ?? was.get(id))!;
          const key = of.keyOf(id, item);
          const version = known.current.get(id) ?? 0;
          return {
            key,
            kind: key.split("/")[0]!,
            content: of.write(id, next.get(id), version),
            base: String(version),
            about: { says: of.says(item), href: pathname },
          };
        });
      latest.current = next;
      if (edits.length > 0) engine.edit(edits);
    },
    [engine, pathname, of],
  );
  const steps = useUndo(put);
  const { record } = steps;
  const change = useCallback(
    (next: ReadonlyMap<string, T>) => {
      record(latest.current, next);
      put(next);
    },
    [put, record],
  );
  return {
    items,
    change,
    undo: steps.undo,
    redo: steps.redo,
    canUndo: steps.canUndo,
    canRedo: steps.canRedo,
    forget: steps.forget,
    unsaved,
    keepMine: (u) => void engine.settle(u.key, of.write(u.id, u.mine ?? undefined, versions.get(u.id) ?? 0)),
    takeTheirs: (u) => {
      steps.forget();
      engine.drop(u.key);
    },
  };
}
