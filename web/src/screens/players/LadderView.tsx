import clsx from "clsx";
import type { Schemas } from "@/api/client";

/** Where the player stands on a ladder: passed stages filled, the current one marked, the gate in figures. */
export function LadderView({ ladder }: { ladder: Schemas["LadderStanding"] }) {
  return (
    <section className="sheet p-3" aria-labelledby="ladder">
      <h2 id="ladder" className="head mb-2">
        Ladder: {ladder.name.toLowerCase()}
      </h2>
      <ol className="grid gap-2">
        {ladder.stages.map((s) => {
          const current = s.key === ladder.current;
          return (
            <li key={s.key} className="flex items-baseline gap-2" aria-current={current ? "step" : undefined}>
              <span
                aria-hidden
                className={clsx(
                  "size-3 shrink-0 self-center border",
                  s.passed ? "border-ink bg-ink" : current ? "border-flag bg-flag" : "border-rule",
                )}
              />
              <span className={clsx("name", !s.passed && !current && "text-soft")}>
                {s.name}
                {s.override && (
                  <span className="say block text-small text-watch">
                    ✎ {s.override.by}: {s.override.reason}
                  </span>
                )}
              </span>
              <span className="label ml-auto whitespace-nowrap">{said(s, current, ladder)}</span>
            </li>
          );
        })}
      </ol>
      {ladder.status === "step_back" && (
        <p className="say mt-2 text-watch">
          Fewer than half of his last reps there are clean: go back a stage.
        </p>
      )}
      {ladder.overexposed.length > 0 && (
        <p className="say mt-2 text-watch">
          Too many days on{" "}
          {ladder.stages
            .filter((s) => ladder.overexposed.includes(s.key))
            .map((s) => s.name.toLowerCase())
            .join(", ")}
          . Freeze stages teach stopping.
        </p>
      )}
      {ladder.done && <p className="say mt-2 text-good">All stages passed.</p>}
    </section>
  );
}

function said(s: Schemas["StageStanding"], current: boolean, ladder: Schemas["LadderStanding"]): string {
  if (s.passed) return "passed";
  if (current && ladder.status === "waiting") return `from week ${s.from_week}`;
  if (current && s.recent_reps === 0) return `no reps yet, gate ${s.clean} of ${s.window}`;
  if (current) return `${s.recent_clean} of last ${s.recent_reps}, gate ${s.clean} of ${s.window}`;
  return s.reps > 0 ? `seen ${s.reps}` : "";
}
