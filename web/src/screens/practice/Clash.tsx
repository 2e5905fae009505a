import type { Schemas } from "@/api/client";
import { inOrder } from "./arrange";
import type { Clash as ClashOf, Plan } from "./usePlan";

interface Props {
  clash: ClashOf;
  plan: Plan;
  drills: Map<string, Schemas["Drill"]>;
}

/** Two coaches changed the same period: both versions, side by side, and the choice. */
export function Clash({ clash, plan, drills }: Props) {
  const line = (d: { id: string; drill: string; start: number; minutes: number; lanes: number }) => (
    <li key={d.id}>
      <span className="name">{drills.get(d.drill)?.name ?? d.drill}</span>, minute {d.start}–
      {d.start + d.minutes}, {d.lanes} lanes
    </li>
  );
  return (
    <section
      role="alertdialog"
      aria-label="Two versions of this period"
      className="mb-3 border-2 border-fault bg-fault-wash p-3"
    >
      <p className="head">{clash.message} Yours is not saved yet.</p>
      <div className="mt-2 grid gap-3 sm:grid-cols-2">
        <div>
          <h3 className="label">Yours</h3>
          <ul className="say text-small">{inOrder(plan.drills).map(line)}</ul>
          <button type="button" className="btn btn-main mt-2" onClick={plan.keepMine}>
            Keep mine
          </button>
        </div>
        <div>
          <h3 className="label">Theirs, saved</h3>
          <ul className="say text-small">{clash.theirs.placements.map(line)}</ul>
          <button type="button" className="btn mt-2" onClick={plan.takeTheirs}>
            Take theirs
          </button>
        </div>
      </div>
    </section>
  );
}
