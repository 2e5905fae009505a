import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useLocation } from "react-router";
import { v7 as uuid } from "uuid";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { Button } from "@/kit/Button";
import { Loading, Trouble } from "@/kit/States";
import { Title } from "@/kit/Title";
import { Typed, TypedNumber } from "@/kit/Typed";
import { NotSaved } from "@/parts/NotSaved";
import { useSync } from "@/sync/context";
import { contentOf } from "@/sync/machine";
import { useRecord } from "@/sync/react";
import { changed } from "@/kit/reorder";
import { FirstDays, HeatBands } from "./Conditions";

type Input = Schemas["PracticeSettingsInput"];
const key = "settings/practices";

/** The limits that are a number, with their bounds in the contract. */
const limits = [
  { of: "contact_minutes", label: "Thud and live in a practice", unit: "minutes", least: 0, most: 300 },
  { of: "contact_week", label: "Thud and live in a week", unit: "minutes", least: 0, most: 1000 },
  { of: "water_every", label: "Water at least every", unit: "minutes", least: 5, most: 120 },
  { of: "max_rep_seconds", label: "A rep is conditioning from", unit: "seconds", least: 1, most: 120 },
  { of: "throws_day", label: "Throws of a player a day", unit: "throws", least: 1, most: 1000 },
  { of: "kicks_day", label: "Kicks of a player a day", unit: "kicks", least: 1, most: 1000 },
  { of: "sprint_day", label: "Sprints of a player a day", unit: "yards", least: 1, most: 20000 },
  { of: "rest_after", label: "Rest from throws and kicks after", unit: "days in a row", least: 1, most: 7 },
] as const;

/** What the club has for its practices, and the limits it keeps to. */
export function Settings() {
  const settings = useQuery(queries.practiceSettings());
  if (settings.error && !settings.data)
    return <Trouble error={settings.error} again={() => void settings.refetch()} />;
  if (!settings.data) return <Loading what="places and limits" />;
  return <Lists settings={settings.data} />;
}

const inputOf = (s: Schemas["PracticeSettings"]): Input => ({
  places: s.places,
  equipment: s.equipment,
  helpers: s.staff.filter((x) => x.helper).map(({ key, name }) => ({ key, name })),
  limits: s.limits,
  themes: s.themes,
});

function Lists({ settings }: { settings: Schemas["PracticeSettings"] }) {
  const { engine } = useSync();
  const { pathname } = useLocation();
  const rec = useRecord(key);
  const now = rec ? (contentOf(rec) as Input) : inputOf(settings);
  const trouble = rec?.trouble;
  const editable = settings.editable;
  const change = (part: Partial<Input>) =>
    void engine.edit([
      {
        key,
        kind: "settings",
        content: { ...now, ...part },
        base: String(settings.version),
        about: { says: "Places and limits", href: pathname },
      },
    ]);
  const limit = (name: keyof Schemas["PracticeLimits"], value: number | undefined) =>
    change({ limits: { ...now.limits, [name]: value } });
  const l = now.limits;
  return (
    <>
      <div className="mb-3">
        <Title page="Places and limits">Places and limits</Title>
        <p className="say max-w-3xl text-soft">
          What practices take place with. The script is checked by it while it is written.
          {!editable && " The head coach changes it."}
        </p>
      </div>
      {trouble && (
        <NotSaved
          trouble={trouble}
          onMine={() => void engine.settle(key, now)}
          onTheirs={() => engine.drop(key)}
        />
      )}
      <div className="grid items-start gap-3 grid-cols-[minmax(0,1fr)] lg:grid-cols-2">
        <Rows
          title="Places"
          counted="holds"
          hint="How many periods a place holds at once."
          rows={now.places.map((p) => ({ key: p.key, name: p.name, count: p.capacity }))}
          least={1}
          editable={editable}
          onChange={(rows) =>
            change({
              places: rows.map((r) => ({ key: r.key, name: r.name, capacity: Math.max(1, r.count) })),
            })
          }
        />
        <Rows
          title="Equipment"
          counted="there are"
          rows={now.equipment}
          least={0}
          editable={editable}
          onChange={(rows) => change({ equipment: rows })}
        />
        <Rows
          title="Helpers"
          hint="Coaches are there by themselves: those who have an account."
          rows={now.helpers.map((h) => ({ ...h, count: 0 }))}
          least={0}
          editable={editable}
          onChange={(rows) => change({ helpers: rows.map(({ key, name }) => ({ key, name })) })}
        />
        <Rows
          title="Themes of a day"
          rows={now.themes.map((t) => ({ key: t, name: t, count: 0 }))}
          least={0}
          editable={editable}
          onChange={(rows) => change({ themes: rows.map((r) => r.name) })}
        />
        <FirstDays
          limits={l}
          editable={editable}
          onChange={(part) => change({ limits: { ...l, ...part } })}
        />
        <HeatBands
          limits={l}
          editable={editable}
          onChange={(part) => change({ limits: { ...l, ...part } })}
        />
        <section className="sheet grid gap-2 p-3 lg:col-span-2" aria-label="Limits">
          <h2 className="head">Limits</h2>
          <p className="say max-w-3xl text-small text-soft">
            These are examples until you set your own: check your league&apos;s rule, and follow licensed
            staff where health is concerned. What is left empty is not checked.
          </p>
          <div className="flex flex-wrap gap-4">
            {limits.map(({ of, label, unit, least, most }) => (
              <TypedNumber
                key={of}
                label={label}
                unit={unit}
                value={l[of]}
                least={least}
                most={most}
                parts={unit === "seconds"}
                off={!editable}
                placeholder="not checked"
                className="w-24"
                onSay={(v) => limit(of, v)}
                onNone={() => limit(of, undefined)}
              />
            ))}
            <label className="flex items-end gap-1.5 pb-1 pointer-coarse:min-h-11">
              <input
                type="checkbox"
                checked={l.warm_up_first}
                disabled={!editable}
                onChange={(e) => change({ limits: { ...l, warm_up_first: e.target.checked } })}
              />
              Warm-up before bags, contact and conditioning
            </label>
          </div>
        </section>
      </div>
    </>
  );
}

