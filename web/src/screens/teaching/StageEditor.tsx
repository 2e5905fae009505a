import { Button } from "@/kit/Button";
import {
  DndContext,
  PointerSensor,
  closestCenter,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import clsx from "clsx";
import { useEffect, useRef, useState } from "react";
import type { Schemas } from "@/api/client";
import { Combobox } from "@/kit/Combobox";
import { Select } from "@/kit/Select";
import { useKeepFocus } from "@/kit/focus";
import { freeKey, reorder, stageKinds, type StageFields } from "./stages";

interface Props {
  stages: StageFields[];
  drills: Schemas["Drill"][];
  technique: string;
  /** Index of the stage the server refused. */
  wrong?: number;
  onChange: (stages: StageFields[]) => void;
}

/** The stages of a ladder: dragged by their number or moved with Alt and the arrow keys, each with drills and gate. */
export function StageEditor({ stages, drills, technique, wrong, onChange }: Props) {
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const [moved, setMoved] = useState<string>(); // the stage that the keyboard goes along with
  const keep = useKeepFocus<HTMLOListElement>();
  const fitting = drills.filter((d) => d.techniques.some((t) => t.key === technique));
  const set = (i: number, part: Partial<StageFields>) =>
    onChange(stages.map((s, j) => (j === i ? { ...s, ...part } : s)));
  const move = (from: number, to: number) => {
    if (to < 0 || to >= stages.length || from === to) return;
    onChange(reorder(stages, from, to));
    setMoved(stages[from]!.key);
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={(e) => {
        if (e.over) move(Number(String(e.active.id).slice(6)), Number(String(e.over.id).slice(5)));
      }}
    >
      <ol ref={keep} className="grid gap-2" aria-label="Stages">
        {stages.map((s, i) => (
          <Row
            key={s.key}
            {...{ i, drills, fitting, move, set }}
            stage={s}
            moved={moved === s.key}
            onMoved={() => setMoved(undefined)}
            wrong={wrong === i}
            onRemove={() => onChange(stages.filter((_, j) => j !== i))}
          />
        ))}
      </ol>
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
              window: 10,
              clean: 8,
              sessions: 2,
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
    </DndContext>
  );
}

interface RowProps {
  i: number;
  stage: StageFields;
  drills: Schemas["Drill"][];
  fitting: Schemas["Drill"][];
  wrong: boolean;
  moved: boolean;
  onMoved: () => void;
  move: (from: number, to: number) => void;
  set: (i: number, part: Partial<StageFields>) => void;
  onRemove: () => void;
}

function Row({ i, stage: s, drills, fitting, wrong, moved, onMoved, move, set, onRemove }: RowProps) {
  const name = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (!moved) return;
    name.current?.focus();
    onMoved();
  }, [moved, onMoved, i]);
  const { setNodeRef: handle, listeners, isDragging, transform } = useDraggable({ id: `stage:${i}` });
  const { setNodeRef: row, isOver } = useDroppable({ id: `over:${i}` });
  const offset = transform ? `translateY(${transform.y}px)` : undefined;
  const named = (key: string) => drills.find((d) => d.key === key)?.name ?? key;
  const label = (what: string) => `${what} of stage ${i + 1}`;
  return (
    // The keys reorder the row; everything in it stays reachable with Tab.
    // eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions
    <li
      ref={row}
      className={clsx(
        "flex flex-wrap items-start gap-x-3 gap-y-1 border bg-sheet p-2",
        wrong ? "border-fault" : isOver ? "border-flag" : "border-rule",
        isDragging && "z-10 opacity-80",
      )}
      style={{ transform: offset }}
      onKeyDown={(e) => {
        if (e.altKey && (e.key === "ArrowUp" || e.key === "ArrowDown")) {
          e.preventDefault();
          move(i, i + (e.key === "ArrowUp" ? -1 : 1));
        }
      }}
    >
      <span
        ref={handle}
        onPointerDown={(e) => listeners?.onPointerDown?.(e)}
        className="mt-0.5 w-6 cursor-grab touch-none text-center text-head font-bold"
        aria-hidden
      >
        {i + 1}
      </span>
      <div className="grid min-w-0 flex-1 gap-1.5">
        <div className="flex flex-wrap items-center gap-2 text-small">
          <input
            ref={name}
            className="field min-w-44 flex-1"
            aria-label={label("Name")}
            value={s.name}
            onChange={(e) => set(i, { name: e.target.value })}
          />
          <Select
            label={label("Kind")}
            value={s.kind}
            options={stageKinds.map((k) => ({ value: k, name: k }))}
            onChange={(kind) => set(i, { kind })}
          />
          <Gate
            label={label("Clean reps")}
            word="clean"
            value={s.clean}
            onChange={(clean) => set(i, { clean })}
          />
          <Gate
            label={label("Window")}
            word="of the last"
            value={s.window}
            onChange={(v) => set(i, { window: v })}
          />
          <Gate
            label={label("Days")}
            word="over days"
            value={s.sessions ?? 1}
            onChange={(sessions) => set(i, { sessions })}
          />
          <Gate
            label={label("Most days")}
            word="at most days"
            none="any"
            value={s.max_sessions ?? 0}
            onChange={(v) => set(i, { max_sessions: v })}
          />
          <Gate
            label={label("First week")}
            word="from week"
            value={s.from_week ?? 1}
            onChange={(v) => set(i, { from_week: v })}
          />
        </div>
        {s.kind !== "game" && (
          <div className="flex flex-wrap items-center gap-1.5 text-small">
            {(s.drills ?? []).map((k) => (
              <button
                key={k}
                type="button"
                className="min-h-6 border border-ink px-1.5 pointer-coarse:min-h-11"
                onClick={() => set(i, { drills: (s.drills ?? []).filter((x) => x !== k) })}
              >
                {named(k)} <span aria-hidden>×</span>
                <span className="sr-only">: take it out of stage {i + 1}</span>
              </button>
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
      <span className="flex gap-1">
        <Button kind="quiet" onClick={() => move(i, i - 1)}>
          <span aria-hidden>↑</span>
          <span className="sr-only">Stage {i + 1} up</span>
        </Button>
        <Button kind="quiet" onClick={() => move(i, i + 1)}>
          <span aria-hidden>↓</span>
          <span className="sr-only">Stage {i + 1} down</span>
        </Button>
        <Button kind="quiet" onClick={onRemove}>
          out<span className="sr-only">: take stage {i + 1} away</span>
        </Button>
      </span>
    </li>
  );
}

interface GateProps {
  label: string;
  word: string;
  value: number;
  /** What no number at all, which is 0, means. */
  none?: string;
  onChange: (v: number) => void;
}

function Gate({ label, word, value, none, onChange }: GateProps) {
  return (
    <label className="inline-flex items-center gap-1">
      <span className="text-label text-soft">{word}</span>
      <input
        type="number"
        min={0}
        max={1000}
        className="field w-14 text-right"
        aria-label={label}
        placeholder={none}
        value={none && value === 0 ? "" : value}
        onChange={(e) => onChange(Number(e.target.value))}
      />
    </label>
  );
}
