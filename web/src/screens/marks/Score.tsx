import clsx from "clsx";
import { memo, useEffect, useRef, type RefObject } from "react";
import type { Schemas } from "@/api/client";
import { Ruler } from "@/parts/Ruler";
import { faulty, words } from "./cell";
import { cellLook, standingOf, standingWords, type Standing } from "./lane";
import { LaneName } from "./LaneName";
import { cellKey, type CellMark } from "./useMarking";
import { lettersOf } from "./letters";
import { sheetOf } from "./shown";

interface Props {
  sheet: Schemas["MarkSheet"];
  cells: Map<string, CellMark>;
  waiting: ReadonlySet<string>;
  refused: ReadonlySet<string>;
  rep: number;
  row: number;
  columns: number;
  onChoose: (row: number, rep: number) => void;
}

const width = 30;

/**
 * The score: a lane a player, a column a rep. Shapes say what was seen, so a repeated fault is a pattern. It is a
 * grid that is walked by the keys of the screen; the cell at hand is always in sight.
 */
export function Score({ sheet, cells, waiting, refused, rep, row, columns, onChoose }: Props) {
  const reps = Array.from({ length: columns }, (_, i) => i + 1);
  const grid = useRef<HTMLDivElement>(null);
  const here = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const cell = here.current;
    if (!cell) return;
    // Whoever walks the grid takes the keyboard along.
    if (grid.current?.contains(document.activeElement)) cell.focus();
    cell.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [row, rep]);
  return (
    <section className="sheet min-w-0 max-w-full p-2" aria-label="Score">
      {/* Scrolled by the keys of the screen, which keep the cell at hand in sight. */}
      <div className="relative overflow-x-auto" ref={grid}>
        <div
          className="grid w-max grid-cols-[104px_auto_44px] sm:grid-cols-[150px_auto_70px]"
          role="grid"
          aria-label="Players by reps"
        >
          <div role="row" className="contents">
            <span role="columnheader" className="label sticky left-0 z-10 self-end bg-sheet pb-1">
              Rep
            </span>
            <span role="columnheader" className="relative">
              <span className="sr-only">Reps 1 to {columns}</span>
              <Ruler from={1} to={columns + 1} major={1} spans width={columns * width} />
            </span>
            <span role="columnheader" className="label self-end pb-1 pl-1 text-right">
              Faulty
            </span>
          </div>
          {sheet.players.map((p, r) => (
            <div key={p.id} role="row" className="contents">
              <LaneName
                player={p}
                row={r}
                current={r === row}
                className="h-8"
                onChoose={() => onChoose(r, rep)}
              />
              <div
                role="presentation"
                className={clsx(
                  "flex h-8 border-b border-hair pointer-coarse:h-[46px]",
                  r === row && "bg-stripe",
                )}
              >
                {reps.map((n) => {
                  const cell = cells.get(cellKey(p.id, n));
                  return (
                    <Cell
                      key={n}
                      row={r}
                      rep={n}
                      cell={cell}
                      current={r === row && n === rep}
                      column={n === rep}
                      state={standingOf(cell?.id, waiting, refused)}
                      here={r === row && n === rep ? here : undefined}
                      sheet={cell?.technique_key ? sheetOf(sheet, cell.technique_key) : sheet}
                      onChoose={onChoose}
                    />
                  );
                })}
              </div>
              <span
                role="gridcell"
                className="flex h-8 items-center justify-end border-b border-hair pl-1 pointer-coarse:h-[46px]"
              >
                <Tally reps={reps.map((n) => cells.get(cellKey(p.id, n)))} />
              </span>
            </div>
          ))}
        </div>
      </div>
      <p className="label mt-2 flex flex-wrap gap-x-4 normal-case tracking-normal">
        <span>· assumed</span>
        <span>■ looked at</span>
        <span>
          <span className="border border-fault px-0.5 text-fault">s</span> fault
        </span>
        <span>◯ praise</span>
        <span>
          <span className="border border-watch px-0.5 text-watch">?</span> open question
        </span>
        <span>– unseen</span>
        <span>
          <span className="inline-block border border-dashed border-watch px-1">&nbsp;</span> not saved yet
        </span>
      </p>
    </section>
  );
}

interface CellProps {
  row: number;
  rep: number;
  cell?: CellMark;
  current: boolean;
  column: boolean;
  state: Standing;
  here?: RefObject<HTMLDivElement | null>;
  sheet: Schemas["MarkSheet"];
  onChoose: (row: number, rep: number) => void;
}

/** One rep of one player. It is painted again only when something in it changes: a key must show at once. */
const Cell = memo(function Cell({
  row,
  rep,
  cell,
  current,
  column,
  state,
  here,
  sheet,
  onChoose,
}: CellProps) {
  const player = sheet.players[row];
  const name = (key: string) => sheet.faults.find((f) => f.key === key)?.name ?? key;
  return (
    // The keys of the grid are the screen's, listed under "?".
    // eslint-disable-next-line jsx-a11y/click-events-have-key-events
    <div
      ref={here}
      role="gridcell"
      tabIndex={current ? 0 : -1}
      aria-label={`${player?.jersey} ${player?.last_name}, rep ${rep}: ${words(cell, name)}${standingWords[state]}`}
      aria-selected={current}
      onClick={() => onChoose(row, rep)}
      style={{ width }}
      className={cellLook(state, current, column)}
    >
      <Shape cell={cell} sheet={sheet} />
      {cell?.note && <sup className="text-label">*</sup>}
    </div>
  );
});

export function Shape({
  cell,
  sheet,
}: {
  cell?: Omit<CellMark, "rep">;
  sheet: { faults: Schemas["SheetFault"][] };
}) {
  if (!cell) return null;
  if (cell.state === "assumed") return <span className="text-soft">·</span>;
  if (cell.state === "unseen") return <span className="text-soft">–</span>;
  if (cell.state === "unsettled")
    return <span className="border border-watch px-1 font-bold leading-4 text-watch">?</span>;
  const faults = cell.faults ?? [];
  const wrong =
    faults.map((f) => lettersOf(sheet.faults).get(f.key) || "•").join("") ||
    (cell.technique === 0 ? "t" : "") ||
    (cell.assignment === 0 ? "a" : "") ||
    (faulty(cell) ? String(cell.grade_clean === 1 ? "−" : (cell.grade ?? "")) : "");
  if (wrong)
    return (
      <span
        className={
          faulty(cell)
            ? "border border-fault bg-fault-wash px-1 font-bold leading-4 text-fault"
            : "border border-dashed border-rule px-1 leading-4 text-soft" // a teammate's
        }
      >
        {wrong}
        {faults.some((f) => f.penalty) && "!"}
      </span>
    );
  if (cell.praise) return <span className="size-3.5 rounded-full border-2 border-good" />;
  return <span className="size-2.5 bg-good" />;
}

/** How many of a player's reps name something wrong. Grades are the server's business. */
export function Tally({ reps }: { reps: (CellMark | undefined)[] }) {
  const wrong = reps.filter((c) => c && faulty(c)).length;
  return <span className={clsx("text-small", wrong > 0 && "font-semibold text-fault")}>{wrong || ""}</span>;
}
