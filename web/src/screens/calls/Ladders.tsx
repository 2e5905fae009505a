import clsx from "clsx";
import type { Schemas } from "@/api/client";
import { count, weekdayDate } from "@/parts/words";

/** What each ladder of a group still asks: first where the practices left are too few. */
export function Ladders({ ready, group }: { ready: Schemas["Readiness"]; group?: Schemas["GroupRef"] }) {
  const told = ready.ladders.filter((l) => l.install || l.weeks.some((w) => w.stage > 0));
  const quiet = ready.ladders.filter((l) => !told.includes(l));
  const rank = (l: Schemas["LadderReadiness"]) => (l.short ? 0 : l.install ? 1 : 2);
  return (
    <section className="sheet p-3" aria-label="Ladders">
      <h2 className="head">What the ladders still ask{group && ` of the ${group.short}`}</h2>
      <p className="say mb-2 text-small text-soft">
        Of those in the line-up, at the pace of the last six practices. Each rep is taken to be clean as often
        as the player&apos;s own of late, whatever came before: days differ, and players learn.
      </p>
      {told.length === 0 && <p className="say text-small">Nothing is worked on yet, and no call needs it.</p>}
      <ul className="grid gap-2">
        {[...told]
          .sort((a, b) => rank(a) - rank(b))
          .map((l) => (
            <li key={l.ladder} className="border-l-[3px] border-rule pl-2">
              <span className={clsx("say", l.short && "text-fault")}>
                {l.short && <span aria-hidden>▲ </span>}
                {l.says}.
              </span>
              <span className="block text-small text-soft">
                {count(l.minutes, "individual minute")}{" "}
                {l.install ? `before ${weekdayDate(l.install)}` : "left"}
              </span>
            </li>
          ))}
      </ul>
      {quiet.length > 0 && (
        <p className="say mt-2 text-small text-soft">
          Not begun, and no call needs them: {quiet.map((l) => l.name).join(", ")}.
        </p>
      )}
    </section>
  );
}
