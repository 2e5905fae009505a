import { Button } from "@/kit/Button";
import clsx from "clsx";
import { Link } from "react-router";
import type { Schemas } from "@/api/client";
import { useWhere } from "@/app/where";
import { Select } from "@/kit/Select";
import { count } from "@/parts/words";
import { CardOrder } from "./CardOrder";
import { Count, Shares } from "./DrillFigures";
import type { OwnProps } from "./OwnPeriod";
import { minutesTaken, resize, type Placed } from "./arrange";
import { edits } from "./planKeys";

interface Props extends Pick<OwnProps, "practice" | "period" | "plan" | "onChoose" | "onRotation"> {
  d: Placed;
  drill?: Schemas["Drill"];
  chosen: boolean;
  editable: boolean;
}

/** One drill of a period: its figures, and buttons for all that keys and dragging do. */
export function DrillLine({
  d,
  drill,
  practice,
  period,
  plan,
  chosen,
  editable,
  onChoose,
  onRotation,
}: Props) {
  const { base } = useWhere();
  const reps = plan.reps.get(d.id);
  const index = plan.drills.findIndex((x) => x.id === d.id);
  const wrong = plan.error?.field?.startsWith(`placements[${index}]`) ? plan.error.message : undefined;
  const marks = period.placements.find((x) => x.id === d.id)?.marks ?? 0;
  const name = drill?.name ?? d.drill;
  const e = edits(plan, period.minutes, d);
  const set = (part: Partial<Placed>) =>
    plan.change(plan.drills.map((x) => (x.id === d.id ? { ...x, ...part } : x)));
  const minutes = (n: number) =>
    plan.change(
      n > d.minutes
        ? resize(plan.drills, d.id, n, minutesTaken.maximum!)
        : plan.drills.map((x) => (x.id === d.id ? { ...x, minutes: n } : x)),
    );
  return (
    <li aria-label={name} className={clsx("py-1.5", chosen && "bg-flag-wash")}>
      <div className="grid items-center gap-x-3 gap-y-1 md:grid-cols-[minmax(9rem,1fr)_9.25rem_10.5rem_5.5rem_10.25rem]">
        <div className="min-w-0">
          <Button
            kind="bare"
            className="name text-left text-body"
            pressed={chosen}
            onClick={() => onChoose(d.id)}
          >
            {name}
          </Button>
          <span className="label flex flex-wrap items-center gap-x-2 normal-case tracking-normal">
            {drill && drill.techniques.length > 1 ? (
              <Select
                slim
                label={`What ${name} is marked as`}
                value={d.technique || drill.technique}
                disabled={!editable || marks > 0}
                options={drill.techniques.map((t) => ({ value: t.key, name: t.name }))}
                onChange={(technique) => set({ technique })}
              />
            ) : (
              drill?.technique_name
            )}
            {drill && <span>{drill.contact}</span>}
          </span>
        </div>
        <Stepped
          what="Minutes"
          of={name}
          value={d.minutes}
          editable={editable}
          invalid={!!wrong}
          onChange={minutes}
          onLess={e.shorter}
          onMore={e.longer}
        />
        <Stepped
          what="Lanes"
          of={name}
          value={d.lanes}
          editable={editable}
          onChange={(lanes) => set({ lanes })}
          onLess={e.fewerLanes}
          onMore={e.moreLanes}
        />
        <p className="flex items-baseline gap-2 md:block md:text-right">
          <span>
            <b className="text-[17px]">
              {reps ? (reps.min === reps.max ? reps.min : `${reps.min}–${reps.max}`) : "–"}
            </b>{" "}
            <span className="label">reps</span>
          </span>
          {reps && reps.sides === 2 && (
            <span className="text-label text-soft md:block">
              {reps.per_side_min}+{reps.per_side_min} a side
            </span>
          )}
        </p>
        <div>{reps && <Shares reps={reps} />}</div>
      </div>
      <div className="mt-1 flex flex-wrap items-center gap-1.5">
        {editable && (
          <>
            <Small says="Earlier" of={name} onClick={e.earlier} disabled={d.start <= 0}>
              ←
            </Small>
            <Small says="Later" of={name} onClick={e.later} disabled={d.start + d.minutes >= period.minutes}>
              →
            </Small>
          </>
        )}
        <Link className="textual" to={`${base}/practice/${practice.practice.id}/mark/${d.id}`}>
          {marks > 0 ? count(marks, "mark") : "mark"}
          <span className="sr-only"> of {name}</span>
        </Link>
        {drill && (
          <Link className="textual" to={`${base}/teaching/drills/${drill.key}`}>
            set-up<span className="sr-only"> of {name}</span>
          </Link>
        )}
        {drill && drill.shows === "card" && (drill.cards?.length ?? 0) > 1 && (
          <CardOrder drill={drill} order={d.cards} editable={editable} onChange={(cards) => set({ cards })} />
        )}
        {reps && reps.cycles > 0 && (
          <Button kind="text" onClick={() => onRotation(d.id)}>
            who when<span className="sr-only"> in {name}</span>
          </Button>
        )}
        {editable && (
          <Button kind="text" onClick={e.out}>
            out<span className="sr-only">: take {name} out</span>
          </Button>
        )}
      </div>
      {(wrong ?? reps?.advice) && (
        <p
          role={wrong ? "alert" : "note"}
          aria-label={wrong ? undefined : "Advice"}
          className={clsx("say", wrong ? "font-semibold text-fault" : "text-watch")}
        >
          {wrong ?? reps?.advice}
        </p>
      )}
    </li>
  );
}

interface SteppedProps {
  what: string;
  of: string;
  value: number;
  editable: boolean;
  invalid?: boolean;
  onChange: (n: number) => void;
  onLess: () => void;
  onMore: () => void;
}

/** A small number that is typed, or changed a step at a time. */
function Stepped({ what, of, value, editable, invalid, onChange, onLess, onMore }: SteppedProps) {
  return (
    <span className="flex items-center gap-1">
      <span className="label w-16 md:w-auto" aria-hidden>
        {what === "Minutes" ? "Min" : what}
      </span>
      {editable && (
        <Small says={`Fewer ${what.toLowerCase()}`} of={of} onClick={onLess} disabled={value <= 1}>
          −
        </Small>
      )}
      <Count
        label={`${what} of ${of}`}
        value={value}
        disabled={!editable}
        invalid={invalid}
        onChange={onChange}
      />
      {editable && (
        <Small says={`More ${what.toLowerCase()}`} of={of} onClick={onMore}>
          +
        </Small>
      )}
    </span>
  );
}

interface SmallProps {
  says: string;
  of: string;
  onClick: () => void;
  disabled?: boolean;
  children: string;
}

function Small({ says, of, onClick, disabled, children }: SmallProps) {
  return (
    <Button kind="quiet" className="relative min-w-7 justify-center px-1" off={disabled} onClick={onClick}>
      <span aria-hidden>{children}</span>
      <span className="sr-only">
        {says}: {of}
      </span>
    </Button>
  );
}
