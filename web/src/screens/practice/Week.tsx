import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { queries } from "@/api/queries";
import { Title } from "@/kit/Title";
import { useWhere } from "@/app/where";
import { Empty, Loading, Trouble } from "@/kit/States";
import { clock, weekdayDate } from "@/parts/words";

/** The practices of the week. */
export function Week() {
  const { week, base } = useWhere();
  const frame = useQuery(queries.frame());
  if (frame.error) return <Trouble error={frame.error} again={() => void frame.refetch()} />;
  if (!frame.data) return <Loading what="the week" />;
  const here = frame.data.weeks[week - 1];
  if (!here) return null;
  const today = frame.data.today;
  return (
    <>
      <div className="mb-3">
        <Title page={`Practices of week ${week}`}>Practices of week {week}</Title>
      </div>
      {here.practices.length === 0 && <Empty>No practice is on the calendar this week.</Empty>}
      <ul className="grid max-w-2xl gap-2">
        {here.practices.map((p) => (
          <li key={p.id}>
            <Link
              to={`${base}/practice/${p.id}`}
              className="sheet flex items-baseline gap-4 p-3 hover:border-ink"
            >
              <span className="head">{p.title}</span>
              <span className="say text-soft">
                {weekdayDate(p.date)}, {clock(p.start_minute)}–{clock(p.start_minute + p.minutes)}
              </span>
              <span className="label ml-auto">
                {p.date < today ? "run" : p.date === today ? "today" : "to come"}
              </span>
            </Link>
          </li>
        ))}
        {here.games.map((g) => (
          <li key={g.id}>
            <Link
              to={`${base}/film/${g.id}`}
              className="sheet flex items-baseline gap-4 p-3 hover:border-ink"
            >
              <span className="head">
                {g.opponent}, {g.home ? "at home" : "away"}
              </span>
              <span className="say text-soft">{weekdayDate(g.date)}</span>
              <span className="label ml-auto">game</span>
            </Link>
          </li>
        ))}
      </ul>
    </>
  );
}
