import type { QueryClient } from "@tanstack/react-query";
import type { operations } from "@/api/schema.gen";
import type { Outcome, Outgoing } from "./ports";

/** How one kind of record is saved. */
export interface Kind {
  /** In words, for the list of what is not saved. */
  name: string;
  /** How many go at once; 1 when absent. */
  batch?: number;
  /** The operation of the contract that a content goes by. */
  operation: (content: unknown) => keyof operations;
  send: (changes: Outgoing[]) => Promise<Outcome[]>;
  /** Puts what was saved where screens read it, so that nothing flickers until it is read anew. */
  saved?: (client: QueryClient, key: string, content: unknown, answer: unknown) => void;
}

export const versionOf = (answer: unknown) => String((answer as { version?: number }).version ?? 0);

/** The parts of a key behind its kind. */
export const parts = (c: { key: string }) => c.key.split("/").slice(1) as [string, string, string];

export const each = (send: (c: Outgoing) => Promise<Outcome>) => (changes: Outgoing[]) =>
  Promise.all(changes.map(send));
