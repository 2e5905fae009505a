/**
 * What waits to be saved of one record, and how it goes on: pure, so that it can be tested as the state machine
 * it is. A record has one change on its way at most (head); what is changed meanwhile is kept beside it (next),
 * the newest content alone. A change keeps its id for ever: sent again, the server answers it as the first time.
 */
export interface Change {
  id: string;
  content: unknown;
  /** What the content was made on: a version, or whatever the kind of record goes by. */
  base: string;
  /** When, by this device's clock. */
  madeAt: string;
  /** Whether the server may have it: from then on id and content are fixed. */
  sent: boolean;
}

/** Why a record is not saved and will not be without the coach. */
export type Trouble =
  | { why: "conflict"; message: string; theirs: unknown; base: string }
  | { why: "refused"; message: string; status: number; field?: string };

/** What a record is in words, and where it is shown: for the list of what is not saved. */
export interface About {
  says: string;
  href: string;
}

export interface Rec {
  key: string;
  kind: string;
  about?: About;
  head: Change;
  next?: Change;
  trouble?: Trouble;
}

export type Action =
  | {
      do: "edit";
      kind: string;
      id: string;
      content: unknown;
      base: string;
      madeAt: string;
      about?: About;
    }
  | { do: "sending"; id: string }
  | { do: "saved"; id: string; base: string }
  | { do: "trouble"; id: string; trouble: Trouble }
  /** The coach decides at a conflict: this content, made on theirs. */
  | { do: "settle"; over: string; id: string; content: unknown; madeAt: string }
  /** The coach lets go of a change that is not saved; what was changed since stays. */
  | { do: "drop"; id: string };

/** The record after an action; undefined: nothing of it waits. */
export function step(rec: Rec | undefined, key: string, action: Action): Rec | undefined {
  switch (action.do) {
    case "edit":
      return edit(rec, key, action);
    case "sending":
      return rec?.head.id === action.id && !rec.trouble ? { ...rec, head: { ...rec.head, sent: true } } : rec;
    case "saved":
      if (rec?.head.id !== action.id) return rec;
      // Whatever was said of it before, the server has it now.
      return rec.next ? { ...same(rec), head: { ...rec.next, base: action.base } } : undefined;
    case "trouble":
      return rec?.head.id === action.id ? troubled(rec, action.trouble) : rec;
    case "settle":
      if (rec?.trouble?.why !== "conflict" || rec.head.id !== action.over) return rec;
      return {
        ...same(rec),
        head: {
          id: action.id,
          content: action.content,
          base: rec.trouble.base,
          madeAt: action.madeAt,
          sent: false,
        },
      };
    case "drop":
      if (rec?.head.id !== action.id) return rec;
      return rec.next && { ...same(rec), head: rec.next };
  }
}

/** Which record it is. */
const same = ({ key, kind, about }: Rec) => ({ key, kind, about });

function edit(rec: Rec | undefined, key: string, a: Action & { do: "edit" }): Rec {
  const { id, content, madeAt, kind } = a;
  const made = (base: string): Change => ({ id, content, base, madeAt, sent: false });
  const about = a.about ?? rec?.about;
  if (!rec) return { key, kind, about, head: made(a.base) };
  // A conflict stays until the coach has decided, with what he has made meanwhile.
  if (rec.trouble?.why === "conflict") return { ...rec, head: made(rec.head.base) };
  // What was refused is replaced by what he makes of it.
  if (rec.trouble || !rec.head.sent) return { key, kind, about, head: made(rec.head.base) };
  return { ...rec, about, next: made(rec.head.base) };
}

function troubled(rec: Rec, trouble: Trouble): Rec {
  // The newest content counts: it is what both versions are shown of, and what is tried when the one before
  // it was refused.
  if (!rec.next) return { ...rec, trouble };
  const head = { ...rec.next, base: rec.head.base };
  return trouble.why === "refused" ? { ...same(rec), head } : { ...same(rec), head, trouble };
}

/** The content that the coach sees of a record of which something waits. */
export const contentOf = (rec: Rec): unknown => (rec.next ?? rec.head).content;

/** Whether two states of a record show the same. */
export function looksLike(a: Rec | undefined, b: Rec | undefined): boolean {
  return (
    a === b || (!!a && !!b && a.head.id === b.head.id && a.next?.id === b.next?.id && a.trouble === b.trouble)
  );
}
