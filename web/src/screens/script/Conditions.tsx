import type { ReactNode } from "react";
import type { Schemas } from "@/api/client";
import { Button } from "@/kit/Button";
import { changed } from "@/kit/reorder";
import { Select } from "@/kit/Select";
import { Typed, TypedNumber } from "@/kit/Typed";
import { contacts } from "./periods";

type Limits = Schemas["PracticeLimits"];
type Step = Schemas["FirstDaysStep"];
type Band = Schemas["HeatBand"];

interface Props {
  limits: Limits;
  editable: boolean;
  onChange: (part: Partial<Limits>) => void;
}

/** The first days after a start or a long absence: what each step allows. */
export function FirstDays({ limits, editable, onChange }: Props) {
  const first = limits.first_days ?? { season_start: false, steps: [] };
  const put = (part: Partial<Schemas["FirstDays"]>) => onChange({ first_days: { ...first, ...part } });
  const step = (i: number, part: Partial<Step>) => put({ steps: changed(first.steps, i, part) });
  const last = first.steps.at(-1)?.through ?? 0;
  return (
    <section className="sheet grid gap-2 p-3 lg:col-span-2" aria-label="First days">
      <h2 className="head">First days</h2>
      <p className="say text-small text-soft">
        Days of practice in which players get used to work again. Examples until you set your own: check your
        league&apos;s rule.
      </p>
      <div className="flex flex-wrap items-end gap-4">
        <TypedNumber
          label="Anew for a player after"
          unit="days away"
          value={first.absence_days}
          least={1}
          most={365}
          off={!editable}
          placeholder="never"
          className="w-24"
          onSay={(absence_days) => put({ absence_days })}
          onNone={() => put({ absence_days: undefined })}
        />
        <Ticked is={first.season_start} editable={editable} onChange={(on) => put({ season_start: on })}>
          For all at the start of the season
        </Ticked>
      </div>
      <ul className="grid gap-2">
        {first.steps.map((s, i) => (
          <li key={i} className="flex flex-wrap items-end gap-2" aria-label={`Step ${i + 1}`}>
            <TypedNumber
              label="Through day"
              value={s.through}
              least={1}
              most={60}
              off={!editable}
              className="w-20"
              onSay={(through) => step(i, { through })}
            />
            <Level value={s.contact} editable={editable} onChange={(contact) => step(i, { contact })} />
            <AtMost value={s.minutes} editable={editable} onChange={(minutes) => step(i, { minutes })} />
            <Typed
              label="What is worn"
              value={s.gear}
              max={80}
              off={!editable}
              onSay={(gear) => step(i, { gear })}
            />
            {editable && (
              <TakeOff
                what={`step ${i + 1}`}
                onPress={() => put({ steps: first.steps.filter((_, j) => j !== i) })}
              />
            )}
          </li>
        ))}
        {first.steps.length === 0 && <li className="say text-small text-soft">Nothing is checked.</li>}
      </ul>
      {editable && first.steps.length < 10 && (
        <span>
          <Button
            onClick={() =>
              put({ steps: [...first.steps, { through: Math.min(last + 2, 60), contact: "bag", gear: "" }] })
            }
          >
            One more step
          </Button>
        </span>
      )}
    </section>
  );
}

/** What holds from a heat index on. */
export function HeatBands({ limits, editable, onChange }: Props) {
  const bands = limits.heat_bands ?? [];
  const put = (list: Band[]) => onChange({ heat_bands: list });
  const band = (i: number, part: Partial<Band>) => put(changed(bands, i, part));
  return (
    <section className="sheet grid gap-2 p-3 lg:col-span-2" aria-label="Heat">
      <h2 className="head">Heat</h2>
      <p className="say text-small text-soft">
        From an index on that your staff measures at the field. Examples until you set your own: check your
        league&apos;s rule, and follow licensed staff.
      </p>
      <ul className="grid gap-2">
        {bands.map((b, i) => (
          <li key={i} className="flex flex-wrap items-end gap-2" aria-label={`Band ${i + 1}`}>
            <TypedNumber
              label="From index"
              value={b.from}
              least={-200}
              most={200}
              parts
              off={!editable}
              className="w-20"
              onSay={(from) => band(i, { from })}
            />
            {!b.off && (
              <>
                <TypedNumber
                  label="Water every"
                  unit="minutes"
                  value={b.water_every}
                  least={5}
                  most={120}
                  off={!editable}
                  placeholder="as ever"
                  className="w-20"
                  onSay={(water_every) => band(i, { water_every })}
                  onNone={() => band(i, { water_every: undefined })}
                />
                <AtMost value={b.minutes} editable={editable} onChange={(minutes) => band(i, { minutes })} />
                <Level value={b.contact} editable={editable} onChange={(contact) => band(i, { contact })} />
              </>
            )}
            <Ticked is={b.off} editable={editable} onChange={(on) => band(i, { off: on })}>
              No practice
            </Ticked>
            {editable && (
              <TakeOff what={`band ${i + 1}`} onPress={() => put(bands.filter((_, j) => j !== i))} />
            )}
          </li>
        ))}
        {bands.length === 0 && <li className="say text-small text-soft">Nothing is checked.</li>}
      </ul>
      {editable && bands.length < 10 && (
        <span>
          <Button
            onClick={() =>
              put([...bands, { from: (bands.at(-1)?.from ?? 26) + 1, contact: "live", off: false }])
            }
          >
            One more band
          </Button>
        </span>
      )}
    </section>
  );
}

function Level({
  value,
  editable,
  onChange,
}: {
  value: Step["contact"];
  editable: boolean;
  onChange: (level: Step["contact"]) => void;
}) {
  return (
    <span className="grid w-36 gap-0.5">
      <span className="label" aria-hidden>
        Nothing above
      </span>
      <Select
        label="Nothing above"
        value={value}
        disabled={!editable}
        options={contacts.map((c) => ({ value: c, name: c }))}
        onChange={(c) => onChange(c as Step["contact"])}
      />
    </span>
  );
}

function AtMost({
  value,
  editable,
  onChange,
}: {
  value?: number;
  editable: boolean;
  onChange: (minutes: number | undefined) => void;
}) {
  return (
    <TypedNumber
      label="At most"
      unit="minutes"
      value={value}
      least={10}
      most={300}
      off={!editable}
      placeholder="any"
      className="w-20"
      onSay={onChange}
      onNone={() => onChange(undefined)}
    />
  );
}

function TakeOff({ what, onPress }: { what: string; onPress: () => void }) {
  return (
    <Button kind="quiet" aria-label={`Take ${what} off`} onClick={onPress}>
      ×
    </Button>
  );
}

function Ticked({
  is,
  editable,
  onChange,
  children,
}: {
  is: boolean;
  editable: boolean;
  onChange: (on: boolean) => void;
  children: ReactNode;
}) {
  return (
    <label className="flex items-end gap-1.5 pb-1 pointer-coarse:min-h-11">
      <input type="checkbox" checked={is} disabled={!editable} onChange={(e) => onChange(e.target.checked)} />
      {children}
    </label>
  );
}
