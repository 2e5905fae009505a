import { Button } from "@/kit/Button";
import { Combobox } from "@/kit/Combobox";
import { Select } from "@/kit/Select";
import { Sortable } from "@/kit/Sortable";
import { useState } from "react";
import type { Schemas } from "@/api/client";
import { reorder } from "@/kit/reorder";
import { Field as Labelled, type Control } from "@/kit/Field";
import { choices, choicesOf, part, range, type Shape } from "@/kit/form/shape";
import { Band, unit, type Measure } from "@/parts/Standard";
import { keyOfWords } from "@/parts/words";
import { DrawingEditor } from "./DrawingEditor";
import { entryShape, freeKey, type Field } from "./fields";
import { StageEditor } from "./StageEditor";
import type { StageFields } from "./stages";

type Fields = Record<string, unknown>;

interface Props {
  field: Field;
  /** What the field takes. */
  takes: Shape;
  /** What ties the input to its words. */
  control: Control;
  value: unknown;
  /** The whole entry. */
  fields: Fields;
  library: Schemas["Library"];
  groups: Schemas["GroupRef"][];
  /** Of what the entry names that is not among what the group is taught. */
  names: Record<string, string>;
  /** The full path the server named, such as fields.stages[1].drills. */
  path?: string;
  onChange: (value: unknown) => void;
}

const textOf = (v: unknown) => (typeof v === "string" ? v : "");
const listOf = (v: unknown): string[] => (Array.isArray(v) ? v.map(String) : []);

/** The input of one field. */
export function FieldInput(p: Props) {
  const { field, takes, value, control, onChange } = p;
  const { id } = control;
  const invalid = !!control["aria-invalid"];
  const shared = { ...control, className: "field w-full" };
  switch (field.as) {
    case "line":
      return (
        <input
          {...shared}
          maxLength={takes.maxLength}
          value={textOf(value)}
          placeholder={field.hint}
          onChange={(e) => onChange(e.target.value || undefined)}
        />
      );
    case "text":
      return (
        <textarea
          {...shared}
          rows={2}
          maxLength={takes.maxLength}
          className="field w-full py-1"
          value={textOf(value)}
          onChange={(e) => onChange(e.target.value || undefined)}
        />
      );
    case "flag":
      return (
        <input
          {...control}
          type="checkbox"
          className="size-6"
          checked={value === true}
          onChange={(e) => onChange(e.target.checked || undefined)}
        />
      );
    case "number":
      return (
        <input
          {...shared}
          type="number"
          {...range(takes)}
          className="field w-24 text-right"
          value={typeof value === "number" ? value : ""}
          onChange={(e) => onChange(e.target.value === "" ? undefined : Number(e.target.value))}
        />
      );
    case "choice": {
      const options = choicesOf(takes);
      if (!field.needed) options.unshift("");
      return (
        <Select
          control={control}
          label={field.label}
          value={typeof value === "string" || typeof value === "number" ? String(value) : options[0]!}
          options={options.map((o) => ({ value: o, name: o || "–" }))}
          onChange={(v) => onChange(v === "" ? undefined : takes.type === "integer" ? Number(v) : v)}
        />
      );
    }
    case "words":
      return <WordsInput {...shared} value={listOf(value)} hint={field.hint} onChange={onChange} />;
    case "keys":
      return <KeysInput {...p} of={field.of ?? ""} />;
    case "pair":
      return <PairInput id={id} value={value} invalid={invalid} onChange={onChange} />;
    case "measure":
      return <MeasureInput id={id} value={value} onChange={onChange} />;
    case "stages":
      return (
        <StageEditor
          stages={(value as StageFields[] | undefined) ?? []}
          drills={p.library.drills}
          technique={p.library.techniques.find((t) => t.key === p.fields.technique)}
          names={p.names}
          wrong={indexIn(p.path)}
          onChange={onChange}
        />
      );
    case "drawing":
      return (
        <DrawingEditor
          setup={value as Schemas["Setup"] | undefined}
          space={(p.fields.space_yd as [number, number] | undefined) ?? [6, 4]}
          onChange={onChange}
        />
      );
    case "list":
      return <ListInput {...p} />;
    case "group":
      return (
        <div className="border-l-2 border-hair pl-2">
          <Parts {...p} value={value as Fields | undefined} shape={takes} onChange={onChange} />
        </div>
      );
    case "map":
      return <MapInput {...p} />;
  }
}

