import { Warnings } from "./WeekLoad";
import { useShorts } from "@/parts/shorts";
import { Button } from "@/kit/Button";
import { useDraggable, useDroppable } from "@dnd-kit/core";
import clsx from "clsx";
import type { Ref } from "react";
import type { Schemas } from "@/api/client";
import { Scroller } from "@/kit/Scroller";
import { Tooltip } from "@/kit/Tooltip";
import { useKeepFocus } from "@/kit/focus";
import { Ruler, at } from "@/parts/Ruler";
import { Empty } from "@/kit/States";
import { clock, count } from "@/parts/words";
import { DrillLine } from "./DrillLine";
import { inOrder, type Placed } from "./arrange";
import { usePlanKeys } from "./planKeys";
import type { Plan } from "./usePlan";

export interface OwnProps {
  practice: Schemas["Practice"];
  period: Schemas["Period"];
  drills: Map<string, Schemas["Drill"]>;
  plan: Plan;
  chosen?: string;
  onChoose: (id: string | undefined) => void;
  onRotation: (drill: string) => void;
  onAdd: () => void;
  /** The minutes, onto which drills are dragged. */
  track: Ref<HTMLDivElement>;
}

/** The coach's own period: drills along the minutes, and what each gives every player. */
export function OwnPeriod({
  practice,
  period,
  drills,
  plan,
  chosen,
  onChoose,
  onRotation,
  onAdd,
  track,
}: OwnProps) {
  const list = inOrder(plan.drills);
  const used = list.reduce((sum, d) => sum + d.minutes, 0);
  const starts = practice.practice.start_minute + period.start;
  const editable = practice.editable;
  const keep = useKeepFocus<HTMLElement>();
  usePlanKeys({ plan, period, list, chosen, onChoose, editable });
  const held = practice.held.filter((h) => h.status === "head_hold").length;
  return (
    <section ref={keep} className="sheet min-w-0 p-3" aria-labelledby="own">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h2 id="own" className="head">
          {period.name}, {clock(starts)}–{clock(starts + period.minutes)}
        </h2>
        <span className="label">
          {count(practice.players, "player", "players")}
          {practice.limited > 0 && ` · ${practice.limited} limited`}
          {held > 0 && ` · ${held} on hold`}
        </span>
        <span className="label ml-auto">
          {used} of {period.minutes} min
        </span>
      </div>
      <Track {...{ period, drills, plan, chosen, onChoose, editable, list, track }} />
      {period.others.length > 0 && <Beside period={period} />}
      {editable && (
        <p className="mt-2 flex flex-wrap gap-1.5">
          <Button onClick={onAdd}>
            Add a drill <span className="kbd max-md:hidden">d</span>
          </Button>
          <Button kind="quiet" off={!plan.canUndo} onClick={plan.undo}>
            Undo <span className="kbd max-md:hidden">z</span>
          </Button>
          <Button kind="quiet" off={!plan.canRedo} onClick={plan.redo}>
            Redo <span className="kbd max-md:hidden">⇧ z</span>
          </Button>
        </p>
      )}
      <Warnings practice={practice} />
      {list.length === 0 ? (
        <div className="mt-3">
          <Empty>
            {editable
              ? "These minutes are empty. Take a drill from the list beside, or put in what trains the worst fault."
              : "The group's coach has not placed drills here yet."}
          </Empty>
        </div>
      ) : (
        <ol className="mt-3 divide-y divide-hair border-t border-hair text-small" aria-label="Drills">
          {list.map((d) => (
            <DrillLine
              key={d.id}
              {...{ d, practice, period, plan, editable, onChoose, onRotation }}
              drill={drills.get(d.drill)}
              chosen={chosen === d.id}
            />
          ))}
        </ol>
      )}
      {plan.error && !plan.error.field?.startsWith("placements[") && (
        <p role="alert" className="say mt-2 font-semibold text-fault">
          {plan.error.message}
        </p>
      )}
    </section>
  );
}

