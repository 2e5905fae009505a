import type { Schemas } from "@/api/client";
import { useKeys, type Key } from "@/keys/react";
import { clamp } from "@/kit/form/shape";
import { undoKeys } from "@/parts/undoKeys";
import { lanesTaken, move, resize, type Placed } from "./arrange";
import type { Plan } from "./usePlan";

interface Props {
  plan: Plan;
  period: Schemas["Period"];
  list: Placed[];
  chosen?: string;
  onChoose: (id: string | undefined) => void;
  editable: boolean;
}

/** What may be done to a drill of a plan, by key and by button alike. */
export function edits(plan: Plan, length: number, d: Placed) {
  const lanes = (by: number) => () =>
    plan.change(
      plan.drills.map((x) => (x.id === d.id ? { ...x, lanes: clamp(lanesTaken, x.lanes + by) } : x)),
    );
  return {
    earlier: () => plan.change(move(plan.drills, d.id, d.start - 1, length)),
    later: () => plan.change(move(plan.drills, d.id, d.start + 1, length)),
    shorter: () => plan.change(resize(plan.drills, d.id, d.minutes - 1, length)),
    longer: () => plan.change(resize(plan.drills, d.id, d.minutes + 1, length)),
    fewerLanes: lanes(-1),
    moreLanes: lanes(1),
    out: () => plan.change(plan.drills.filter((x) => x.id !== d.id)),
  };
}

/** The keys of a period: only those that do something now. */
export function usePlanKeys({ plan, period, list, chosen, onChoose, editable }: Props) {
  const now = list.find((d) => d.id === chosen);
  const step = (by: number) => {
    const i = list.findIndex((d) => d.id === chosen);
    onChoose(list.at(i < 0 ? (by > 0 ? 0 : -1) : (i + by + list.length) % list.length)?.id);
  };
  const choose: Key[] =
    list.length > 0
      ? [
          { keys: "]", does: "Next drill", run: () => step(1) },
          { keys: "[", does: "Drill before", run: () => step(-1) },
        ]
      : [];
  const e = now && editable ? edits(plan, period.minutes, now) : undefined;
  const edit: Key[] = e
    ? [
        { keys: "ArrowLeft", does: "Chosen drill a minute earlier", run: e.earlier },
        { keys: "ArrowRight", does: "Chosen drill a minute later", run: e.later },
        { keys: "-", does: "A minute less", run: e.shorter },
        { keys: "+ =", does: "A minute more", run: e.longer },
        { keys: ",", does: "A lane less", run: e.fewerLanes },
        { keys: ".", does: "A lane more", run: e.moreLanes },
        {
          keys: "Delete Backspace",
          does: "Take the chosen drill out",
          run: () => {
            const i = list.findIndex((d) => d.id === chosen);
            e.out();
            onChoose((list[i + 1] ?? list[i - 1])?.id);
          },
        },
      ]
    : [];
  const back = editable ? undoKeys(plan) : [];
  useKeys([...choose, ...edit, ...back]);
}
