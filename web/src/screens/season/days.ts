import { addDays, differenceInCalendarDays, formatISO, parseISO } from "date-fns";
import type { Schemas } from "@/api/client";

/** What stands on the calendar, as it is written. */
export type Entry =
  { is: "practice"; of: Schemas["PracticeInput"] } | { is: "game"; of: Schemas["GameInput"] };
export type Calendar = ReadonlyMap<string, Entry>;

export const practiceOf = (p: Schemas["SeasonPractice"]): Entry => ({
  is: "practice",
  of: {
    date: p.date,
    title: p.title,
    theme: p.theme,
    place: p.place,
    start_minute: p.start_minute,
    minutes: p.minutes,
    ...(p.cancelled ? { cancelled: p.cancelled } : {}),
  },
});

export const gameOf = (g: Schemas["SeasonGame"]): Entry => ({
  is: "game",
  of: {
    date: g.date,
    opponent: g.opponent,
    home: g.home,
    ...(g.cancelled ? { cancelled: g.cancelled } : {}),
  },
});

export const calendarOf = (s: Schemas["Season"]): Calendar =>
  new Map([
    ...s.practices.map((p) => [p.id, practiceOf(p)] as const),
    ...s.games.map((g) => [g.id, gameOf(g)] as const),
  ]);

/** Without what only the server does with it once. */
const said = (e: Entry) => JSON.stringify({ ...e.of, script_of: undefined, template: undefined });

export const alike = (a?: Entry, b?: Entry): boolean =>
  a === b || (!!a && !!b && a.is === b.is && said(a) === said(b));

const iso = (d: Date) => formatISO(d, { representation: "date" });

/** The day so many days after another. */
export const after = (date: string, days: number): string => iso(addDays(parseISO(date), days));

/** The days of a season, from its first. */
export const daysOf = (s: Schemas["Season"]): string[] =>
  Array.from({ length: s.weeks * 7 }, (_, i) => after(s.start, i));

/** The season week of a day, from 1. */
export const weekOf = (s: Schemas["Season"], date: string): number =>
  1 + Math.floor(differenceInCalendarDays(parseISO(date), parseISO(s.start)) / 7);

/** What is on a day: practices by their time, then games. */
export const on = (c: Calendar, date: string): [string, Entry][] =>
  [...c].filter(([, e]) => e.of.date === date).sort(([, a], [, b]) => time(a) - time(b));

const time = (e: Entry) => (e.is === "practice" ? e.of.start_minute : 1440);

/** The calendar with something changed of one of its entries. */
export function changed(
  c: Calendar,
  id: string,
  change: Partial<Schemas["PracticeInput"] & Schemas["GameInput"]>,
): Calendar {
  const was = c.get(id);
  if (!was) return c;
  const of = { ...was.of, ...change };
  if ("cancelled" in change && !change.cancelled) delete of.cancelled;
  return new Map(c).set(id, { ...was, of } as Entry);
}

export const without = (c: Calendar, id: string): Calendar => {
  const next = new Map(c);
  next.delete(id);
  return next;
};

/** One more, a copy of another on a day, with its script. */
export function copied(c: Calendar, id: string, date: string, newId: string): Calendar {
  const was = c.get(id);
  if (!was) return c;
  const of = was.is === "practice" ? { ...was.of, date, script_of: id } : { ...was.of, date };
  delete of.cancelled;
  return new Map(c).set(newId, { is: was.is, of } as Entry);
}

/** The practices of a week once more a week later, on the days that have none, with their scripts. */
export function weekCopied(c: Calendar, days: string[], newId: () => string): Calendar {
  let next = c;
  for (const day of days)
    for (const [id, e] of on(c, day)) {
      const later = after(day, 7);
      if (e.is === "practice" && !e.of.cancelled && !on(c, later).some(([, x]) => x.is === "practice"))
        next = copied(next, id, later, newId());
    }
  return next;
}

/** The practices of a template of a week, in a week that begins on a day; days that have one already are left. */
export function weekLaid(
  c: Calendar,
  { id, template }: Schemas["Template"],
  starts: string,
  newId: () => string,
): Calendar {
  const next = new Map(c);
  template.days.forEach(({ day, title, theme, place, start_minute, minutes }, practice) => {
    const date = after(starts, day);
    if (on(c, date).some(([, e]) => e.is === "practice")) return;
    const of = { date, title, theme, place, start_minute, minutes, template: { id, practice } };
    next.set(newId(), { is: "practice", of });
  });
  return next;
}

/** Days as a template keeps them: of a week its weekdays, of a practice the first. */
export const templateOf = (
  practices: { of: Schemas["PracticeInput"]; periods: Schemas["PeriodInput"][] }[],
  starts: string,
): Schemas["TemplateDay"][] =>
  practices.map(({ of: { date, title, theme, place, start_minute, minutes }, periods }) => ({
    day: daysBetween(starts, date),
    title,
    theme,
    place,
    start_minute,
    minutes,
    periods,
  }));

export const weekdayNames = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

/** The days of a season that fall on some weekdays, Monday being 0, from today on when it has begun. */
export function practiceDays(
  season: Pick<Schemas["Season"], "start" | "weeks" | "today">,
  on: ReadonlySet<number>,
) {
  const all = Array.from({ length: 7 * season.weeks }, (_, d) => after(season.start, d));
  return all.filter((date) => date >= season.today && on.has((parseISO(date).getDay() + 6) % 7));
}

/** How many days lie between two. */
export const daysBetween = (from: string, to: string) =>
  differenceInCalendarDays(parseISO(to), parseISO(from));
