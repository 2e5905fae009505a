import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { v7 as uuid } from "uuid";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { Button } from "@/kit/Button";
import { Dialog } from "@/kit/Dialog";
import { Field } from "@/kit/Field";
import { SelectField } from "@/kit/Select";
import { Loading, Trouble } from "@/kit/States";
import { Typed } from "@/kit/Typed";
import { AllNotSaved } from "@/parts/NotSaved";
import { count, weekdayDate } from "@/parts/words";
import { written } from "@/screens/script/periods";
import { useSheet, type Of } from "@/sync/sheet";
import { after, on, templateOf, weekdayNames, weekLaid, type Calendar } from "./days";

type Template = Schemas["TemplateInput"];

interface Props {
  season: Schemas["Season"];
  calendar: Calendar;
  /** The chosen week and day: what is kept, and where a template is laid. */
  week: number;
  day: string;
  group: string;
  onLay: (next: Calendar) => void;
}

const templates: Of<Template> = {
  idOf: (key) => (key.startsWith("template/") ? key.split("/")[1] : undefined),
  keyOf: (id) => `template/${id}`,
  read: (_key, content) => content as Template,
  write: (_id, t) => t ?? null,
  alike: (a, b) => JSON.stringify(a) === JSON.stringify(b),
  says: (t) => `Template ${t.name}`,
};

/** Practices and weeks that are kept to be laid again. */
export function TemplatesWindow({ open, onClose, ...rest }: Props & { open: boolean; onClose: () => void }) {
  return (
    <Dialog open={open} onOpenChange={(o) => !o && onClose()} title="Templates" wide>
      <Kept {...rest} />
    </Dialog>
  );
}

function Kept(props: Props) {
  const kept = useQuery(queries.templates());
  if (kept.error && !kept.data) return <Trouble error={kept.error} again={() => void kept.refetch()} />;
  if (!kept.data) return <Loading what="the templates" />;
  return <List {...props} kept={kept.data} />;
}

function List({ kept, ...props }: Props & { kept: Schemas["Template"][] }) {
  const { season, calendar, week, day, onLay } = props;
  const server = useMemo(() => new Map(kept.map((t) => [t.id, t.template])), [kept]);
  const versions = useMemo(() => new Map(kept.map((t) => [t.id, t.version])), [kept]);
  const editing = useSheet(server, versions, templates);
  const [said, setSaid] = useState("");
  const list = [...editing.items].sort(
    ([, a], [, b]) => Number(b.whole_week) - Number(a.whole_week) || a.name.localeCompare(b.name),
  );
  const starts = after(season.start, 7 * (week - 1));
  const put = (id: string, t: Template) => editing.change(new Map(editing.items).set(id, t));
  const lay = (id: string, t: Template) => {
    const where = t.whole_week ? starts : day;
    const next = weekLaid(calendar, { id, version: 0, template: t }, where, () => uuid());
    const laid = next.size - calendar.size;
    onLay(next);
    setSaid(
      laid === t.days.length
        ? `${t.name}: ${count(laid, "practice")} laid.`
        : laid === 0
          ? `${t.name}: there is practice on its days already. Nothing was laid.`
          : `${t.name}: ${count(laid, "practice")} laid; the other days have practice already.`,
    );
  };
  return (
    <div className="grid gap-4">
      <AllNotSaved editing={editing} />
      <Keep {...props} onKeep={(t) => put(uuid(), t)} />
      <section className="grid gap-1" aria-label="Kept templates">
        {list.length === 0 && (
          <p className="say text-small text-soft">
            Nothing is kept yet. What you plan again and again is kept here once and laid with a press.
          </p>
        )}
        <ul className="divide-y divide-hair">
          {list.map(([id, t]) => (
            <li
              key={id}
              aria-label={t.name}
              className="grid items-end gap-2 py-2 sm:grid-cols-[minmax(0,1fr)_auto]"
            >
              <Typed label="Name" value={t.name} max={80} onSay={(name) => name && put(id, { ...t, name })} />
              <span className="flex flex-wrap items-center gap-1.5">
                <Button onClick={() => lay(id, t)}>
                  Lay it {t.whole_week ? `in week ${week}` : `on ${weekdayDate(day)}`}
                </Button>
                <Button
                  kind="quiet"
                  onClick={() => {
                    const next = new Map(editing.items);
                    next.delete(id);
                    editing.change(next);
                    setSaid(`${t.name} is forgotten.`);
                  }}
                >
                  Forget it<span className="sr-only">: {t.name}</span>
                </Button>
              </span>
              <span className="label">{inWords(t)}</span>
            </li>
          ))}
        </ul>
        <span className="flex items-center gap-3">
          <Button kind="quiet" off={!editing.canUndo} onClick={editing.undo}>
            Undo
          </Button>
          <span role="status" className="say text-small">
            {said}
          </span>
        </span>
      </section>
    </div>
  );
}

