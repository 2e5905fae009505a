import clsx from "clsx";
import { Fragment, memo } from "react";
import type { Schemas } from "@/api/client";
import { Ruler } from "@/parts/Ruler";
import { words } from "./cell";
import { cellKey, type CellMark } from "./useMarking";
import { lettersOf } from "./letters";

interface Props {
  sheet: Schemas["MarkSheet"];
  cells: Map<string, CellMark>;
  waiting: ReadonlySet<string>;
  rep: number;
  row: number;
  columns: number;
  onChoose: (row: number, rep: number) => void;
}

const width = 30;

/** The score: a lane a player, a column a rep. Shapes say what was seen, so a repeated fault is a pattern. */
export function Score({ sheet, cells, waiting, rep, row, columns, onChoose }: Props) {
  const reps = Array.from({ length: columns }, (_, i) => i + 1);
  return (
    <section className="sheet max-w-full overflow-x-auto p-2" aria-label="Score">
      <div className="grid w-max grid-cols-[150px_auto_70px]">
        <span className="label self-end pb-1">Rep</span>
        <Ruler from={1} to={columns + 1} major={1} spans width={columns * width} />
        <span className="label self-end pb-1 pl-3 text-right">Faulty</span>
        {sheet.players.map((p, r) => (
          <Fragment key={p.id}>
            <button
              type="button"
              className="name flex h-8 items-center gap-2 truncate border-b border-hair text-left"
              onClick={() => onChoose(r, rep)}
              aria-pressed={r === row}
            >
              <span className="kbd shrink-0">{r < 9 ? r + 1 : r === 9 ? 0 : "·"}</span>
              <span className={clsx("truncate", r === row && "font-bold text-flag")}>
                {p.jersey} {p.last_name}
              </span>
            </button>
            <div className={clsx("flex h-8 border-b border-hair", r === row && "bg-stripe")}>
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
                    waiting={!!cell && waiting.has(cell.id)}
                    sheet={sheet}
                    onChoose={onChoose}
                  />
                );
              })}
            </div>
            <span className="flex h-8 items-center justify-end border-b border-hair pl-3">
              <Tally reps={reps.map((n) => cells.get(cellKey(p.id, n)))} />
            </span>
          </Fragment>
        ))}
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
  waiting: boolean;
  sheet: Schemas["MarkSheet"];
  onChoose: (row: number, rep: number) => void;
}

/** One rep of one player. It is painted again only when something in it changes: a key must show at once. */
const Cell = memo(function Cell({ row, rep, cell, current, column, waiting, sheet, onChoose }: CellProps) {
  const state = !cell ? "open" : waiting ? "waiting" : "saved";
  const player = sheet.players[row];
  const name = (key: string) => sheet.faults.find((f) => f.key === key)?.name ?? key;
  return (
    <button
      type="button"
      tabIndex={current ? 0 : -1}
      aria-label={`${player?.jersey} ${player?.last_name}, rep ${rep}: ${words(cell, name)}`}
      aria-current={current ? "true" : undefined}
      data-state={state}
      data-mark={cell ? cell.state : "none"}
      onClick={() => onChoose(row, rep)}
      style={{ width }}
      className={clsx(
        "flex items-center justify-center border text-small",
        current
          ? "border-2 border-flag"
          : state === "waiting"
            ? "border-dashed border-watch"
            : "border-transparent",
        column && !current && "bg-flag-wash",
      )}
    >
      <Shape cell={cell} sheet={sheet} />
      {cell?.note && <sup className="text-label">*</sup>}
    </button>
  );
});

function Shape({ cell, sheet }: { cell?: CellMark; sheet: Schemas["MarkSheet"] }) {
  if (!cell) return null;
  if (cell.state === "assumed") return <span className="text-soft">·</span>;
  if (cell.state === "unseen") return <span className="text-soft">–</span>;
  if (cell.state === "unsettled")
    return <span className="border border-watch px-1 font-bold leading-4 text-watch">?</span>;
  const faults = cell.faults ?? [];
  const wrong =
    faults.map((f) => lettersOf(sheet.faults).get(f.key) || "•").join("") ||
    (cell.technique === 0 ? "t" : "") ||
    (cell.assignment === 0 ? "a" : "");
  if (wrong)
    return (
      <span className="border border-fault bg-fault-wash px-1 font-bold leading-4 text-fault">{wrong}</span>
    );
  if (cell.praise) return <span className="size-3.5 rounded-full border-2 border-good" />;
  return <span className="size-2.5 bg-good" />;
}

/** How many of a player's reps name something wrong. Grades are the server's business. */
function Tally({ reps }: { reps: (CellMark | undefined)[] }) {
  const faulty = reps.filter(
    (c) => c && (c.faults?.length || c.technique === 0 || c.assignment === 0),
  ).length;
  return <span className={clsx("text-small", faulty > 0 && "font-semibold text-fault")}>{faulty || ""}</span>;
}