interface Row {
  key: string;
  name: string;
  count: number;
}

interface RowsProps {
  title: string;
  hint?: string;
  /** The word before the number; absent where nothing is counted. */
  counted?: string;
  rows: Row[];
  least: number;
  editable: boolean;
  onChange: (rows: Row[]) => void;
}

function Rows({ title, hint, counted, rows, least, editable, onChange }: RowsProps) {
  const [fresh, setFresh] = useState("");
  const add = () => {
    const name = fresh.trim();
    if (!name) return;
    onChange([...rows, { key: uuid().replaceAll("-", "_").slice(0, 40), name, count: 1 }]);
    setFresh("");
  };
  return (
    <section className="sheet grid gap-1.5 p-3" aria-label={title}>
      <h2 className="head">{title}</h2>
      {hint && <p className="say text-small text-soft">{hint}</p>}
      <ul className="grid gap-1">
        {rows.map((r, i) => (
          <li key={r.key} className="flex items-center gap-2">
            <Typed
              quiet
              label={`${title}: name`}
              max={60}
              value={r.name}
              off={!editable}
              className="min-w-0 flex-1"
              onSay={(name) => name && onChange(changed(rows, i, { name }))}
            />
            {counted && (
              <>
                <span className="label normal-case">{counted}</span>
                <TypedNumber
                  quiet
                  label={`${r.name}: ${counted}`}
                  value={r.count}
                  least={least}
                  most={1000}
                  off={!editable}
                  className="w-14"
                  onSay={(n) => onChange(changed(rows, i, { count: n }))}
                />
              </>
            )}
            {editable && (
              <Button
                kind="quiet"
                aria-label={`Take ${r.name} off the list`}
                onClick={() => onChange(rows.filter((_, j) => j !== i))}
              >
                ×
              </Button>
            )}
          </li>
        ))}
        {rows.length === 0 && <li className="say text-small text-soft">Nothing is listed yet.</li>}
      </ul>
      {editable && (
        <form
          className="flex gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            add();
          }}
        >
          <input
            aria-label={`Add to ${title.toLowerCase()}`}
            className="field min-w-0 flex-1"
            maxLength={60}
            value={fresh}
            placeholder="one more"
            onChange={(e) => setFresh(e.target.value)}
          />
          <Button type="submit" off={!fresh.trim()}>
            Add
          </Button>
        </form>
      )}
    </section>
  );
}