const inWords = (t: Template) => {
  const periods = count(
    t.days.reduce((n, d) => n + d.periods.length, 0),
    "period",
  );
  return t.whole_week
    ? `week · ${t.days.map((d) => `${weekdayNames[d.day]} ${d.minutes} min`).join(", ")} · ${periods}`
    : `practice · ${t.days[0]?.minutes} min · ${periods}`;
};

/** Keeps the chosen week, or a practice of the chosen day, with the scripts as they are saved. */
function Keep({ season, calendar, week, day, group, onKeep }: Props & { onKeep: (t: Template) => void }) {
  const client = useQueryClient();
  const starts = after(season.start, 7 * (week - 1));
  const practices = (from: string, days: number) =>
    Array.from({ length: days }, (_, d) => on(calendar, after(from, d)))
      .flat()
      .flatMap(([id, e]) => (e.is === "practice" && !e.of.cancelled ? [{ id, of: e.of }] : []));
  const ofWeek = practices(starts, 7);
  const choices = [
    ...(ofWeek.length > 0
      ? [{ value: "week", name: `Week ${week}, ${count(ofWeek.length, "practice")}` }]
      : []),
    ...practices(day, 1).map(({ id, of }) => ({ value: id, name: `${of.title}, ${weekdayDate(day)}` })),
  ];
  const [what, setWhat] = useState<string>();
  const [name, setName] = useState("");
  const [wrong, setWrong] = useState("");
  const chosen = choices.find((c) => c.value === what) ?? choices[0];
  if (!chosen) return <p className="say text-small">There is no practice in week {week} to be kept.</p>;
  const keep = async () => {
    const whole = chosen.value === "week";
    const list = whole ? ofWeek : practices(day, 1).filter((p) => p.id === chosen.value);
    try {
      const scripts = await Promise.all(
        list.map(async ({ id, of }) => {
          const { periods } = await client.fetchQuery(queries.practice(id, group));
          return { of, periods: periods.map(written) };
        }),
      );
      onKeep({ name: name.trim(), whole_week: whole, days: templateOf(scripts, whole ? starts : day) });
      setName("");
      setWrong("");
    } catch {
      setWrong("Its scripts could not be read. Try again when there is a connection.");
    }
  };
  return (
    <form
      className="grid items-end gap-2 sm:grid-cols-[minmax(0,1fr)_minmax(0,1fr)_auto]"
      aria-label="Keep a template"
      onSubmit={(e) => {
        e.preventDefault();
        if (name.trim()) void keep();
      }}
    >
      <SelectField label="Keep" value={chosen.value} options={choices} onChange={setWhat} />
      <Field label="Under the name" error={wrong || undefined}>
        {(control) => (
          <input
            {...control}
            maxLength={80}
            className="field w-full"
            value={name}
            onChange={(e) => setName(e.target.value)}
          />
        )}
      </Field>
      <Button kind="main" type="submit" off={!name.trim()}>
        Keep it
      </Button>
    </form>
  );
}
