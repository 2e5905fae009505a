import { useQuery } from "@tanstack/react-query";
import clsx from "clsx";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { Button } from "@/kit/Button";
import { Empty, Loading, Trouble } from "@/kit/States";
import { count } from "@/parts/words";

interface Props {
  group: string;
  period: string;
  editable: boolean;
  /** In the plan now, saved or not. */
  placed: ReadonlySet<string>;
  onAdd: (drill: string) => void;
}

/** How strongly a reason speaks, never by colour alone. */
const looks: Record<Schemas["SuggestionReason"]["code"], string> = {
  safety: "border-fault font-semibold text-fault",
  call: "border-flag font-semibold text-flag",
  stage: "border-rule",
  hurts: "border-rule",
  every_day: "border-rule",
  side: "border-rule",
};

const words: Record<Schemas["SuggestionReason"]["code"], string> = {
  safety: "safety",
  call: "call",
  stage: "ladder",
  hurts: "hurts",
  every_day: "every day",
  side: "sides",
};

/** The drills to look at for the period, with what speaks for each. */
export function Suggested({ group, period, editable, placed, onAdd }: Props) {
  const found = useQuery(queries.suggestions(group, period));
  if (found.error && !found.data) return <Trouble error={found.error} again={() => void found.refetch()} />;
  if (!found.data) return <Loading what="what to look at" />;
  const list = found.data.drills.filter((d) => !placed.has(d.drill));
  if (list.length === 0)
    return <Empty>Nothing asks for a drill that is not in the plan: no stage, no call, no fault.</Empty>;
  return (
    <>
      {found.data.alone && (
        <p className="say mb-1 text-small text-soft">
          You coach alone: of equals, the drills that show the fault by themselves come first.
        </p>
      )}
      <ol className="max-h-[430px] divide-y divide-hair overflow-auto" aria-label="Suggested drills">
        {list.map((d) => (
          <li key={d.drill} className="grid gap-1 py-1.5" aria-label={d.name}>
            <span className="flex items-center gap-2">
              <span className="name min-w-0 flex-1 text-body">{d.name}</span>
              <span className="label whitespace-nowrap">
                {d.minutes} min · {count(d.reps, "rep")}
              </span>
              {editable && (
                <Button kind="quiet" off={!!d.blocked} onClick={() => onAdd(d.drill)}>
                  Add<span className="sr-only"> {d.name}</span>
                </Button>
              )}
            </span>
            <span className="flex flex-wrap gap-1 text-small">
              {d.reasons.map((r) => (
                <span key={r.code + r.says} className={clsx("border-l-[3px] pl-1.5", looks[r.code])}>
                  <span className="label normal-case">{words[r.code]}</span> {r.says}
                </span>
              ))}
            </span>
            {d.blocked && <span className="say text-small text-watch">Not now: {d.blocked}.</span>}
            {d.self_check && <span className="say text-small text-soft">Shows itself: {d.self_check}</span>}
          </li>
        ))}
      </ol>
    </>
  );
}
