import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useLocation } from "react-router";
import { v7 as uuid } from "uuid";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useCore } from "@/core";
import { Button } from "@/kit/Button";
import { Field, Wrong } from "@/kit/Field";
import { numberOf } from "@/kit/form/fields";
import { SelectField } from "@/kit/Select";
import { count, weekdayDate } from "@/parts/words";
import { useSync } from "@/sync/context";
import { practiceDays, weekdayNames } from "./days";

interface Props {
  season: Schemas["Season"];
  groups: Schemas["GroupRef"][];
  onDates: () => void;
}

/** Where a club begins: on which days it practices, from when, and with which script. */
export function SetUp({ season, groups, onDates }: Props) {
  const { engine } = useSync();
  const { pathname } = useLocation();
  const settings = useQuery(queries.practiceSettings());
  const kept = useQuery(queries.templates());
  const core = useCore(true);
  const [days, setDays] = useState<ReadonlySet<number>>(new Set([1, 2, 3]));
  const [from, setFrom] = useState("18:00");
  const [minutes, setMinutes] = useState("120");
  const [place, setPlace] = useState("");
  const [template, setTemplate] = useState<string>();
  const [doing, setDoing] = useState("");
  const m = /^(\d{1,2}):(\d{2})$/.exec(from.trim());
  const start = m && Number(m[1]) < 24 && Number(m[2]) < 60 ? 60 * Number(m[1]) + Number(m[2]) : undefined;
  const long = numberOf(minutes);
  const dates = practiceDays(season, days);
  const ready = start !== undefined && long !== null && long >= 10 && long <= 300 && dates.length > 0;
  const sheet: Schemas["ScriptSheet"] | undefined = settings.data && {
    minutes: ready ? Math.round(long) : 120,
    start_minute: start ?? 18 * 60,
    groups: groups.map((g) => ({ key: g.key, name: g.name })),
    settings: settings.data,
    periods: [],
  };
  const shipped = core && sheet ? core.templates(sheet) : [];
  const templates: { name: string; minutes: number; text?: string; own?: Schemas["FromTemplate"] }[] = [
    ...(kept.data ?? [])
      .filter((t) => !t.template.whole_week)
      .map((t) => ({
        name: t.template.name,
        minutes: t.template.days[0]!.minutes,
        own: { id: t.id, practice: 0 },
      })),
    ...shipped,
  ];
  const off = (t: { minutes: number }) => Math.abs(t.minutes - (long ?? 120));
  const chosen =
    templates.find((t) => t.name === template) ?? [...templates].sort((a, b) => off(a) - off(b))[0];

  const lay = async () => {
    if (!ready || !chosen) return; // the scripts that ship come with the core: without one, practices would be laid bare
    const practice = (
      date: string,
      from: Pick<Schemas["PracticeInput"], "script_of" | "template">,
    ): Schemas["PracticeInput"] => ({
      date,
      title: `${weekdayDate(date).slice(0, 3)} practice`,
      theme: "",
      place: place.trim(),
      start_minute: start,
      minutes: Math.round(long),
      ...from,
    });
    const put = (key: string, kind: string, content: unknown, says: string) =>
      engine.submit({ key, kind, content, base: "0", about: { says, href: pathname } });
    const first = uuid();
    setDoing("The first practice and its script");
    const made = await put(
      `practice/${first}`,
      "practice",
      practice(dates[0]!, { template: chosen?.own }),
      "The first practice",
    );
    if (made.is !== "saved") return setDoing("");
    // The others take their script from the first: it is whole before they are made.
    const periods = core && sheet && chosen?.text ? core.read(sheet, chosen.text).periods : [];
    await Promise.all(
      periods.map(({ id, ...p }) =>
        put(`block/${first}/${id}`, "block", p, `${p.name} of the first practice`),
      ),
    );
    setDoing(`${count(dates.length - 1, "practice")} more`);
    await Promise.all(
      dates
        .slice(1)
        .map((d) =>
          put(
            `practice/${uuid()}`,
            "practice",
            practice(d, { script_of: first }),
            `Practice of ${weekdayDate(d)}`,
          ),
        ),
    );
    setDoing("");
  };

  return (
    <section className="sheet mb-3 grid max-w-3xl gap-3 p-3" aria-label="Begin here">
      <h2 className="head">Begin here</h2>
      <p className="say text-small text-soft">
        Say when you practice. Every week gets its practices, each with the script of your choice to be
        changed as you like.{" "}
        <Button kind="text" onClick={onDates}>
          The season&apos;s dates and phases
        </Button>
      </p>
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void lay();
        }}
      >
        <fieldset className="flex flex-wrap gap-3">
          <legend className="label mb-1">Practice days</legend>
          {weekdayNames.map((name, d) => (
            <label key={name} className="flex min-h-7 items-center gap-1 pointer-coarse:min-h-11">
              <input
                type="checkbox"
                checked={days.has(d)}
                onChange={(e) => {
                  const next = new Set(days);
                  if (e.target.checked) next.add(d);
                  else next.delete(d);
                  setDays(next);
                }}
              />
              {name}
            </label>
          ))}
        </fieldset>
        <div className="grid gap-2 sm:grid-cols-[6rem_6rem_minmax(0,1fr)_minmax(0,1fr)]">
          <Field label="From" error={start === undefined ? "such as 18:00" : undefined}>
            {(control) => (
              <input
                {...control}
                className="field w-full"
                value={from}
                onChange={(e) => setFrom(e.target.value)}
              />
            )}
          </Field>
          <Field label="Minutes" error={long === null || long < 10 || long > 300 ? "10 to 300" : undefined}>
            {(control) => (
              <input
                {...control}
                inputMode="numeric"
                className="field w-full text-right"
                value={minutes}
                onChange={(e) => setMinutes(e.target.value)}
              />
            )}
          </Field>
          <Field label="Place">
            {(control) => (
              <input
                {...control}
                maxLength={60}
                className="field w-full"
                value={place}
                onChange={(e) => setPlace(e.target.value)}
              />
            )}
          </Field>
          <SelectField
            label="Script to begin with"
            value={chosen?.name ?? ""}
            options={templates.map((t) => ({ value: t.name, name: `${t.name}, ${t.minutes} min` }))}
            onChange={(name) => {
              setTemplate(name);
              setMinutes(String(templates.find((t) => t.name === name)?.minutes ?? minutes));
            }}
          />
        </div>
        {dates.length === 0 && <Wrong>Choose at least one day.</Wrong>}
        <span className="flex flex-wrap items-center gap-3">
          <Button kind="main" type="submit" off={!ready || !chosen || doing !== ""}>
            Lay {count(dates.length, "practice")}
          </Button>
          <span role="status" className="say text-small">
            {doing || (dates.length > 0 && `${weekdayDate(dates[0]!)} to ${weekdayDate(dates.at(-1)!)}`)}
          </span>
        </span>
      </form>
    </section>
  );
}
