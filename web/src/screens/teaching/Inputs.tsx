import { Button } from "@/kit/Button";
import { Combobox } from "@/kit/Combobox";
import { Select } from "@/kit/Select";
import { useState } from "react";
import type { Schemas } from "@/api/client";
import type { Kind } from "@/api/queries";
import { Field as Labelled, type Control } from "@/kit/Field";
import { choices, choicesOf, entryShape, part, range } from "@/kit/form/shape";
import { Band, unit } from "@/parts/Standard";
import { shapeFor, type Field } from "./fields";
import { StageEditor } from "./StageEditor";
import type { StageFields } from "./stages";

interface Props {
  kind: Kind;
  field: Field;
  /** What ties the input to its words. */
  control: Control;
  value: unknown;
  fields: Record<string, unknown>;
  library: Schemas["Library"];
  groups: Schemas["GroupRef"][];
  /** The full path the server named, such as fields.stages[1].drills. */
  path?: string;
  onChange: (value: unknown) => void;
}

const textOf = (v: unknown) => (typeof v === "string" ? v : "");
const listOf = (v: unknown): string[] => (Array.isArray(v) ? v.map(String) : []);

/** The input of one field. */
export function FieldInput(p: Props) {
  const { field, value, control, onChange } = p;
  const { id } = control;
  const invalid = !!control["aria-invalid"];
  const takes = part(shapeFor(p.kind), field.name);
  const shared = { ...control, className: "field w-full" };
  switch (field.as) {
    case "line":
      return (
        <input
          {...shared}
          maxLength={takes.maxLength}
          value={textOf(value)}
          onChange={(e) => onChange(e.target.value)}
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
          onChange={(e) => onChange(e.target.value)}
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
          step={field.step ?? range(takes).step}
          className="field w-24 text-right"
          value={typeof value === "number" ? value : takes.minimum === 0 ? 0 : ""}
          onChange={(e) => onChange(e.target.value === "" ? undefined : Number(e.target.value))}
        />
      );
    case "choice": {
      const options = choicesOf(takes);
      if (field.none) options.unshift("");
      return (
        <Select
          control={control}
          label={field.label}
          value={value === undefined ? String(options[0]) : String(value)}
          options={options.map((o) => ({ value: o, name: o || field.none! }))}
          onChange={(v) => onChange(v === "" ? undefined : /^\d+$/.test(v) ? Number(v) : v)}
        />
      );
    }
    case "words":
      return <WordsInput {...shared} value={listOf(value)} hint={field.hint} onChange={onChange} />;
    case "keys":
      return <KeysInput {...p} of={field.of} />;
    case "pair":
      return <PairInput id={id} value={value} invalid={invalid} onChange={onChange} />;
    case "measure":
      return <MeasureInput id={id} value={value} onChange={onChange} />;
    case "stages":
      return (
        <StageEditor
          stages={(value as StageFields[] | undefined) ?? []}
          drills={p.library.drills}
          technique={textOf(p.fields.technique)}
          wrong={indexIn(p.path)}
          onChange={onChange}
        />
      );
    default:
      return <JsonInput {...shared} value={value} onChange={onChange} />;
  }
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
function WordsInput({ value, hint, onChange, ...shared }: Shared & { value: string[]; hint: string }) {
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

/** References to other entries, chosen by their names. */
function KeysInput({ field, value, library, groups, fields, of, control, onChange }: Props & { of: string }) {
  const technique = textOf(fields.technique);
  const options: { key: string; name: string }[] =
    of === "group"
      ? groups
      : of === "fault"
        ? library.techniques.flatMap((t) =>
            t.faults.map((f) => ({ key: f.key, name: `${t.name}: ${f.name}` })),
          )
        : library.techniques
            .filter((t) => !technique || t.key === technique)
            .flatMap((t) =>
              t.checkpoints.map((c) => ({ key: c.key, name: technique ? c.name : `${t.name}: ${c.name}` })),
            );
  const nameOf = (k: string) => options.find((o) => o.key === k)?.name ?? k;
  if (field.name === "at")
    return (
      <Combobox
        control={control}
        label={field.label}
        word={textOf(value) ? nameOf(textOf(value)) : "choose"}
        options={options.map((o) => ({ value: o.key, name: o.name }))}
        onChoose={onChange}
      />
    );
  const list = listOf(value);
  return (
    <div className="flex flex-wrap gap-1.5 text-small">
      {list.map((k) => (
        <Button
          key={k}
          kind="bare"
          className="border border-ink px-1.5 text-left"
          onClick={() => onChange(list.filter((x) => x !== k))}
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
        onChoose={(key) => onChange([...list, key])}
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

interface MeasureFields {
  unit: string;
  target: number;
  ok: [number, number];
  watch: [number, number];
  min?: number;
  max?: number;
  read: string;
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
  const m = value as MeasureFields | undefined;
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
  const set = (part: Partial<MeasureFields>) => onChange({ ...m, ...part });
  const number = (label: string, v: number | undefined, put: (v: number | undefined) => void) => (
    <Labelled inline label={label}>
      {(control) => (
        <input
          {...control}
          type="number"
          step="any"
          className="field w-[4.5rem] text-right"
          value={v ?? ""}
          onChange={(e) => put(e.target.value === "" ? undefined : Number(e.target.value))}
        />
      )}
    </Labelled>
  );
  const view = {
    ...m,
    ok_low: m.ok[0],
    ok_high: m.ok[1],
    watch_low: m.watch[0],
    watch_high: m.watch[1],
  };
  return (
    <div className="grid gap-2">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1 text-small">
        {number("target", m.target, (v) => set({ target: v ?? 0 }))}
        <Select
          control={{ id }}
          label="Unit"
          value={m.unit}
          options={choices(measured, "unit").map((u) => ({ value: u, name: unit({ ...view, unit: u }) }))}
          onChange={(u) => set({ unit: u })}
        />
        {number("OK from", m.ok[0], (v) => set({ ok: [v ?? 0, m.ok[1]] }))}
        {number("to", m.ok[1], (v) => set({ ok: [m.ok[0], v ?? 0] }))}
        {number("watch from", m.watch[0], (v) => set({ watch: [v ?? 0, m.watch[1]] }))}
        {number("to", m.watch[1], (v) => set({ watch: [m.watch[0], v ?? 0] }))}
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
            onChange={(read) => set({ read })}
          />
        </span>
        <Button kind="text" onClick={() => onChange(undefined)}>
          judge it by eye
        </Button>
      </div>
      <div className="max-w-sm">
        <Band measure={view} />
      </div>
    </div>
  );
}

/** A part that is edited as text; it takes effect when it can be read. */
function JsonInput({ value, onChange, ...shared }: Shared & { value: unknown }) {
  const [text, setText] = useState(() => JSON.stringify(value ?? {}, null, 1));
  const [wrong, setWrong] = useState(false);
  return (
    <>
      <textarea
        {...shared}
        rows={6}
        spellCheck={false}
        className="field w-full py-1 font-mono text-label"
        aria-invalid={wrong || shared["aria-invalid"]}
        value={text}
        onChange={(e) => {
          setText(e.target.value);
          try {
            onChange(JSON.parse(e.target.value));
            setWrong(false);
          } catch {
            setWrong(true);
          }
        }}
      />
      {wrong && (
        <span className="say text-small text-fault">
          This cannot be read yet; what stood there before holds.
        </span>
      )}
    </>
  );
}
