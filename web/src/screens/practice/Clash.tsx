import type { Schemas } from "@/api/client";
import { Both, type Part } from "@/parts/Both";
import { placed, type Placed } from "./arrange";
import type { Clash as ClashOf, Plan } from "./usePlan";

interface Props {
  clash: ClashOf;
  plan: Plan;
  drills: Map<string, Schemas["Drill"]>;
}

const words = (d: Placed | undefined) =>
  d
    ? `minute ${d.start}–${d.start + d.minutes}, ${d.lanes} lanes${d.cards ? `, cards ${d.cards.join(", ")}` : ""}`
    : "not in it";

/** Two coaches changed the same period: both versions, drill by drill, and the choice. */
export function Clash({ clash, plan, drills }: Props) {
  const mine = new Map(plan.drills.map((d) => [d.id, d]));
  const theirs = new Map<string, Placed>(clash.theirs.placements.map((p) => [p.id, placed(p)]));
  const ids = [...new Set([...mine.keys(), ...theirs.keys()])];
  const parts = ids
    .filter(
      (id) => words(mine.get(id)) !== words(theirs.get(id)) || mine.get(id)?.drill !== theirs.get(id)?.drill,
    )
    .map((id): Part => {
      const key = (mine.get(id) ?? theirs.get(id))!.drill;
      return {
        key: id,
        name: drills.get(key)?.name ?? key,
        mine: words(mine.get(id)),
        theirs: words(theirs.get(id)),
      };
    });
  const differ = new Set(parts.map((p) => p.key));
  return (
    <Both
      title="Two versions of this period"
      message={clash.message}
      parts={parts}
      onChosen={(own) =>
        plan.settle(
          ids
            .map((id) => (!differ.has(id) || own.has(id) ? mine.get(id) : theirs.get(id)))
            .filter((d) => d !== undefined)
            .sort((a, b) => a.start - b.start),
        )
      }
      onTheirs={plan.takeTheirs}
    />
  );
}
