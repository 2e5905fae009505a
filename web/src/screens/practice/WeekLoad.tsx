import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useWhere } from "@/app/where";
import { Scroller } from "@/kit/Scroller";
import { count, percent, weekdayDate } from "@/parts/words";

/** What the week's own periods ask of every player, and whose reps jump. */
export function WeekLoad({ group, week }: { group: string; week: number }) {
  const load = useQuery(queries.load(group, week));
  if (!load.data || load.data.players.length === 0) return null;
  const list = load.data.players;
  const jumps = list.filter((p) => p.over > 0 || p.high_over > 0);
  const most = Math.max(...list.map((p) => Math.max(p.reps, p.average)), 1);
  return (
    <section className="sheet mt-3 min-w-0 max-w-4xl p-3" aria-label="Planned reps of the week">
      <h2 className="head">Planned reps in week {week}</h2>
      <p className="say mb-2 text-small text-soft">
        By the group&apos;s own periods, for those who are there. The darker part is of high effort: in it
        players meet each other.{" "}
        {jumps.length > 0 ? (
          <b className="text-watch">
            △ {count(jumps.length, "player")} more than 30 % over the average of the weeks before: look at it
            with your staff.
          </b>
        ) : (
          "Nobody is more than 30 % over the average of the weeks before."
        )}
      </p>
      {load.data.warnings.length > 0 && (
        <ul className="mb-2 grid gap-1" aria-label="Warnings">
          {load.data.warnings.map((w) => (
            <li key={w.date + w.says} className="say text-small text-watch">
              △ {weekdayDate(w.date)}: {w.says}.
            </li>
          ))}
        </ul>
      )}
      <Scroller label="Planned reps, player by player">
        <table className="w-full text-small" aria-label="Planned reps, player by player">
          <thead className="sr-only">
            <tr>
              <th scope="col">Player</th>
              <th scope="col">Reps</th>
              <th scope="col">Of them high effort</th>
              <th scope="col">Average before</th>
              <th scope="col">Jump</th>
            </tr>
          </thead>
          <tbody>
            {list.map((p) => (
              <Line key={p.player_id} player={p} most={most} />
            ))}
          </tbody>
        </table>
      </Scroller>
    </section>
  );
}

/** What is wrong with the order of the drills of a practice, and who throws, kicks or sprints too much there. */
export function Warnings({ practice }: { practice: Schemas["Practice"] }) {
  const { group } = useWhere();
  const load = useQuery(queries.load(group, practice.week));
  const list = load.data?.warnings.filter((w) => w.practice_id === practice.practice.id) ?? [];
  return (
    <div role="status" aria-label="What is wrong with the plan">
      {list.length > 0 && (
        <ul className="mt-2 grid gap-1">
          {list.map((w) => (
            <li key={w.says} className="say text-small text-watch">
              △ {w.says}.
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

function Line({ player: p, most }: { player: Schemas["LoadLine"]; most: number }) {
  return (
    <tr className="border-b border-hair">
      <th scope="row" className="w-28 py-0.5 pr-2 text-left font-normal whitespace-nowrap">
        <b>{p.jersey}</b> {p.name}
      </th>
      <td className="w-10 text-right">
        <b>{p.reps}</b>
      </td>
      <td className="w-16 pl-1 whitespace-nowrap text-soft">{p.high} high</td>
      <td className="w-full min-w-24 px-2">
        <span aria-hidden className="relative block h-2 bg-hair">
          <span
            className="absolute inset-y-0 left-0 bg-ink/50"
            style={{ width: `${(100 * p.reps) / most}%` }}
          />
          <span className="absolute inset-y-0 left-0 bg-ink" style={{ width: `${(100 * p.high) / most}%` }} />
          {p.average > 0 && (
            <span
              className="absolute -inset-y-0.5 w-0.5 bg-flag"
              style={{ left: `${(100 * p.average) / most}%` }}
            />
          )}
        </span>
        <span className="sr-only">{p.average > 0 ? `average ${p.average}` : "no average yet"}</span>
      </td>
      <td className="whitespace-nowrap text-watch">
        {p.over > 0 && `△ ${percent(p.over)} over`}
        {p.over === 0 && p.high_over > 0 && `△ ${percent(p.high_over)} over, high effort`}
      </td>
    </tr>
  );
}