/** The fields of a part of an entry. */
function Parts({ shape, value, onChange, ...p }: Omit<Props, "value"> & { shape: Shape; value?: Fields }) {
  const parts = (p.field.parts ?? []).filter((f) => f.name !== "key" || !named(p.field));
  return (
    <div className="grid flex-1 gap-x-3 gap-y-1.5 sm:grid-cols-12">
      {parts.map((f) => (
        <Labelled key={f.name} label={f.label} hint={f.help} className={spanOf(f)}>
          {(control) => (
            <FieldInput
              {...p}
              field={f}
              takes={part(shape, f.name)}
              control={control}
              value={value?.[f.name]}
              onChange={(v) => {
                const next = { ...value, [f.name]: v };
                const empty = p.field.as === "group" && Object.values(next).every((x) => x === undefined);
                onChange(empty ? undefined : next);
              }}
            />
          )}
        </Labelled>
      ))}
    </div>
  );
}

/** How wide a field is, of twelve. */
export const spanOf = (f: Field): string =>
  ({
    number: "sm:col-span-3",
    choice: f.help ? "sm:col-span-6" : "sm:col-span-3",
    pair: "sm:col-span-4",
    flag: "sm:col-span-6",
    line: f.parts ? "sm:col-span-6" : "sm:col-span-12",
  })[f.as as string] ?? "sm:col-span-12";

/** The part by whose words the key of one of a list is made. */
const named = (field: Field) => field.parts?.find((f) => f.name === "name" || f.name === "look")?.name;

/** What a list is made of, in the coach's order. */
function ListInput(p: Props) {
  const { field, value, onChange } = p;
  const items = Array.isArray(value) ? (value as Fields[]) : [];
  const shape = p.takes.items ?? {};
  const one = field.one ?? "line";
  const by = named(field);
  const put = (list: Fields[]) => onChange(list.length > 0 ? list : undefined);
  const set = (i: number, next: Fields) => {
    // A key is made once, of the first words; what refers to it stays.
    if (by && !next.key) {
      const base = keyOfWords(textOf(next[by]), 40);
      if (base) next = { ...next, key: freeKey(items, base) };
    }
    put(items.map((x, j) => (j === i ? next : x)));
  };
  return (
    <>
      <Sortable
        label={field.label}
        one={one}
        items={items.map((item, i) => ({ item, id: textOf(item.key) || String(i) }))}
        keyOf={(x) => x.id}
        onMove={(from, to) => put(reorder(items, from, to))}
      >
        {({ item }, i, moves) => (
          <>
            <Parts {...p} shape={shape} value={item} onChange={(v) => set(i, v as Fields)} />
            <span className="flex flex-wrap justify-end gap-1">
              {moves}
              <Button kind="quiet" onClick={() => put(items.filter((_, j) => j !== i))}>
                out
                <span className="sr-only">
                  : take {one} {i + 1} away
                </span>
              </Button>
            </span>
          </>
        )}
      </Sortable>
      <Button className="mt-1 justify-self-start" onClick={() => put([...items, start(field, shape)])}>
        Add a {one}
      </Button>
    </>
  );
}

/** What a new one of a list starts from: the first of what must be chosen, the least of what must be counted. */
function start(field: Field, shape: Shape): Fields {
  const out: Fields = {};
  for (const f of field.parts ?? []) {
    const takes = part(shape, f.name);
    if (f.needed && takes.enum) out[f.name] = takes.enum[0];
    else if (f.needed && f.as === "number") out[f.name] = Math.max(takes.minimum ?? 0, 1);
  }
  return out;
}

