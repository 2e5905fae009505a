import { useDraggable, useDroppable } from "@dnd-kit/core";
import clsx from "clsx";
import { Link } from "react-router";
import type { Schemas } from "@/api/client";
import { useKeys } from "@/app/keys";
import { useWhere } from "@/app/where";
import { Ruler, at } from "@/parts/Ruler";
import { Empty } from "@/parts/States";
import { clock, count } from "@/parts/words";
import { Count, Shares } from "./DrillFigures";
import { inOrder, move, resize, type Placed } from "./arrange";
import type { Plan } from "./usePlan";

interface Props {
  practice: Schemas["Practice"];
  period: Schemas["Period"];
  drills: Map<string, Schemas["Drill"]>;
  plan: Plan;
  chosen?: string;
  onChoose: (id: string | undefined) => void;
  onRotation: (drill: string) => void;
}

/** The coach's own period: drills along the minutes, and what each gives every player. */
export function OwnPeriod({ practice, period, drills, plan, chosen, onChoose, onRotation }: Props) {
  const list = inOrder(plan.drills);
  const used = list.reduce((sum, d) => sum + d.minutes, 0);
  const starts = practice.practice.start_minute + period.start;
  const editable = practice.editable;
  usePlanKeys({ plan, period, list, chosen, onChoose, editable });
  return (
    <section className="sheet p-3" aria-labelledby="own">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h2 id="own" className="head">
          {period.name}, {clock(starts)}–{clock(starts + period.minutes)}
        </h2>
        <span className="label">
          {count(practice.players, "player", "players")}
          {practice.limited > 0 && ` · ${practice.limited} limited`}
          {practice.held.some((h) => h.status === "head_hold") &&
            ` · ${practice.held.filter((h) => h.status === "head_hold").length} on hold`}
        </span>
        <span className="label ml-auto" data-testid="minutes-used">
          {used} of {period.minutes} min
        </span>
      </div>
      <Track {...{ period, drills, plan, chosen, onChoose, editable, list }} />
      {list.length === 0 ? (
        <Empty>
          {editable
            ? "These minutes are empty. Take a drill from the list beside, or put in what trains the worst fault."
            : "The group's coach has not placed drills here yet."}
        </Empty>
      ) : (
        <table className="mt-3 w-full text-small">
          <thead>
            <tr className="label text-left">
              <th className="pb-1 font-semibold">Drill</th>
              <th className="pb-1 font-semibold">Min</th>
              <th className="pb-1 font-semibold">Lanes</th>
              <th className="pb-1 text-right font-semibold">Reps a player</th>
              <th className="pb-1 pl-3 text-right font-semibold">A side</th>
              <th className="pb-1 pl-4 font-semibold">Works · helps · waits</th>
              <th className="pb-1">
                <span className="sr-only">Actions</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {list.map((d) => (
              <DrillLine
                key={d.id}
                {...{ d, practice, period, plan, editable, onChoose, onRotation }}
                drill={drills.get(d.drill)}
                chosen={chosen === d.id}
              />
            ))}
          </tbody>
        </table>
      )}
      {plan.error && !plan.error.field?.startsWith("placements[") && (
        <p role="alert" className="say mt-2 font-semibold text-fault">
          {plan.error.message}
        </p>
      )}
      {editable && list.length > 0 && (
        <p className="label mt-2 flex flex-wrap gap-x-3">
          <span>
            <kbd className="kbd">[</kbd> <kbd className="kbd">]</kbd> choose
          </span>
          <span>
            <kbd className="kbd">←</kbd> <kbd className="kbd">→</kbd> move
          </span>
          <span>
            <kbd className="kbd">-</kbd> <kbd className="kbd">+</kbd> minutes
          </span>
          <span>
            <kbd className="kbd">,</kbd> <kbd className="kbd">.</kbd> lanes
          </span>
          <span>
            <kbd className="kbd">d</kbd> add a drill
          </span>
          <span>
            <kbd className="kbd">z</kbd> undo
          </span>
        </p>
      )}
    </section>
  );
}

type KeyProps = Pick<Props, "plan" | "period" | "chosen" | "onChoose"> & {
  list: Placed[];
  editable: boolean;
};

