import { Button } from "@/kit/Button";
import type { Schemas } from "@/api/client";
import { Combobox } from "@/kit/Combobox";
import { Select } from "@/kit/Select";
import { Sortable } from "@/kit/Sortable";
import { choices, part, range } from "@/kit/form/shape";
import { changed, reorder } from "@/kit/reorder";
import { freeKey } from "./fields";
import { stageShape, type StageFields } from "./stages";

interface Props {
  stages: StageFields[];
  drills: Schemas["Drill"][];
  technique: string;
  /** Index of the stage the server refused. */
  wrong?: number;
  onChange: (stages: StageFields[]) => void;
}

/** The stages of a ladder, in the coach's order, each with drills and gate. */
export function StageEditor({ stages, drills, technique, wrong, onChange }: Props) {
  const fitting = drills.filter((d) => d.techniques.some((t) => t.key === technique));
  const set = (i: number, part: Partial<StageFields>) => onChange(changed(stages, i, part));
  return (
    <>
      <Sortable
        label="Stages"
        one="stage"
        items={stages}
        keyOf={(s) => s.key}
        onMove={(from, to) => onChange(reorder(stages, from, to))}
        look={(_, i) => (wrong === i ? "border-fault" : undefined)}
      >
        {(s, i, moves) => (
          <>
            <Stage {...{ i, drills, fitting, set }} stage={s} />
            <span className="flex flex-wrap justify-end gap-1">
              {moves}
              <Button kind="quiet" onClick={() => onChange(stages.filter((_, j) => j !== i))}>
                out<span className="sr-only">: take stage {i + 1} away</span>
              </Button>
            </span>
          </>
        )}
      </Sortable>
      <Button
        className="mt-2"
        onClick={() =>
          onChange([
            ...stages,
            {
              key: freeKey(stages, "stage"),
              name: "New stage",
              kind: "partner",
              drills: [],
            },
          ])
        }
      >
        Add a stage
      </Button>
      <p className="label mt-2 normal-case tracking-normal">
        Drag a stage by its number, or press <span className="kbd">Alt</span> <span className="kbd">↑</span>{" "}
        <span className="kbd">↓</span> in it. Reps already marked at a stage stay with it.
      </p>
    </>
  );
}

interface StageProps {
  i: number;
  stage: StageFields;
  drills: Schemas["Drill"][];
  fitting: Schemas["Drill"][];
  set: (i: number, part: Partial<StageFields>) => void;
}

function Stage({ i, stage: s, drills, fitting, set }: StageProps) {
  const named = (key: string) => drills.find((d) => d.key === key)?.name ?? key;
  const label = (what: string) => `${what} of stage ${i + 1}`;
  return (
    <div className="grid min-w-0 flex-1 gap-1.5">
      <div className="flex flex-wrap items-center gap-2 text-small">
        <input
          className="field min-w-44 flex-1"
          aria-label={label("Name")}
          maxLength={part(stageShape, "name").maxLength}
          placeholder={named(s.drills?.[0] ?? "")}
          value={s.name ?? ""}
          onChange={(e) => set(i, { name: e.target.value || undefined })}
        />
        <Select
          label={label("Kind")}
          value={s.kind}
          options={choices(stageShape, "kind").map((k) => ({ value: k, name: k }))}
          onChange={(kind) => set(i, { kind: kind as StageFields["kind"] })}
        />
        {gates.map((g) => (
          <Gate
            key={g.field}
            {...g}
            label={label(g.label)}
            value={s[g.field]}
            onChange={(v) => set(i, { [g.field]: v })}
          />
        ))}
      </div>
      {s.kind !== "game" && (
        <div className="flex flex-wrap items-center gap-1.5 text-small">
          {(s.drills ?? []).map((k) => (
            <Button
              key={k}
              kind="bare"
              className="border border-ink px-1.5"
              onClick={() => set(i, { drills: (s.drills ?? []).filter((x) => x !== k) })}
            >
              {named(k)} <span aria-hidden>×</span>
              <span className="sr-only">: take it out of stage {i + 1}</span>
            </Button>
          ))}
          <Combobox
            label={`Add a drill to stage ${i + 1}`}
            word="add a drill"
            options={fitting
              .filter((d) => !(s.drills ?? []).includes(d.key))
              .map((d) => ({ value: d.key, name: d.name }))}
            onChoose={(key) => set(i, { drills: [...(s.drills ?? []), key] })}
          />
        </div>
      )}
    </div>
  );
}

/** The numbers of a gate: what each is called, how it is read, and what holds where none stands. */
const gates = [
  { field: "clean", label: "Clean reps", word: "clean", none: "rule" },
  { field: "window", label: "Window", word: "of the last", none: "rule" },
  { field: "sessions", label: "Days", word: "over days", none: "rule" },
  { field: "max_sessions", label: "Most days", word: "at most days", none: "any" },
  { field: "from_week", label: "First week", word: "from week", none: "1" },
  { field: "head", label: "Reps without a head fault", word: "head clean", none: "rule" },
] as const;

interface GateProps {
  field: (typeof gates)[number]["field"];
  label: string;
  word: string;
  value?: number;
  none: string;
  onChange: (v: number | undefined) => void;
}

function Gate({ field, label, word, value, none, onChange }: GateProps) {
  return (
    <label className="inline-flex items-center gap-1">
      <span className="text-label text-soft">{word}</span>
      <input
        type="number"
        {...range(part(stageShape, field))}
        className="field w-14 text-right"
        aria-label={label}
        placeholder={none}
        value={value ?? ""}
        onChange={(e) => onChange(e.target.value === "" ? undefined : Number(e.target.value))}
      />
    </label>
  );
}
