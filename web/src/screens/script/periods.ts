import type { Schemas } from "@/api/client";

/** A period as it is written, and a script: its periods by their ids. */
export type Period = Schemas["PeriodInput"];
export type Script = ReadonlyMap<string, Period>;

/** What is written of a period, of all that is known of it. */
export const written = (p: Schemas["Period"] | Schemas["ScriptPeriod"] | Period): Period => ({
  start: p.start,
  minutes: p.minutes,
  kind: p.kind as Period["kind"],
  name: p.name,
  contact: p.contact as Period["contact"],
  groups: p.groups,
  place: p.place,
  coaches: p.coaches,
  equipment: p.equipment,
  needs_groups: p.needs_groups,
  rep_seconds: p.rep_seconds,
});

export const scriptOf = (periods: Schemas["Period"][]): Script =>
  new Map(periods.map((p) => [p.id, written(p)]));

export const alike = (a?: Period, b?: Period): boolean =>
  a === b || (!!a && !!b && JSON.stringify(written(a)) === JSON.stringify(written(b)));

/** The script as the core looks at it. */
export const sheetOf = (
  practice: Schemas["Practice"],
  groups: Schemas["GroupRef"][],
  script: Script,
): Schemas["ScriptSheet"] => ({
  minutes: practice.practice.minutes,
  start_minute: practice.practice.start_minute,
  groups: groups.map((g) => ({ key: g.key, name: g.short })),
  apart: groups.filter((g) => g.side === "units").map((g) => g.key),
  settings: practice.settings,
  practice_day: practice.practice_day,
  heat_index: practice.heat[0]?.index,
  periods: [...script].map(([id, p]) => ({ id, ...written(p) })),
});

/** The groups that have a lane: those the server names, and any that has a period by now. */
export const lanesOf = (
  practice: Schemas["Practice"],
  groups: Schemas["GroupRef"][],
  script: Script,
): Schemas["GroupRef"][] =>
  groups.filter(
    (g) => practice.groups.includes(g.key) || [...script.values()].some((p) => p.groups.includes(g.key)),
  );

const longest = 1440;
const clamp = (v: number, lo: number, hi: number) => Math.min(Math.max(Math.round(v), lo), hi);

/** A period in the order in which it is read: by time, then by the first of its lanes. */
export function inOrder(script: Script, lanes: string[]): [string, Period][] {
  const lane = (p: Period) => {
    const at = lanes.findIndex((g) => p.groups.includes(g));
    return at < 0 ? lanes.length : at;
  };
  return [...script].sort(([, a], [, b]) => a.start - b.start || lane(a) - lane(b));
}

/** The script with a period changed. */
export function changed(script: Script, id: string, change: Partial<Period>): Script {
  const was = script.get(id);
  if (!was) return script;
  const next: Period = { ...was, ...change };
  next.start = clamp(next.start, -longest, longest);
  next.minutes = clamp(next.minutes, 1, longest);
  return new Map(script).set(id, next);
}

/** Moved, but not out of the practice. */
export const moved = (script: Script, id: string, start: number, length: number): Script =>
  changed(script, id, { start: clamp(start, 0, Math.max(0, length - (script.get(id)?.minutes ?? 1))) });

/** Stretched at its end. */
export const ending = (script: Script, id: string, end: number, length: number): Script => {
  const p = script.get(id);
  return p
    ? changed(script, id, { minutes: clamp(end, p.start + 1, Math.max(length, p.start + 1)) - p.start })
    : script;
};

/** Stretched at its beginning. */
export const beginning = (script: Script, id: string, start: number): Script => {
  const p = script.get(id);
  if (!p) return script;
  const end = p.start + p.minutes;
  const from = clamp(start, Math.min(0, p.start), end - 1);
  return changed(script, id, { start: from, minutes: end - from });
};

export const without = (script: Script, id: string): Script => {
  const next = new Map(script);
  next.delete(id);
  return next;
};

/** Cut in two at a minute of the practice; the later part gets a new id. */
export function split(script: Script, id: string, at: number, newId: string): Script {
  const p = script.get(id);
  if (!p || at <= p.start || at >= p.start + p.minutes) return script;
  const later = { ...p, start: at, minutes: p.start + p.minutes - at };
  return new Map(changed(script, id, { minutes: at - p.start })).set(newId, later);
}

/** The same once more, right after it. */
export function copied(script: Script, id: string, newId: string): Script {
  const p = script.get(id);
  return p ? new Map(script).set(newId, { ...p, start: p.start + p.minutes }) : script;
}

/** Two become one for the groups of both, over the time of the first. */
export function joined(script: Script, id: string, other: string, lanes: string[]): Script {
  const a = script.get(id);
  const b = script.get(other);
  if (!a || !b) return script;
  const groups = lanes.filter((g) => a.groups.includes(g) || b.groups.includes(g));
  const next = changed(without(script, other), id, { groups });
  const p = next.get(id)!;
  return p.kind === "individual" && groups.length > 1
    ? changed(next, id, { kind: "group", name: named(p, "group") })
    : next;
}

/** What periods are called that have no name of their own. */
export const contacts: Period["contact"][] = ["air", "bag", "control", "thud", "live"];

export const kindNames: Record<Period["kind"], string> = {
  warm_up: "Warm-up",
  individual: "Individual",
  group: "Group",
  team: "Team",
  special_teams: "Kicking",
  walk_through: "Walk-through",
  meeting: "Meeting",
  water: "Water",
  conditioning: "Conditioning",
};

/** The name after a change of kind: its own stays, that of the kind follows. */
export const named = (p: Period, kind: Period["kind"]) =>
  p.name === kindNames[p.kind] ? kindNames[kind] : p.name;

/** A new period. */
export function fresh(start: number, minutes: number, groups: string[]): Period {
  const kind = groups.length === 1 ? "individual" : "group";
  return {
    start,
    minutes,
    kind,
    name: kindNames[kind],
    contact: "air",
    groups,
    place: "",
    coaches: [],
    equipment: [],
    needs_groups: [],
    rep_seconds: 0,
  };
}

/** The stretches of neighbouring lanes that a period covers. */
export function stretches(groups: string[], lanes: string[]): { from: number; rows: number }[] {
  const list: { from: number; rows: number }[] = [];
  lanes.forEach((g, row) => {
    if (!groups.includes(g)) return;
    const last = list.at(-1);
    if (last && last.from + last.rows === row) last.rows++;
    else list.push({ from: row, rows: 1 });
  });
  return list;
}