function usePlanKeys({ plan, period, list, chosen, onChoose, editable }: KeyProps) {
  const now = list.find((d) => d.id === chosen);
  const step = (by: number) => {
    const i = list.findIndex((d) => d.id === chosen);
    onChoose(list.at(i < 0 ? (by > 0 ? 0 : -1) : (i + by + list.length) % list.length)?.id);
  };
  const edit = (next: (d: Placed) => Placed[]) => () => {
    if (now && editable) plan.change(next(now));
  };
  const lanes = (by: number) =>
    edit((d) =>
      plan.drills.map((x) => (x.id === d.id ? { ...x, lanes: Math.min(50, Math.max(1, x.lanes + by)) } : x)),
    );
  useKeys([
    { keys: "]", does: "Next drill", run: () => step(1) },
    { keys: "[", does: "Drill before", run: () => step(-1) },
    {
      keys: "ArrowLeft",
      does: "Chosen drill a minute earlier",
      run: edit((d) => move(plan.drills, d.id, d.start - 1, period.minutes)),
    },
    {
      keys: "ArrowRight",
      does: "Chosen drill a minute later",
      run: edit((d) => move(plan.drills, d.id, d.start + 1, period.minutes)),
    },
    {
      keys: "-",
      does: "A minute less",
      run: edit((d) => resize(plan.drills, d.id, d.minutes - 1, period.minutes)),
    },
    {
      keys: "+ =",
      does: "A minute more",
      run: edit((d) => resize(plan.drills, d.id, d.minutes + 1, period.minutes)),
    },
    { keys: ",", does: "A lane less", run: lanes(-1) },
    { keys: ".", does: "A lane more", run: lanes(1) },
    {
      keys: "Delete Backspace",
      does: "Take the chosen drill out",
      run: edit((d) => plan.drills.filter((x) => x.id !== d.id)),
    },
    { keys: "z Ctrl+z", does: "Undo", run: () => editable && plan.undo() },
  ]);
}

type TrackProps = Pick<Props, "period" | "drills" | "plan" | "chosen" | "onChoose"> & {
  list: Placed[];
  editable: boolean;
};

function Track({ period, drills, plan, chosen, onChoose, editable, list }: TrackProps) {
  const { setNodeRef } = useDroppable({ id: "track", disabled: !editable });
  return (
    <div className="mt-2">
      <Ruler from={0} to={period.minutes} major={5} />
      <div
        ref={setNodeRef}
        data-testid="track"
        className="relative mt-2 h-[74px] border-b border-hair bg-[repeating-linear-gradient(90deg,var(--hair)_0_1px,transparent_1px_100%)] bg-[length:var(--five)_100%]"
        style={{ "--five": at(5, 0, period.minutes) } as React.CSSProperties}
      >
        {list.map((d) => (
          <Block
            key={d.id}
            {...{ d, period, editable, onChoose }}
            name={drills.get(d.drill)?.name ?? period.placements.find((x) => x.id === d.id)?.name ?? d.drill}
            reps={plan.reps.get(d.id)}
            chosen={chosen === d.id}
          />
        ))}
      </div>
    </div>
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
      <button
        type="button"
        ref={bodyRef}
        {...bodyDrag}
        onClick={() => onChoose(d.id)}
        onFocus={() => onChoose(d.id)}
        aria-pressed={chosen}
        aria-label={`${name}, minute ${d.start} to ${d.start + d.minutes}, ${reps ? `${reps.min} reps a player` : ""}`}
        className="flex min-w-0 flex-1 cursor-grab touch-none flex-col overflow-hidden px-1.5 pt-1 text-left"
      >
        <span className="name line-clamp-2 leading-tight">{name}</span>
        <span className="mt-auto block w-full pb-0.5 text-right leading-none">
          <b className="text-[19px]">{reps?.min ?? "–"}</b> <span className="label">reps</span>
        </span>
      </button>
      {editable && (
        <span
          ref={edgeRef}
          {...edgeDrag}
          className="w-2 shrink-0 cursor-ew-resize touch-none border-l border-hair hover:bg-flag-wash"
          aria-hidden
        />
      )}
    </div>
  );
}