/** Words or numbers by what they are of. */
function MapInput(p: Props) {
  const { field, value, onChange } = p;
  const takes = p.takes.additionalProperties ?? {};
  // What is being typed may have no name yet, or the name of another for a moment.
  const [rows, setRows] = useState(() => Object.entries((value as Fields | undefined) ?? {}));
  const put = (next: [string, unknown][]) => {
    setRows(next);
    const whole = next.filter(([k, v]) => k.trim() !== "" && v !== undefined && v !== "");
    onChange(whole.length > 0 ? Object.fromEntries(whole.map(([k, v]) => [k.trim(), v])) : undefined);
  };
  const set = (i: number, k: string, v: unknown) => put(rows.map((r, j) => (j === i ? [k, v] : r)));
  return (
    <div className="grid gap-1 text-small">
      {rows.map(([k, v], i) => (
        <span key={i} className="flex flex-wrap items-center gap-1.5">
          <input
            className="field w-44 max-w-full"
            aria-label={`${field.label}, name ${i + 1}`}
            placeholder={field.hint}
            maxLength={160}
            value={k}
            onChange={(e) => set(i, e.target.value, v)}
          />
          {field.of ? (
            <KeysInput
              {...p}
              field={{ ...field, label: `${field.label}, value ${i + 1}`, as: "keys" }}
              takes={{ type: "string" }}
              of={field.of}
              control={{ id: `${p.control.id}-${i}` }}
              value={v}
              onChange={(x) => set(i, k, x)}
            />
          ) : (
            <input
              className={takes.type === "string" ? "field min-w-52 flex-1" : "field w-20 text-right"}
              aria-label={`${field.label}, value ${i + 1}`}
              type={takes.type === "string" ? "text" : "number"}
              {...(takes.type === "string" ? { maxLength: takes.maxLength } : range(takes))}
              value={typeof v === "string" || typeof v === "number" ? v : ""}
              onChange={(e) =>
                set(
                  i,
                  k,
                  takes.type === "string" || e.target.value === "" ? e.target.value : Number(e.target.value),
                )
              }
            />
          )}
          <Button kind="quiet" onClick={() => put(rows.filter((_, j) => j !== i))}>
            out<span className="sr-only">: {k || "the empty one"}</span>
          </Button>
        </span>
      ))}
      <Button kind="quiet" className="justify-self-start" onClick={() => setRows([...rows, ["", undefined]])}>
        Add one<span className="sr-only"> to {field.label}</span>
      </Button>
    </div>
  );
}

function indexIn(path?: string): number | undefined {
  const m = /stages\[(\d+)\]/.exec(path ?? "");
  return m ? Number(m[1]) : undefined;
}

interface Shared extends Control {
  className: string;
  onChange: (value: unknown) => void;
}

/** A list of terms, separated by commas as they are typed. */
function WordsInput({ value, hint, onChange, ...shared }: Shared & { value: string[]; hint?: string }) {
  const [text, setText] = useState(value.join(", "));
  return (
    <input
      {...shared}
      placeholder={hint}
      value={text}
      onChange={(e) => {
        setText(e.target.value);
        const list = e.target.value
          .split(",")
          .map((w) => w.trim())
          .filter(Boolean);
        onChange(list.length > 0 ? list : undefined);
      }}
    />
  );
}

/** What keys of a kind name, as they are chosen from. */
function optionsOf(
  of: string,
  p: Pick<Props, "fields" | "library" | "groups">,
): { key: string; name: string }[] {
  const { library, groups, fields } = p;
  // What belongs to a technique chooses among what is of that technique.
  const technique = textOf(fields.technique);
  const own = library.techniques.filter((t) => !technique || t.key === technique);
  const named = (t: Schemas["Technique"], name: string) => (technique ? name : `${t.name}: ${name}`);
  switch (of) {
    case "group":
      return groups;
    case "technique":
      return library.techniques;
    case "drill":
      return library.drills;
    case "table":
      return library.tables;
    case "stage":
      return library.ladders.flatMap((l) => [
        { key: l.technique, name: `${l.name}: all of it` },
        ...l.stages.map((s) => ({ key: `${l.technique}/${s.key}`, name: `${l.name}: ${s.name}` })),
      ]);
    case "fault":
      return own.flatMap((t) => t.faults.map((f) => ({ key: f.key, name: named(t, f.name) })));
    default:
      return own.flatMap((t) => t.checkpoints.map((c) => ({ key: c.key, name: named(t, c.name) })));
  }
}

/** References to other entries, one or several, chosen by their names. */
function KeysInput({ of, ...p }: Props & { of: string }) {
  const { field, takes, value, control, onChange } = p;
  const options = optionsOf(of, p);
  const nameOf = (k: string) => options.find((o) => o.key === k)?.name ?? p.names[k] ?? k;
  if (takes.type === "string")
    return (
      <span className="flex flex-wrap items-center gap-1.5">
        <Combobox
          control={control}
          label={field.label}
          word={textOf(value) ? nameOf(textOf(value)) : "choose"}
          options={options.map((o) => ({ value: o.key, name: o.name }))}
          onChoose={onChange}
        />
        {textOf(value) && !field.needed && (
          <Button kind="quiet" onClick={() => onChange(undefined)}>
            none<span className="sr-only"> for {field.label}</span>
          </Button>
        )}
      </span>
    );
  const list = listOf(value);
  const put = (next: string[]) => onChange(next.length > 0 ? next : undefined);
  return (
    <div className="flex flex-wrap gap-1.5 text-small">
      {list.map((k) => (
        <Button
          key={k}
          kind="bare"
          className="border border-ink px-1.5 text-left"
          onClick={() => put(list.filter((x) => x !== k))}
        >
          {nameOf(k)} <span aria-hidden>×</span>
          <span className="sr-only">: take it out</span>
        </Button>
      ))}
      <Combobox
        control={control}
        label={field.label}
        word="add"
        options={options.filter((o) => !list.includes(o.key)).map((o) => ({ value: o.key, name: o.name }))}
        onChoose={(key) => put([...list, key])}
      />
    </div>
  );
}

