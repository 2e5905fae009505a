import type { Schemas } from "@/api/client";
import type { Of } from "@/sync/sheet";

export type Call = Schemas["CallInput"];
export type Calls = ReadonlyMap<string, Call>;

export const sides: { value: Schemas["Side"]; name: string }[] = [
  { value: "offense", name: "Offense" },
  { value: "defense", name: "Defense" },
  { value: "units", name: "Kicking units" },
];

/** What is said of a call's readiness, and how it looks: never by colour alone. */
export const verdicts: Record<Schemas["Verdict"], { says: string; shape: string; tone: string }> = {
  ready: { says: "Ready", shape: "●", tone: "text-good" },
  will_be: { says: "Will be ready", shape: "◕", tone: "text-good" },
  in_doubt: { says: "In doubt", shape: "◑", tone: "text-watch" },
  will_not: { says: "Will not be ready", shape: "▲", tone: "text-fault" },
  no_day: { says: "No day is set", shape: "–", tone: "text-soft" },
  no_line_up: { says: "No line-up", shape: "–", tone: "text-soft" },
  no_needs: { says: "Needs nothing", shape: "–", tone: "text-soft" },
};

/** What is said of a call that is installed already, or is not yet. */
export function says(verdict: Schemas["Verdict"], install: string | undefined, asOf: string) {
  const v = verdicts[verdict];
  if (!install || install > asOf) return v;
  if (verdict === "will_be") return { ...v, says: "Nearly all are ready" };
  if (verdict === "will_not" || verdict === "in_doubt") return { ...v, says: "Installed, not ready" };
  return v;
}

/** Calls, each a record of its own. */
export const callsOf: Of<Call> = {
  idOf: (key) => /^call\/([^/]+)$/.exec(key)?.[1],
  keyOf: (id) => `call/${id}`,
  read: (_key, content) => content as Call,
  write: (_id, c) => c ?? null,
  alike: (a, b) => JSON.stringify(tidy(a)) === JSON.stringify(tidy(b)),
  says: (c) => `Call ${c.name}`,
};

/** The same call always written the same. */
const tidy = (c: Call | undefined) =>
  c && [
    c.name,
    c.side,
    c.kind,
    c.aliases,
    c.tags,
    c.share,
    c.install ?? "",
    c.needs.map((n) => [n.group, n.technique, n.stage ?? "", n.spots ?? []]),
  ];

const order = (c: Call) => sides.findIndex((s) => s.value === c.side);

/** The calls as they are listed: by side, the most expected first. */
export const inOrder = (calls: Calls) =>
  [...calls].sort(([, a], [, b]) => order(a) - order(b) || b.share - a.share || a.name.localeCompare(b.name));

/** Those that will not be ready by their install, the earliest first. */
export function flagged(list: [string, Call][], ready: Schemas["Readiness"] | undefined) {
  const verdicts = new Map(ready?.calls.map((c) => [c.id, c.verdict]));
  return list
    .filter(([id]) => verdicts.get(id) === "will_not")
    .sort(([, a], [, b]) => (a.install ?? "").localeCompare(b.install ?? ""));
}

/** A new call, with a name that no other has. */
export function fresh(calls: Calls, side: Schemas["Side"]): Call {
  const names = new Set([...calls.values()].map((c) => c.name));
  let name = "New call";
  for (let n = 2; names.has(name); n++) name = `New call ${n}`;
  return { name, side, kind: "", aliases: [], tags: [], share: 0, needs: [] };
}

/** The calls with a part of one changed. */
export function changed(calls: Calls, id: string, part: Partial<Call>): Calls {
  const c = calls.get(id);
  return c ? new Map(calls).set(id, { ...c, ...part }) : calls;
}

/** The calls without one. */
export function without(calls: Calls, id: string): Calls {
  const next = new Map(calls);
  next.delete(id);
  return next;
}

/** Words with commas between them. */
export const words = (text: string) =>
  text
    .split(",")
    .map((w) => w.trim())
    .filter(Boolean);

/** How many per cent of a side's snaps the calls come to. */
export const shareOf = (calls: Calls, side: Schemas["Side"]) =>
  [...calls.values()].reduce((sum, c) => sum + (c.side === side ? c.share : 0), 0);
