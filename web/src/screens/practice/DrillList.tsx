import { Button } from "@/kit/Button";
import { useDraggable } from "@dnd-kit/core";
import { useEffect, useMemo, useRef, useState } from "react";
import type { Schemas } from "@/api/client";
import { Empty } from "@/kit/States";

interface Props {
  drills: Schemas["Drill"][];
  onAdd: (drill: Schemas["Drill"]) => void;
  editable: boolean;
  /** The keyboard is asked for in the search. */
  searching: boolean;
}

/** The group's drills, to be dragged onto the minutes or added with a press. */
export function DrillList({ drills, onAdd, editable, searching }: Props) {
  const [words, setWords] = useState("");
  const search = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (searching) search.current?.focus();
  }, [searching]);
  const found = useMemo(() => {
    const want = words.toLowerCase().split(/\s+/).filter(Boolean);
    const has = (text: string) => want.every((w) => text.toLowerCase().includes(w));
    const about = (d: Schemas["Drill"]) =>
      [
        d.name,
        ...d.aliases,
        ...d.techniques.map((t) => t.name),
        ...d.rungs.map((p) => p.stage),
        d.contact,
        ...d.works_on.map((f) => d.called[f]),
      ].join(" ");
    // A drill of that name comes before the drills about it.
    return drills.filter((d) => has(about(d))).sort((a, b) => Number(has(b.name)) - Number(has(a.name)));
  }, [drills, words]);
  if (drills.length === 0) return <Empty>The library has no drills for this group yet.</Empty>;
  return (
    <>
      <input
        ref={search}
        className="field w-full"
        placeholder="Drill, technique or fault"
        aria-label="Find a drill"
        value={words}
        onChange={(e) => setWords(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === "Enter" && found[0] && editable) {
            onAdd(found[0]);
            setWords("");
          }
          if (e.key === "Escape") e.currentTarget.blur();
        }}
      />
      <ul className="mt-1 max-h-[330px] divide-y divide-hair overflow-auto" aria-label="Drills of the group">
        {found.map((d) => (
          <DrillItem key={d.key} drill={d} onAdd={onAdd} editable={editable} />
        ))}
      </ul>
      {found.length === 0 && <p className="say mt-2 text-soft">No drill has these words.</p>}
    </>
  );
}

function DrillItem({
  drill,
  onAdd,
  editable,
}: { drill: Schemas["Drill"] } & Pick<Props, "onAdd" | "editable">) {
  const { setNodeRef, listeners } = useDraggable({ id: `lib:${drill.key}`, disabled: !editable });
  return (
    <li className="flex flex-wrap items-center gap-x-2 py-1.5">
      <div
        ref={setNodeRef}
        onPointerDown={(e) => listeners?.onPointerDown?.(e)}
        className="min-w-0 flex-1 cursor-grab pointer-fine:touch-none"
      >
        <span className="name block truncate text-body">{drill.name}</span>
        <span className="say block truncate text-small text-soft">
          {drill.works_on.map((f) => drill.called[f]).join(", ")}
        </span>
      </div>
      <span className="label whitespace-nowrap">
        {drill.minutes} min · {drill.contact}
      </span>
      {editable && (
        <Button kind="quiet" onClick={() => onAdd(drill)}>
          Add<span className="sr-only"> {drill.name}</span>
        </Button>
      )}
    </li>
  );
}
