import { ButtonLink } from "@/kit/Button";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { queries } from "@/api/queries";
import { useBaseOn } from "@/app/useBaseOn";
import { useWhere } from "@/app/where";
import { Empty, Loading, Trouble } from "@/kit/States";
import { Title } from "@/kit/Title";
import { count, weekdayDate } from "@/parts/words";

/** The games of the season, the last one played first: what is graded, and where. */
export function Film() {
  const { base, group } = useWhere();
  const baseOn = useBaseOn();
  const film = useQuery(queries.onFilm(group)).data;
  const frame = useQuery(queries.frame());
  if (frame.error && !frame.data) return <Trouble error={frame.error} again={() => void frame.refetch()} />;
  if (!frame.data) return <Loading what="the games" />;
  const { today } = frame.data;
  const games = frame.data.weeks.flatMap((w) => w.games.map((g) => ({ ...g, week: w.week })));
  const played = games.filter((g) => g.date <= today && !g.cancelled).reverse();
  const plays = new Map(film?.games.map((g) => [g.game_id, g.plays]));
  return (
    <>
      <div className="mb-3">
        <Title page="Film">Film</Title>
        <p className="say text-soft">Games that were played, the last one first.</p>
      </div>
      {played.length === 0 && <Empty>No game was played yet.</Empty>}
      <ul className="grid max-w-2xl gap-2" aria-label="Games">
        {played.map((g) => (
          <li key={g.id} className="sheet flex flex-wrap items-baseline gap-x-4 gap-y-1 p-3">
            <ButtonLink kind="head" to={`${base}/film/${g.id}`}>
              {g.opponent}, {g.home ? "at home" : "away"}
            </ButtonLink>
            <span className="say text-soft">
              {weekdayDate(g.date)}, week {g.week}
              {plays.has(g.id) && ` · ${count(plays.get(g.id)!, "play")} on film`}
            </span>
            <span className="ml-auto flex gap-x-4">
              <Link className="textual text-small" to={`${base}/film/${g.id}/sheets`}>
                Sheets<span className="sr-only"> on {g.opponent}</span>
              </Link>
              <Link className="textual text-small" to={`${base}/film/${g.id}/videos`}>
                Videos<span className="sr-only"> of {g.opponent}</span>
              </Link>
              <Link className="textual text-small" to={`${base}/film/${g.id}/plays`}>
                Plays<span className="sr-only"> against {g.opponent}</span>
              </Link>
            </span>
          </li>
        ))}
      </ul>
      {film && film.periods.length > 0 && (
        <section aria-labelledby="periods-on-film" className="mt-5 max-w-2xl">
          <h2 id="periods-on-film" className="head mb-2">
            Team periods on film
          </h2>
          <ul className="grid gap-2">
            {film.periods.map((p) => (
              <li key={p.game_id} className="sheet flex flex-wrap items-baseline gap-x-4 gap-y-1 p-3">
                <ButtonLink kind="head" to={`${base}/film/${p.game_id}`}>
                  {p.title}
                </ButtonLink>
                <span className="say text-soft">
                  {weekdayDate(p.date)} · {count(p.plays, "play")} on film
                </span>
              </li>
            ))}
          </ul>
        </section>
      )}
      {film && film.drills.length > 0 && (
        <section aria-labelledby="drills-on-film" className="mt-5 max-w-2xl">
          <h2 id="drills-on-film" className="head mb-2">
            Drills on film
          </h2>
          <ul className="grid gap-2">
            {film.drills.map((d) => (
              <li key={d.placement_id} className="sheet flex flex-wrap items-baseline gap-x-4 gap-y-1 p-3">
                <ButtonLink
                  kind="head"
                  to={`${baseOn(d.date)}/practice/${d.practice_id}/mark/${d.placement_id}`}
                >
                  {d.drill}
                </ButtonLink>
                <span className="say text-soft">
                  {weekdayDate(d.date)} · {count(d.reps, "rep")} on film
                </span>
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}
