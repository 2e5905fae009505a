import type { ReactNode } from "react";
import type { Schemas } from "@/api/client";
import { Button } from "@/kit/Button";
import { FieldGroup } from "@/kit/Field";
import { Select, SelectField } from "@/kit/Select";
import { Typed, TypedClock, TypedNumber } from "@/kit/Typed";
import { clock } from "@/parts/words";
import { contacts, kindNames, named, type Period } from "./periods";

interface Props {
  period: Period;
  practice: Schemas["Practice"];
  groups: Schemas["GroupRef"][];
  editable: boolean;
  onChange: (change: Partial<Period>) => void;
  children?: ReactNode;
}

/** The chosen period, in words: all that is said of it. */
export function Panel({ period: p, practice, groups, editable, onChange, children }: Props) {
  const { settings } = practice;
  const start = practice.practice.start_minute;
  if (!editable)
    return (
      <div className="grid gap-1">
        <h2 className="head">{p.name}</h2>
        <p className="say text-small">
          {clock(start + p.start)}–{clock(start + p.start + p.minutes)}, {p.minutes} minutes, contact{" "}
          {p.contact}
          {p.place && `, ${settings.places.find((x) => x.key === p.place)?.name ?? p.place}`}
        </p>
        <p className="say text-small text-soft">The head coach changes what more groups than yours share.</p>
      </div>
    );
  const lanes = groups.map((g) => ({ key: g.key, name: g.short }));
  const inLanes = (list: string[]) => groups.map((g) => g.key).filter((k) => list.includes(k));
  const uses = (key: string) => p.equipment.find((e) => e.key === key)?.count ?? 0;
  return (
    <div className="grid gap-2">
      <Typed label="Name" value={p.name} max={80} onSay={(name) => name && onChange({ name })} />
      <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-2">
        <SelectField
          label="Kind"
          value={p.kind}
          options={Object.entries(kindNames).map(([value, name]) => ({ value, name }))}
          onChange={(kind) =>
            onChange({ kind: kind as Period["kind"], name: named(p, kind as Period["kind"]) })
          }
        />
        <SelectField
          label="Contact"
          value={p.contact}
          options={contacts.map((c) => ({ value: c, name: c }))}
          onChange={(contact) => onChange({ contact: contact as Period["contact"] })}
        />
        <TypedClock
          label="From"
          value={clock(start + p.start)}
          onSay={(minute) => onChange({ start: minute - start })}
        />
        <TypedNumber label="Minutes" value={p.minutes} least={1} onSay={(minutes) => onChange({ minutes })} />
      </div>
      <Ticks
        label="Groups"
        of={lanes}
        chosen={p.groups}
        onChange={(list) => onChange({ groups: inLanes(list) })}
      />
      <SelectField
        label="Place"
        value={p.place}
        options={[
          { value: "", name: "no place" },
          ...settings.places.map((x) => ({ value: x.key, name: x.name, more: `holds ${x.capacity}` })),
        ]}
        onChange={(place) => onChange({ place })}
      />
      <details>
        <summary className="label cursor-pointer py-1">
          Coaches, equipment, whom it needs{" "}
          <span className="normal-case">
            {[
              p.coaches.length > 0 && `${p.coaches.length} on it`,
              ...p.equipment.map(
                (e) => `${e.count} ${settings.equipment.find((x) => x.key === e.key)?.name ?? e.key}`,
              ),
            ]
              .filter(Boolean)
              .join(", ")}
          </span>
        </summary>
        <div className="grid gap-2 pt-1">
          <Ticks
            label="Coaches and helpers"
            of={settings.staff}
            chosen={p.coaches}
            onChange={(coaches) => onChange({ coaches })}
          />
          {settings.equipment.length > 0 && (
            <FieldGroup label="Equipment">
              {settings.equipment.map((e) => (
                <TypedNumber
                  key={e.key}
                  inline
                  label={`${e.name} (of ${e.count})`}
                  value={uses(e.key)}
                  least={0}
                  className="w-14"
                  onSay={(count) =>
                    onChange({
                      equipment: [
                        ...p.equipment.filter((x) => x.key !== e.key),
                        ...(count > 0 ? [{ key: e.key, count }] : []),
                      ].sort((a, b) => a.key.localeCompare(b.key)),
                    })
                  }
                />
              ))}
            </FieldGroup>
          )}
          <Ticks
            label="Cannot be run without"
            of={lanes}
            chosen={p.needs_groups}
            onChange={(list) => onChange({ needs_groups: inLanes(list) })}
          />
          <TypedNumber
            inline
            parts
            className="w-14"
            label="A rep lasts, seconds"
            value={p.rep_seconds}
            least={0}
            most={3600}
            onSay={(rep_seconds) => onChange({ rep_seconds })}
          />
        </div>
      </details>
      {children}
    </div>
  );
}

interface TicksProps {
  label: string;
  of: { key: string; name: string }[];
  chosen: string[];
  onChange: (chosen: string[]) => void;
}

/** Some of a few, each ticked by itself. */
function Ticks({ label, of, chosen, onChange }: TicksProps) {
  return (
    <FieldGroup label={label}>
      {of.map(({ key, name }) => (
        <label key={key} className="flex min-h-6 items-center gap-1 text-small pointer-coarse:min-h-11">
          <input
            type="checkbox"
            checked={chosen.includes(key)}
            onChange={(e) => onChange(e.target.checked ? [...chosen, key] : chosen.filter((k) => k !== key))}
          />
          {name}
        </label>
      ))}
    </FieldGroup>
  );
}

interface ActsProps {
  joinable: { id: string; name: string }[];
  onSplit: () => void;
  onCopy: () => void;
  onJoin: (id: string) => void;
  onOut: () => void;
  canSplit: boolean;
}

/** What can be done to the chosen period at once. */
export function Acts({ joinable, onSplit, onCopy, onJoin, onOut, canSplit }: ActsProps) {
  return (
    <div className="flex flex-wrap gap-1.5 border-t border-hair pt-2">
      <Button off={!canSplit} onClick={onSplit}>
        Split <span className="kbd">s</span>
      </Button>
      <Button onClick={onCopy}>
        Copy <span className="kbd">c</span>
      </Button>
      {joinable.length > 0 && (
        <Select
          label="Join with"
          placeholder="Join with"
          value=""
          options={joinable.map((j) => ({ value: j.id, name: j.name }))}
          onChange={onJoin}
        />
      )}
      <Button kind="quiet" onClick={onOut}>
        Take out <span className="kbd">Del</span>
      </Button>
    </div>
  );
}
