import type { Action, Change, Rec, Trouble } from "./machine";

/** An action on a record. */
export interface Act {
  key: string;
  action: Action;
}

/** A record as the shelf has it after an action; rev counts what is put on the shelf. */
export interface Kept {
  key: string;
  rev: number;
  rec?: Rec;
}

/** Where it is kept what waits: one for all tabs of a browser. Actions are done one after the other. */
export interface Shelf {
  all: () => Promise<Kept[]>;
  apply: (acts: Act[]) => Promise<Kept[]>;
}

/** What the server said of a change. */
export type Outcome =
  | { is: "saved"; base: string; answer: unknown }
  | { is: "trouble"; trouble: Trouble }
  /** No answer, or one that may be another later. */
  | { is: "later"; why: string; everything: boolean; waitMs?: number }
  /** Nobody is signed in. */
  | { is: "signedOut" };

export interface Outgoing extends Change {
  key: string;
}

/** What tabs tell each other. */
export type Told =
  | { is: "kept"; kept: Kept[] }
  | {
      is: "saved";
      key: string;
      kind: string;
      id: string;
      content: unknown;
      base: string;
      answer: unknown;
    };

export interface Ports {
  shelf: Shelf;
  /** Sends changes of one kind; the outcomes stand in the order of the changes. */
  send: (kind: string, changes: Outgoing[]) => Promise<Outcome[]>;
  /** How many changes of a kind may be sent at once. */
  batchOf: (kind: string) => number;
  /** Tells the other tabs, and hears them. */
  tell: (told: Told) => void;
  hear: (told: (t: Told) => void) => void;
  /** Calls back when this tab is the one that sends. */
  lead: (leading: () => void) => void;
  /** A change was saved, here or in another tab. */
  saved: (kind: string, key: string, content: unknown, answer: unknown) => void;
  newId: () => string;
  now: () => Date;
  later: (ms: number, run: () => void) => () => void;
}
