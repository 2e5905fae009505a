import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { queries } from "@/api/queries";
import { useWhere } from "@/app/where";
import { ButtonLink } from "@/kit/Button";
import { Empty, Loading, Trouble } from "@/kit/States";
import { Title } from "@/kit/Title";
import { count, filmTitle, weekdayDate } from "@/parts/words";

/** What each player of the group is told of a game: one thing done best, at most two to fix. */
export function Sheets() {
  const { game = "" } = useParams();
  const { group, base } = useWhere();
  const list = useQuery(queries.feedbacks(game, group));
  if (list.error && !list.data) return <Trouble error={list.error} again={() => void list.refetch()} />;
  if (!list.data) return <Loading what="the sheets" />;
  const { game: g, players } = list.data;
  const title = filmTitle(g);
  return (
    <>
      <div className="mb-3 flex flex-wrap items-end gap-2">
        <div>
          <p className="label">
            {weekdayDate(g.date)} · what {count(players.length, "player")} are told
          </p>
          <Title page={`Sheets: ${title}`}>{title}</Title>
        </div>
        <span className="ml-auto flex flex-wrap gap-1.5">
          <ButtonLink to={`${base}/film/${game}`}>Grade</ButtonLink>
          <ButtonLink kind="main" to={`${base}/film/${game}/meeting`}>
            The meeting
          </ButtonLink>
        </span>
      </div>
      {players.length === 0 && (
        <Empty action={<ButtonLink to={`${base}/film/${game}`}>Grade it</ButtonLink>}>
          Nobody of the group is marked in this game yet. Once he is, his sheet is proposed here.
        </Empty>
      )}
      <ul className="grid gap-2 md:grid-cols-2" aria-label="Sheets">
        {players.map((p) => (
          <li key={p.player_id} className="sheet grid content-start gap-1 p-3">
            <span className="flex flex-wrap items-baseline gap-x-3">
              <ButtonLink
                kind="head"

                to={`${base}/film/${game}/sheets/${p.player_id}`}
              >
                {p.jersey} {p.name}
              </ButtonLink>
              <span className="say text-small text-soft">
                {count(p.marks, "mark")} · {p.proposed ? "as proposed" : "written on"}
              </span>
            </span>
            <span className="say">
              <span className="label">Best</span> {p.best ?? "nothing was graded clean"}
            </span>
            <span className="say">
              <span className="label">To fix</span>{" "}
              {p.fixes.length > 0 ? p.fixes.join("; ") : "nothing named"}
            </span>
          </li>
        ))}
      </ul>
    </>
  );
}
