import { ButtonLink } from "@/kit/Button";
import { useGrid } from "@/kit/grid";
import { Scroller } from "@/kit/Scroller";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { Title } from "@/kit/Title";
import { useWhere } from "@/app/where";
import { Empty, Loading, Trouble } from "@/kit/States";
import { ClaimNote, OverallWord, TrendWord, weak } from "@/parts/Trend";
import { availability, percent, range } from "@/parts/words";

/** The group as a matrix: players down, techniques across, each cell an estimate with its range and reps. */
export function Players() {
  const { group, week, base } = useWhere();
  const players = useQuery(queries.players(group, week));
  const grid = useGrid<HTMLTableElement>();
  if (players.error) return <Trouble error={players.error} again={() => void players.refetch()} />;
  if (!players.data) return <Loading what="the players" />;
  const { techniques, players: rows } = players.data;
  if (rows.length === 0)
    return (
      <>
        <div className="mb-3">
          <Title page="Players">Players</Title>
        </div>
        <Empty
          action={
            <ButtonLink kind="main" to={`${base}/roster/import`}>
              Import the roster
            </ButtonLink>
          }
        >
          Nobody is in this group yet. Import your list as you have it; columns are matched for you.
        </Empty>
      </>
    );
  const seen = techniques.filter((t) => t.rate !== undefined);
  const unseen = techniques.filter((t) => t.rate === undefined);
  return (
    <>
      <Title page="Players">Players</Title>
      <p className="say mb-3 max-w-3xl text-soft">
        Estimated share of clean reps, its likely range and the reps behind it, as of week {week}. Recent
        weeks count more. A filled shape speaks up for what may be claimed over the whole matrix: in a cell,
        that he is better or worse than before; beside a name, that he changed more than the others have.
      </p>
      <Scroller label="Players by techniques" className="sheet">
        <table role="grid" aria-label="Players by techniques" {...grid} className="w-full text-small">
          <thead>
            <tr className="border-b border-ink text-left">
              <th className="label sticky left-0 bg-sheet p-2 font-semibold">Player</th>
              {seen.map((t) => (
                <th key={t.key} className="p-2 align-bottom">
                  <span className="name">{t.name}</span>
                  <span className="label block">
                    {t.rate === undefined ? "no reps" : `group ${percent(t.rate)}`}
                  </span>
                  {t.beside && (
                    <span className="block whitespace-nowrap text-small font-normal text-soft">
                      {percent(t.beside.practice)} practice, {percent(t.beside.game)} games
                    </span>
                  )}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map(({ player, cells, overall }, i) => (
              <tr key={player.id} className="border-b border-hair">
                <th scope="row" className="sticky left-0 bg-sheet p-2 text-left font-normal">
                  <Link
                    className="name text-head hover:underline"
                    tabIndex={i === 0 ? 0 : -1}
                    to={`${base}/players/${player.id}`}
                  >
                    {player.jersey} {player.last_name}
                  </Link>
                  <span className="label ml-2">{player.position}</span>
                  <span className="block max-w-40 leading-tight">
                    <OverallWord overall={overall} />
                  </span>
                  {player.status !== "available" && (
                    <span className={player.status === "head_hold" ? "block text-fault" : "block text-watch"}>
                      {availability[player.status]}
                    </span>
                  )}
                </th>
                {seen.map((t) => (
                  <td key={t.key} className="p-2">
                    <CellView
                      cell={cells.find((c) => c.technique === t.key)}
                      to={`${base}/players/${player.id}?technique=${t.key}`}
                    />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Scroller>
      <p className="label mt-2 normal-case tracking-normal max-md:hidden">
        <span className="kbd">←</span> <span className="kbd">↑</span> <span className="kbd">→</span>{" "}
        <span className="kbd">↓</span> walk the table, <span className="kbd">Enter</span> opens what is behind
        a number.
      </p>
      <ClaimNote />
      {unseen.length > 0 && techniques.length > 0 && (
        <p className="say mt-2 text-small text-soft">
          Taught, and not marked yet: {unseen.map((t) => t.name.toLowerCase()).join(", ")}.
        </p>
      )}
      {techniques.length === 0 && (
        <Empty>The library has no techniques for this group yet, so there is nothing to estimate.</Empty>
      )}
    </>
  );
}

/** What games do to all: a number of the group, of the last five weeks. */
function CellView({ cell, to }: { cell?: Schemas["Cell"]; to: string }) {
  if (!cell) return <span className="text-soft">–</span>;
  const faint = weak(cell);
  return (
    <Link
      to={to}
      tabIndex={-1}
      className={
        faint
          ? "block border border-dashed border-rule px-1 text-soft"
          : "block border border-transparent px-1 hover:border-ink"
      }
    >
      <span className={faint ? "" : "text-head font-bold"}>{percent(cell.estimate)}</span>{" "}
      <TrendWord cell={cell} short />
      <span className="label block normal-case tracking-normal">
        {range(cell.low, cell.high)} · {cell.reps}
      </span>
    </Link>
  );
}