/** What the group that shares the period does at the same time. */
function Beside({ period }: { period: Schemas["Period"] }) {
  const short = useShorts();
  return (
    <p className="mt-1 text-small text-soft">
      <b className="name uppercase">{short(period.others[0]?.placed.group ?? "")}</b> beside:{" "}
      {period.others
        .map((o) => `${o.name}, minute ${o.placed.start}–${o.placed.start + o.placed.minutes}`)
        .join("; ")}
    </p>
  );
}

type TrackProps = Pick<OwnProps, "period" | "drills" | "plan" | "chosen" | "onChoose" | "track"> & {
  list: Placed[];
  editable: boolean;
};

/** No drill is narrower on its minutes than a fingertip and its edge, in px. */
const narrowest = 42;

function Track({ period, drills, plan, chosen, onChoose, editable, list, track }: TrackProps) {
  const { setNodeRef } = useDroppable({ id: "track", disabled: !editable });
  const shortest = Math.max(1, Math.min(period.minutes, ...list.map((d) => d.minutes)));
  return (
    <Scroller label="The minutes of the period" className="mt-2 p-0.5">
      <div ref={track} style={{ minWidth: Math.round((narrowest * period.minutes) / shortest) }}>
        <Ruler from={0} to={period.minutes} major={5} />
        <div
          ref={setNodeRef}
          className="relative mt-2 h-[74px] border-b border-hair bg-[repeating-linear-gradient(90deg,var(--hair)_0_1px,transparent_1px_100%)] bg-[length:var(--five)_100%]"
          style={{ "--five": at(5, 0, period.minutes) } as React.CSSProperties}
        >
          {list.map((d) => (
            <Block
              key={d.id}
              {...{ d, period, editable, onChoose }}
              name={
                drills.get(d.drill)?.name ?? period.placements.find((x) => x.id === d.id)?.name ?? d.drill
              }
              reps={plan.reps.get(d.id)}
              chosen={chosen === d.id}
            />
          ))}
        </div>
      </div>
    </Scroller>
  );
}

interface BlockProps {
  d: Placed;
  name: string;
  reps?: Schemas["Reps"];
  period: Schemas["Period"];
  chosen: boolean;
  editable: boolean;
  onChoose: (id: string) => void;
}

/** A drill on the track: dragged by its body to another minute, by its right edge to another length. */
function Block({ d, name, reps, period, chosen, editable, onChoose }: BlockProps) {
  const { setNodeRef: bodyRef, listeners: bodyDrag } = useDraggable({
    id: `move:${d.id}`,
    disabled: !editable,
  });
  const { setNodeRef: edgeRef, listeners: edgeDrag } = useDraggable({
    id: `size:${d.id}`,
    disabled: !editable,
  });
  return (
    <div
      className={clsx(
        "absolute inset-y-0 flex border border-l-[3px] border-ink border-l-flag bg-paper",
        chosen && "z-10 outline-2 outline-flag",
      )}
      style={{
        left: `calc(${at(d.start, 0, period.minutes)} + 1px)`,
        width: `calc(${at(d.minutes, 0, period.minutes)} - 2px)`,
      }}
    >
      <Tooltip text={`${name}, ${count(d.minutes, "minute")}`}>
        <Button
          kind="bare"
          ref={bodyRef}
          onPointerDown={(e) => bodyDrag?.onPointerDown?.(e)}
          onClick={() => onChoose(d.id)}
          onFocus={() => onChoose(d.id)}
          pressed={chosen}
          className="relative flex min-w-0 flex-1 cursor-grab touch-none flex-col overflow-hidden px-1.5 pt-1 text-left"
        >
          <span className="name line-clamp-2 leading-tight">{name}</span>
          <span className="mt-auto block w-full pb-0.5 text-right leading-none">
            <b className="text-[19px]">{reps?.min ?? "–"}</b>{" "}
            <span className="label max-sm:hidden">reps</span>
          </span>
          <span className="sr-only">
            , minute {d.start} to {d.start + d.minutes}
          </span>
        </Button>
      </Tooltip>
      {editable && (
        <span
          ref={edgeRef}
          onPointerDown={(e) => edgeDrag?.onPointerDown?.(e)}
          className="w-2 shrink-0 cursor-ew-resize touch-none border-l border-hair hover:bg-flag-wash pointer-coarse:w-3"
          aria-hidden
        />
      )}
    </div>
  );
}
