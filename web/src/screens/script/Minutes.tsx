import { useDraggable } from "@dnd-kit/core";
import clsx from "clsx";
import { useRef, useState, type PointerEvent } from "react";
import type { Schemas } from "@/api/client";
import { Button } from "@/kit/Button";
import { Scroller } from "@/kit/Scroller";
import { initials } from "@/parts/HereToo";
import { looks } from "@/parts/periodLooks";
import { Ruler, at } from "@/parts/Ruler";
import { clock } from "@/parts/words";
import type { Here } from "@/sync/presence";
import { stretches, type Period, type Script } from "./periods";

const lanesHigh = (n: number) => `calc(${n} * var(--lane))`;
const narrowest = 30; // px of the shortest period
const least = 760;

interface Props {
  practice: Schemas["Practice"];
  groups: Schemas["GroupRef"][];
  script: Script;
  /** Which periods the coach may change. */
  mine: (id: string) => boolean;
  chosen?: string;
  onChoose: (id: string | undefined) => void;
  /** Lays a new period over minutes and lanes; absent where none may be laid. */
  onLay?: (start: number, minutes: number, groups: string[]) => void;
  findings: Schemas["Finding"][];
  track: React.RefObject<HTMLDivElement | null>;
  /** Who else is here, and at which period. */
  others: readonly Here[];
}

/** The script as a field of minutes that can be worked on: a minute is a yard, lanes are position groups. */
export function Minutes(props: Props) {
  const { practice, groups, script, mine, chosen, onChoose, onLay, findings, track, others } = props;
  const length = practice.practice.minutes;
  const lanes = groups.map((g) => g.key);
  const shortest = Math.max(1, Math.min(...[...script.values()].map((p) => p.minutes), 10));
  const width = Math.max(least, Math.min(2400, Math.round((narrowest * length) / shortest)) + 56);
  const wrong = new Map<string, "error" | "warning">();
  for (const f of findings)
    for (const id of f.periods) if (wrong.get(id) !== "error") wrong.set(id, f.severity);
  const ghost = useGhost(length, lanes, track, onLay);
  return (
    <section aria-label="Master script" className="sheet min-w-0 [--lane:34px] pointer-coarse:[--lane:48px]">
      <Scroller label="The script, minute by minute">
        <div className="grid grid-cols-[48px_minmax(0,1fr)]" style={{ minWidth: width }}>
          <span className="border-b border-ink" />
          <Ruler
            from={0}
            to={length}
            major={10}
            word={(m) => clock(practice.practice.start_minute + m)}
            className="mr-2 mt-1"
          />
          <div>
            {groups.map((g) => (
              <div
                key={g.key}
                className="name flex items-center border-b border-hair pl-2 uppercase"
                style={{ height: lanesHigh(1) }}
              >
                {g.short}
              </div>
            ))}
          </div>
          <div
            ref={track}
            className="relative mr-2"
            style={{ height: lanesHigh(lanes.length) }}
            {...ghost.handlers}
          >
            {lanes.map((g, i) => (
              <div
                key={g}
                className="pointer-events-none absolute -right-2 left-0 border-b border-hair"
                style={{ top: lanesHigh(i), height: lanesHigh(1) }}
              />
            ))}
            {findings
              .filter((f) => f.periods.length === 0 && f.code === "water_gap")
              .map((f) => {
                const row = lanes.indexOf(f.groups[0] ?? "");
                return (
                  <div
                    key={f.code + f.groups.join() + f.start}
                    aria-hidden
                    className="pointer-events-none absolute border-b-[3px] border-dotted border-fault"
                    style={{
                      left: at(f.start, 0, length),
                      width: at(f.end - f.start, 0, length),
                      top: `calc(${lanesHigh(row)} + var(--lane) - 4px)`,
                    }}
                  />
                );
              })}
            {ghost.area && (
              <div
                className="pointer-events-none absolute border border-dashed border-flag bg-flag-wash"
                style={{
                  left: at(ghost.area.start, 0, length),
                  width: at(ghost.area.minutes, 0, length),
                  top: lanesHigh(ghost.area.from),
                  height: lanesHigh(ghost.area.rows),
                }}
              />
            )}
            {[...script].map(([id, p]) =>
              stretches(p.groups, lanes).map((s) => (
                <Bar
                  key={id + s.from}
                  {...{ id, period: p, length, wrong: wrong.get(id) }}
                  from={s.from}
                  rows={s.rows}
                  starts={practice.practice.start_minute}
                  shorts={groups.filter((g) => p.groups.includes(g.key)).map((g) => g.short)}
                  chosen={chosen === id}
                  others={others.filter((h) => h.what === id).map((h) => h.name)}
                  editable={mine(id)}
                  onChoose={() => onChoose(id)}
                />
              )),
            )}
          </div>
        </div>
      </Scroller>
    </section>
  );
}

interface BarProps {
  id: string;
  period: Period;
  from: number;
  rows: number;
  length: number;
  starts: number;
  shorts: string[];
  chosen: boolean;
  /** Who else has it before himself. */
  others: string[];
  editable: boolean;
  wrong?: "error" | "warning";
  onChoose: () => void;
}

