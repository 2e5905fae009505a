import { Button } from "@/kit/Button";
import type { Schemas } from "@/api/client";
import { Combobox } from "@/kit/Combobox";
import { Select } from "@/kit/Select";
import { Sortable } from "@/kit/Sortable";
import { choices, part, range } from "@/kit/form/shape";
import { changed, reorder } from "@/kit/reorder";
import { useWhere } from "@/app/where";
import { useQuery } from "@tanstack/react-query";
import { queries } from "@/api/queries";
import { freeKey } from "./fields";
import { stageShape, type StageFields } from "./stages";

interface Props {
  stages: StageFields[];
  drills: Schemas["Drill"][];
  /** The one it teaches, where the group is taught it. */
  technique?: Schemas["Technique"];
  /** Of drills that the group does not have. */
  names: Record<string, string>;
  /** Index of the stage the server refused. */
  wrong?: number;
  onChange: (stages: StageFields[]) => void;
}

/** The stages of a ladder, in the coach's order, each with drills and gate. */
export function StageEditor({ stages, drills, technique, names, wrong, onChange }: Props) {
  const { group } = useWhere();
  const frame = useQuery(queries.frame());
  const named = (key: string) => drills.find((d) => d.key === key)?.name ?? names[key] ?? key;
  const groupName = (key: string) => frame.data?.groups.find((g) => g.key === key)?.name ?? "";
  const fitting = drills
    .filter((d) => d.techniques.some((t) => t.key === technique?.key))
    .map((d) => ({ value: d.key, name: d.name }));
  // Whose technique it is has the drills for all.
  const apart = technique && technique.groups.length > 1 && technique.groups[0] !== group ? group : undefined;
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
            <Stage {...{ i, named, groupName, apart, fitting, set }} stage={s} />
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
  named: (key: string) => string;
  groupName: (key: string) => string;
  /** The group, where it may have drills of its own at a stage of what another one teaches too. */
  apart?: string;
  fitting: { value: string; name: string }[];
  set: (i: number, part: Partial<StageFields>) => void;
}

function Stage({ i, stage: s, named, groupName, apart, fitting, set }: StageProps) {
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
        <StageDrills
          at={`stage ${i + 1}`}
          {...{ named, fitting }}
          drills={s.drills ?? []}
          onChange={(list) => set(i, { drills: list })}
        />
      )}
      {s.kind !== "game" &&
        Object.entries(s.by_group ?? {})
          .filter(([g, list]) => g !== apart && groupName(g) && list.length > 0)
          .map(([g, list]) => (
            <p key={g} className="text-small text-soft">
              {groupName(g)} instead: {list.map(named).join(", ")}
            </p>
          ))}
      {s.kind !== "game" && apart && (
        <StageDrills
          at={`stage ${i + 1} for ${groupName(apart)}`}
          word={`${groupName(apart)} instead:`}
          {...{ named, fitting }}
          drills={s.by_group?.[apart] ?? []}
          onChange={(list) => {
            const by = Object.entries({ ...s.by_group, [apart]: list }).filter(([, l]) => l.length > 0);
            set(i, { by_group: by.length > 0 ? Object.fromEntries(by) : undefined });
          }}
        />
      )}
    </div>
  );
}

interface StageDrillsProps {
  /** Where they stand, in words. */
  at: string;
  word?: string;
  drills: string[];
  named: (key: string) => string;
  fitting: { value: string; name: string }[];
  onChange: (drills: string[]) => void;
}

/** The drills of a stage, for all groups or for one. */
function StageDrills({ at, word, drills, named, fitting, onChange }: StageDrillsProps) {
  return (
    <div className="flex flex-wrap items-center gap-1.5 text-small">
      {word && <span className="text-soft">{word}</span>}
      {drills.map((k) => (
        <Button
          key={k}
          kind="bare"
          className="border border-ink px-1.5"
          onClick={() => onChange(drills.filter((x) => x !== k))}
        >
          {named(k)} <span aria-hidden>×</span>
          <span className="sr-only">: take it out of {at}</span>
        </Button>
      ))}
      <Combobox
        label={`Add a drill to ${at}`}
        word="add a drill"
        options={fitting.filter((d) => !drills.includes(d.value))}
        onChoose={(key) => onChange([...drills, key])}
      />
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
