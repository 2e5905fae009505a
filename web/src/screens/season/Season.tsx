import {
  DndContext,
  MouseSensor,
  TouchSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from "@dnd-kit/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { v7 as uuid } from "uuid";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useWhere } from "@/app/where";
import { useKeys, type Key } from "@/keys/react";
import { Button, ButtonLink } from "@/kit/Button";
import { Loading, Trouble } from "@/kit/States";
import { ContactBars } from "@/parts/ContactBars";
import { AllNotSaved } from "@/parts/NotSaved";
import { dayMonth } from "@/parts/words";
import { UndoButtons } from "@/parts/UndoButtons";
import { undoKeys } from "@/parts/undoKeys";
import { after, changed, copied, daysOf, on, weekCopied, weekOf, type Calendar, type Entry } from "./days";
import { CalendarWindow } from "./CalendarWindow";
import { DatesWindow } from "./DatesWindow";
import { DayPanel } from "./DayPanel";
import { SetUp } from "./SetUp";
import { SeasonHead } from "./SeasonHead";
import { installsOf, useReady } from "./ready";
import { TemplatesWindow } from "./Templates";
import { WeekPaper } from "./WeekPaper";
import { Grid } from "./Grid";
import { useSeason, type Season as Editing } from "./useSeason";

/** The season: weeks left to right, what is on its days, and the minutes of contact. */
export function Season() {
  const season = useQuery(queries.season());
  const frame = useQuery(queries.frame());
  if (season.error && !season.data)
    return <Trouble error={season.error} again={() => void season.refetch()} />;
  if (!season.data || !frame.data) return <Loading what="the season" />;
  return <Sheet season={season.data} groups={frame.data.groups} club={frame.data.club} />;
}

function Sheet({
  season,
  groups,
  club,
}: {
  season: Schemas["Season"];
  groups: Schemas["GroupRef"][];
  club: string;
}) {
  const { group, week, base } = useWhere();
  const editing = useSeason(season);
  const { items: calendar, change } = editing;
  const days = daysOf(season);
  const [chosen, setChosen] = useState(() =>
    days.includes(season.today) && weekOf(season, season.today) === week
      ? season.today
      : after(season.start, 7 * (week - 1)),
  );
  const [copy, setCopy] = useState<string>();
  const [dates, setDates] = useState(false);
  const [templates, setTemplates] = useState(false);
  const [inCalendars, setCalendar] = useState(false);
  const here = groups.find((g) => g.key === group)!;
  const { calls, ready } = useReady(group, week);
  const installs = installsOf(calls, ready);
  const at = weekOf(season, chosen);
  const entries = on(calendar, chosen);
  const put = (is: "practice" | "game") => change(new Map(calendar).set(uuid(), fresh(is, chosen, calendar)));
  const copyWeek = () => change(weekCopied(calendar, days.slice(7 * (at - 1), 7 * at), () => uuid()));
  useSeasonKeys({ season, editing, days, chosen, setChosen, copy, setCopy, put, copyWeek });
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 5 } }),
    // A finger scrolls; held still it takes hold.
    useSensor(TouchSensor, { activationConstraint: { delay: 250, tolerance: 6 } }),
  );
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (!over) return;
    change(changed(calendar, String(active.id), { date: String(over.id) }));
    setChosen(String(over.id));
  };
  return (
    <DndContext sensors={sensors} onDragEnd={onDragEnd} autoScroll={false}>
      <WeekPaper {...{ season, week, calendar, installs }} club={club} />
      <div className="screen-only">
        <SeasonHead
          title="Season"
          over={`${dayMonth(season.start)} to ${dayMonth(after(season.start, 7 * season.weeks - 1))} · ${season.weeks} weeks`}
        >
          <span className="flex flex-wrap gap-1.5">
            {season.editable && (
              <>
                <UndoButtons steps={editing} />
              </>
            )}
            <Button onClick={() => window.print()}>
              Print week {week} <span className="kbd">p</span>
            </Button>
            <Button kind="quiet" onClick={() => setCalendar(true)}>
              Other calendars
            </Button>
            {season.editable && (
              <>
                <Button onClick={() => setTemplates(true)}>Templates</Button>
                <Button onClick={() => setDates(true)}>Dates and phases</Button>
              </>
            )}
            <ButtonLink to={`${base}/practice/settings`}>Places and limits</ButtonLink>
          </span>
        </SeasonHead>
        <AllNotSaved editing={editing} />
        {season.editable && calendar.size === 0 && (
          <SetUp {...{ season, groups }} onDates={() => setDates(true)} />
        )}
        <Grid
          {...{ season, calendar, week, chosen, installs }}
          ladders={ready?.ladders}
          group={here}
          onChoose={setChosen}
        />
        <div className="mt-3 grid items-start gap-3 grid-cols-[minmax(0,1fr)] lg:grid-cols-[420px_minmax(0,1fr)]">
          <DayPanel
            key={chosen}
            date={chosen}
            week={at}
            {...{ season, entries, editing }}
            installs={installs.get(chosen)}
            onNew={put}
            onCopyWeek={copyWeek}
          />
          <ContactOfWeek season={season} week={at} groups={groups} />
        </div>
      </div>
      <TemplatesWindow
        {...{ season, calendar, group }}
        week={at}
        day={chosen}
        open={templates}
        onClose={() => setTemplates(false)}
        onLay={change}
      />
      <DatesWindow season={season} open={dates} onClose={() => setDates(false)} />
      <CalendarWindow open={inCalendars} onClose={() => setCalendar(false)} />
    </DndContext>
  );
}