function PairInput({
  id,
  value,
  invalid,
  onChange,
}: {
  id: string;
  value: unknown;
  invalid: boolean;
  onChange: (v: unknown) => void;
}) {
  const pair = Array.isArray(value) ? (value as number[]) : [6, 4];
  const part = (i: number) => (
    <input
      id={i === 0 ? id : undefined}
      aria-label={i === 0 ? undefined : "Yards across"}
      aria-invalid={invalid}
      type="number"
      step="0.5"
      className="field w-20 text-right"
      value={pair[i] ?? 0}
      onChange={(e) =>
        onChange(i === 0 ? [Number(e.target.value), pair[1]] : [pair[0], Number(e.target.value)])
      }
    />
  );
  return (
    <span>
      {part(0)} × {part(1)}
    </span>
  );
}

const measured = entryShape("measure");

/** A measured standard: its numbers, and the band as they make it. */
function MeasureInput({
  id,
  value,
  onChange,
}: {
  id: string;
  value: unknown;
  onChange: (v: unknown) => void;
}) {
  const m = value as Measure | undefined;
  if (!m)
    return (
      <Button
        id={id}
        kind="quiet"
        onClick={() => onChange({ unit: "in", target: 6, ok: [4, 8], watch: [2, 10], read: "line" })}
      >
        Measure it
      </Button>
    );
  const set = (part: Partial<Measure>) => onChange({ ...m, ...part });
  const number = (
    label: string,
    v: number | null | undefined,
    put: (v: number | undefined) => void,
    none?: string,
  ) => (
    <Labelled inline label={label}>
      {(control) => (
        <input
          {...control}
          type="number"
          step="any"
          className="field w-[4.5rem] text-right"
          placeholder={none}
          value={v ?? ""}
          onChange={(e) => put(e.target.value === "" ? undefined : Number(e.target.value))}
        />
      )}
    </Labelled>
  );
  const words = (label: string, field: "from" | "low" | "high" | "of", hint: string) => (
    <Labelled inline label={label}>
      {(control) => (
        <input
          {...control}
          className="field w-36"
          placeholder={hint}
          maxLength={part(measured, field).maxLength}
          value={m[field] ?? ""}
          onChange={(e) => set({ [field]: e.target.value || undefined })}
        />
      )}
    </Labelled>
  );
  const end = (v: number | undefined) => v ?? null;
  return (
    <div className="grid gap-2">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1 text-small">
        {number("target", m.target, (v) => set({ target: v ?? 0 }))}
        <Select
          control={{ id }}
          label="Unit"
          value={m.unit}
          options={choices(measured, "unit").map((u) => ({ value: u, name: unit({ unit: u }) }))}
          onChange={(u) => set({ unit: u as Measure["unit"] })}
        />
        {number("OK from", m.ok[0], (v) => set({ ok: [end(v), m.ok[1]!] }), "open")}
        {number("to", m.ok[1], (v) => set({ ok: [m.ok[0]!, end(v)] }), "open")}
        {number("watch from", m.watch[0], (v) => set({ watch: [end(v), m.watch[1]!] }), "open")}
        {number("to", m.watch[1], (v) => set({ watch: [m.watch[0]!, end(v)] }), "open")}
        {number("never under", m.min, (v) => set({ min: v }))}
        {number("never over", m.max, (v) => set({ max: v }))}
        <span className="inline-flex items-center gap-1">
          <span className="text-label text-soft" aria-hidden>
            read off
          </span>
          <Select
            label="Read off"
            value={m.read}
            options={choices(measured, "read").map((r) => ({ value: r, name: r.replace("_", " ") }))}
            onChange={(read) => set({ read: read as Measure["read"] })}
          />
        </span>
        {words("landmark", "of", "outside leg of the tackle")}
        {words("less is", "low", "short")}
        {words("more is", "high", "deep")}
        {words("difference from", "from", "table/column")}
        <Button kind="text" onClick={() => onChange(undefined)}>
          judge it by eye
        </Button>
      </div>
      <div className="max-w-sm">
        <Band measure={m} />
      </div>
    </div>
  );
}