function Bar({
  id,
  period: p,
  from,
  rows,
  length,
  starts,
  shorts,
  chosen,
  others,
  editable,
  wrong,
  onChoose,
}: BarProps) {
  const hard = p.contact === "thud" || p.contact === "live" ? `, ${p.contact}` : "";
  const time = `${clock(starts + p.start)}–${clock(starts + p.start + p.minutes)}`;
  const { setNodeRef, listeners } = useDraggable({ id: `move:${id}:${from}`, disabled: !editable });
  const { setNodeRef: beforeRef, listeners: beforeOn } = useDraggable({
    id: `from:${id}:${from}`,
    disabled: !editable,
  });
  const { setNodeRef: afterRef, listeners: afterOn } = useDraggable({
    id: `to:${id}:${from}`,
    disabled: !editable,
  });
  const edge = "absolute inset-y-0 w-2 cursor-ew-resize";
  return (
    <div
      className="absolute"
      style={{
        left: `calc(${at(p.start, 0, length)} + 1px)`,
        width: `calc(${at(p.minutes, 0, length)} - 2px)`,
        top: `calc(${lanesHigh(from)} + 2px)`,
        height: `calc(${lanesHigh(rows)} - 4px)`,
      }}
    >
      <Button
        kind="bare"
        pressed={chosen}
        ref={setNodeRef}
        {...listeners}
        onClick={onChoose}
        className={clsx(
          "absolute inset-0 min-h-0 overflow-hidden border px-1.5 text-left text-small font-semibold leading-4 [font-stretch:80%]",
          looks[p.kind] ?? "border-rule bg-sheet",
          chosen && "outline-2 outline-offset-1 outline-flag",
        )}
      >
        <span className="block truncate pt-0.5" aria-hidden={p.kind === "water" || undefined}>
          {wrong && (
            <span className={p.kind === "team" ? "" : wrong === "error" ? "text-fault" : "text-watch"}>
              {wrong === "error" ? "▲ " : "△ "}
            </span>
          )}
          {p.kind === "water" ? "≈" : p.name}
        </span>
        <span className="sr-only">
          {p.kind === "water" ? p.name : ""}, {time}, {p.minutes} minutes, {shorts.join(" ")}
          {hard}
          {wrong && `, ${wrong === "error" ? "something is wrong" : "worth a look"}`}
          {others.length > 0 && `, ${others.join(" and ")} is here`}
        </span>
        {others.length > 0 && (
          <span
            aria-hidden
            className="absolute right-0.5 bottom-0.5 bg-flag px-0.5 text-[10px] leading-3 font-bold text-sheet"
          >
            {[...new Set(others.map(initials))].join(" ")}
          </span>
        )}
      </Button>
      {editable && (
        <>
          <span ref={beforeRef} {...beforeOn} className={clsx(edge, "left-0")} aria-hidden />
          <span ref={afterRef} {...afterOn} className={clsx(edge, "right-0")} aria-hidden />
        </>
      )}
    </div>
  );
}

interface Area {
  start: number;
  minutes: number;
  from: number;
  rows: number;
}

/** A new period drawn with the pointer over free minutes. A finger scrolls instead; it has a button. */
function useGhost(
  length: number,
  lanes: string[],
  track: React.RefObject<HTMLDivElement | null>,
  onLay?: Props["onLay"],
) {
  const [area, setArea] = useState<Area>();
  const begun = useRef<{ minute: number; row: number }>(undefined);
  const place = (e: PointerEvent) => {
    const box = track.current!.getBoundingClientRect();
    return {
      minute: Math.min(length, Math.max(0, Math.round(((e.clientX - box.left) / box.width) * length))),
      row: Math.min(
        lanes.length - 1,
        Math.max(0, Math.floor(((e.clientY - box.top) / box.height) * lanes.length)),
      ),
    };
  };
  const over = (e: PointerEvent): Area => {
    const now = place(e);
    const b = begun.current!;
    return {
      start: Math.min(b.minute, now.minute),
      minutes: Math.abs(now.minute - b.minute),
      from: Math.min(b.row, now.row),
      rows: Math.abs(now.row - b.row) + 1,
    };
  };
  const handlers = onLay
    ? {
        onPointerDown: (e: PointerEvent<HTMLDivElement>) => {
          if (e.pointerType === "touch" || e.button !== 0 || e.target !== e.currentTarget) return;
          begun.current = place(e);
          e.currentTarget.setPointerCapture(e.pointerId);
        },
        onPointerMove: (e: PointerEvent) => begun.current && setArea(over(e)),
        onPointerUp: (e: PointerEvent) => {
          if (!begun.current) return;
          const a = over(e);
          begun.current = undefined;
          setArea(undefined);
          if (a.minutes > 0) onLay(a.start, a.minutes, lanes.slice(a.from, a.from + a.rows));
        },
        onPointerCancel: () => {
          begun.current = undefined;
          setArea(undefined);
        },
      }
    : {};
  return { area, handlers };
}