interface LineProps extends Pick<Props, "practice" | "period" | "plan" | "onChoose" | "onRotation"> {
  d: Placed;
  drill?: Schemas["Drill"];
  chosen: boolean;
  editable: boolean;
}

function DrillLine({ d, drill, practice, period, plan, chosen, editable, onChoose, onRotation }: LineProps) {
  const { base } = useWhere();
  const reps = plan.reps.get(d.id);
  const index = plan.drills.findIndex((x) => x.id === d.id);
  const wrong = plan.error?.field?.startsWith(`placements[${index}]`) ? plan.error.message : undefined;
  const marks = period.placements.find((x) => x.id === d.id)?.marks ?? 0;
  const name = drill?.name ?? d.drill;
  const set = (part: Partial<Placed>) =>
    plan.change(plan.drills.map((x) => (x.id === d.id ? { ...x, ...part } : x)));
  return (
    <>
      <tr
        className={clsx("border-t border-hair align-middle", chosen && "bg-flag-wash")}
        data-testid={`drill-${d.drill}`}
      >
        <td className="py-1 pr-2">
          <button type="button" className="name text-left text-body" onClick={() => onChoose(d.id)}>
            {name}
          </button>
          {drill && (
            <span className="label flex flex-wrap items-baseline gap-x-1 normal-case tracking-normal">
              {drill.techniques.length > 1 ? (
                <select
                  className="max-w-44 border-b border-rule bg-transparent"
                  aria-label={`What ${name} is marked as`}
                  value={d.technique || drill.technique}
                  disabled={!editable || marks > 0}
                  onChange={(e) => set({ technique: e.target.value })}
                >
                  {drill.techniques.map((t) => (
                    <option key={t.key} value={t.key}>
                      {t.name}
                    </option>
                  ))}
                </select>
              ) : (
                drill.technique_name
              )}
              <span>· {drill.contact}</span>
              <Link className="underline" to={`${base}/teaching/drills/${drill.key}`}>
                set-up
              </Link>
            </span>
          )}
        </td>
        <td className="pr-2">
          <Count
            label={`Minutes of ${name}`}
            value={d.minutes}
            disabled={!editable}
            invalid={!!wrong}
            onChange={(minutes) =>
              plan.change(
                minutes > d.minutes
                  ? resize(plan.drills, d.id, minutes, 240)
                  : plan.drills.map((x) => (x.id === d.id ? { ...x, minutes } : x)),
              )
            }
          />
        </td>
        <td className="pr-2">
          <Count
            label={`Lanes of ${name}`}
            value={d.lanes}
            disabled={!editable}
            onChange={(lanes) => set({ lanes })}
          />
        </td>
        <td className="text-right" data-testid="reps">
          <b className="text-[17px]">
            {reps ? (reps.min === reps.max ? reps.min : `${reps.min}–${reps.max}`) : "–"}
          </b>
        </td>
        <td className="text-right">
          {reps && reps.sides === 2 ? `${reps.per_side_min}+${reps.per_side_min}` : "–"}
        </td>
        <td className="pl-4">{reps && <Shares reps={reps} />}</td>
        <td className="whitespace-nowrap pl-3 text-right">
          {reps && reps.cycles > 0 && (
            <button type="button" className="label mr-2 underline" onClick={() => onRotation(d.id)}>
              who when
            </button>
          )}
          <Link className="label underline" to={`${base}/practice/${practice.practice.id}/mark/${d.id}`}>
            {marks > 0 ? count(marks, "mark") : "mark"}
          </Link>
          {editable && (
            <button
              type="button"
              className="label ml-2 underline"
              aria-label={`Take ${name} out`}
              onClick={() => plan.change(plan.drills.filter((x) => x.id !== d.id))}
            >
              out
            </button>
          )}
        </td>
      </tr>
      {(wrong ?? reps?.advice) && (
        <tr>
          <td colSpan={7} className="pb-1.5">
            <p
              role={wrong ? "alert" : undefined}
              data-testid="advice"
              className={clsx("say", wrong ? "font-semibold text-fault" : "text-watch")}
            >
              {wrong ?? reps?.advice}
            </p>
          </td>
        </tr>
      )}
    </>
  );
}
