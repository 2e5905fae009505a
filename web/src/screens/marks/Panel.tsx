import { useEffect, useState, type ReactNode } from "react";
import type { Schemas } from "@/api/client";
import { count } from "@/parts/words";
import { words } from "./cell";
import type { CellMark } from "./useMarking";
import { lettersOf } from "./letters";

interface Props {
  sheet: Schemas["MarkSheet"];
  player: Schemas["Player"];
  rep: number;
  cell?: CellMark;
  marks: number;
  noting: boolean;
  side?: "left" | "right";
  children?: ReactNode;
  onFault: (key: string) => void;
  onState: (state: "unseen" | "unsettled") => void;
  onMoveOn: () => void;
  onUndo: () => void;
  onNote: (note: string | undefined) => void;
}

/** The words of the current rep: its faults with their keys, and what stands in it. */
export function Panel({
  sheet,
  player,
  rep,
  cell,
  marks,
  noting,
  side,
  children,
  onFault,
  onState,
  onMoveOn,
  onUndo,
  onNote,
}: Props) {
  const name = (key: string) => sheet.faults.find((f) => f.key === key)?.name ?? key;
  const has = new Set(cell?.faults?.map((f) => f.key));
  return (
    <section className="sheet min-w-[330px] flex-1 p-3" aria-label="Current rep">
      <p className="flex flex-wrap items-baseline gap-x-3">
        <span className="text-2xl font-extrabold">{rep}</span>
        <span className="head">
          {player.jersey} {player.last_name}
        </span>
        {side && (
          <span className="border border-ink px-1 text-small font-semibold" data-testid="side">
            {side === "left" ? "◀ left" : "right ▶"}
          </span>
        )}
        <span className="say" aria-live="polite" data-testid="cell-words">
          {words(cell, name)}
          {cell?.note && ` · “${cell.note}”`}
        </span>
        <KeyCount marks={marks} />
      </p>
      {noting ? (
        <form
          className="mt-2 flex gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            onNote(String(new FormData(e.currentTarget).get("note") ?? "").trim());
          }}
        >
          <input
            name="note"
            className="field flex-1"
            maxLength={500}
            defaultValue={cell?.note}
            aria-label="Note"
            // The coach asked for the field with a key; it must be ready for his next one.
            ref={(el) => el?.focus()}
            onKeyDown={(e) => e.key === "Escape" && onNote(undefined)}
          />
          <button type="submit" className="btn">
            Keep the note
          </button>
        </form>
      ) : (
        <ul className="mt-2 grid gap-x-6 gap-y-1 sm:grid-cols-[repeat(auto-fit,minmax(220px,1fr))]">
          {sheet.faults.map((f) => (
            <li key={f.key}>
              <button
                type="button"
                className="flex w-full items-baseline gap-2 py-0.5 text-left"
                aria-pressed={has.has(f.key)}
                onClick={() => onFault(f.key)}
              >
                <span className="kbd">{lettersOf(sheet.faults).get(f.key) || "·"}</span>
                <span className={has.has(f.key) ? "say font-bold text-fault" : "say"}>{f.name}</span>
                {f.safety && <span className="text-label font-bold text-fault">SAFETY</span>}
              </button>
            </li>
          ))}
        </ul>
      )}
      {children}
      <p className="mt-3 flex flex-wrap gap-2">
        <button type="button" className="btn" onClick={onMoveOn}>
          Next rep <span className="kbd">Space</span>
        </button>
        <button type="button" className="btn btn-quiet" onClick={() => onState("unseen")}>
          Unseen <span className="kbd">u</span>
        </button>
        <button type="button" className="btn btn-quiet" onClick={() => onState("unsettled")}>
          Open question <span className="kbd">q</span>
        </button>
        {sheet.measures.length > 0 && (
          <span className="label self-center">
            <span className="kbd">m</span> measure
          </span>
        )}
        {side && (
          <span className="label self-center">
            <span className="kbd">x</span> other side
          </span>
        )}
        <button type="button" className="btn btn-quiet" onClick={onUndo}>
          Undo <span className="kbd">z</span>
        </button>
      </p>
      {sheet.watch && (
        <p className="say mt-2 text-soft">
          <span className="label">Watch</span> {sheet.watch}
        </p>
      )}
    </section>
  );
}

/** How many keys the marks have cost. It counts by itself, so that a key does not paint the score twice. */
function KeyCount({ marks }: { marks: number }) {
  const [keys, setKeys] = useState(0);
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (!["Shift", "Control", "Alt", "Meta"].includes(e.key)) setKeys((n) => n + 1);
    };
    window.addEventListener("keydown", onKey, true);
    return () => window.removeEventListener("keydown", onKey, true);
  }, []);
  return (
    <span className="label ml-auto" data-testid="key-count">
      {count(keys, "key")} for {count(marks, "mark")}
    </span>
  );
}