/** A new one: as the practice before it was, an hour and a half in the evening where there was none. */
function fresh(is: "practice" | "game", date: string, calendar: Calendar): Entry {
  if (is === "game") return { is, of: { date, opponent: "Opponent", home: true } };
  const before = [...calendar.values()]
    .filter((e): e is Entry & { is: "practice" } => e.is === "practice" && e.of.date <= date)
    .sort((a, b) => a.of.date.localeCompare(b.of.date))
    .at(-1)?.of;
  return {
    is,
    of: {
      date,
      title: "Practice",
      theme: "",
      place: before?.place ?? "",
      start_minute: before?.start_minute ?? 18 * 60,
      minutes: before?.minutes ?? 90,
    },
  };
}

function ContactOfWeek({
  season,
  week,
  groups,
}: {
  season: Schemas["Season"];
  week: number;
  groups: Schemas["GroupRef"][];
}) {
  const of = season.contact.find((c) => c.week === week)?.groups ?? [];
  const most = season.contact_week;
  return (
    <section className="sheet min-w-0 p-3" aria-label="Contact of the week">
      <h2 className="head">Contact in week {week}</h2>
      <p className="say mb-2 text-small text-soft">
        Minutes of thud and live by the scripts
        {most !== undefined ? `; the club's limit is ${most} a week` : "; no limit is set for a week"}. Check
        your league&apos;s rule.
      </p>
      <ContactBars groups={groups} minutes={of} most={most} />
    </section>
  );
}

interface KeyProps {
  season: Schemas["Season"];
  editing: Editing;
  days: string[];
  chosen: string;
  setChosen: (date: string) => void;
  copy?: string;
  setCopy: (id: string) => void;
  put: (is: "practice" | "game") => void;
  copyWeek: () => void;
}

function useSeasonKeys({ season, editing, days, chosen, setChosen, copy, setCopy, put, copyWeek }: KeyProps) {
  const { items: calendar, change } = editing;
  const first = on(calendar, chosen)[0];
  const shift = (by: number) => () => {
    const to = after(chosen, by);
    if (!first || !days.includes(to)) return;
    change(changed(calendar, first[0], { date: to }));
    setChosen(to);
  };
  const keys: Key[] = [{ keys: "p", does: "Print the week on one page", run: () => window.print() }];
  if (season.editable) {
    keys.push(
      { keys: "n", does: "New practice on the chosen day", run: () => put("practice") },
      { keys: "g", does: "New game on the chosen day", run: () => put("game") },
      { keys: "w", does: "Copy the chosen week to the next", run: copyWeek },
    );
    if (first)
      keys.push(
        { keys: "Ctrl+ArrowDown", does: "A day later", run: shift(1) },
        { keys: "Ctrl+ArrowUp", does: "A day earlier", run: shift(-1) },
        { keys: "Ctrl+ArrowRight", does: "A week later", run: shift(7) },
        { keys: "Ctrl+ArrowLeft", does: "A week earlier", run: shift(-7) },
        { keys: "c", does: "Take a copy of what is on the day", run: () => setCopy(first[0]) },
      );
    if (copy && calendar.has(copy))
      keys.push({
        keys: "v",
        does: "Put the copy on the chosen day",
        run: () => change(copied(calendar, copy, chosen, uuid())),
      });
    keys.push(...undoKeys(editing));
  }
  useKeys(keys);
}
