import { Button, ButtonLink, FileLink } from "@/kit/Button";
import { Scroller } from "@/kit/Scroller";
import { useQuery } from "@tanstack/react-query";
import clsx from "clsx";
import { Link, useLocation, useSearchParams } from "react-router";
import type { Schemas } from "@/api/client";
import { useAct } from "@/sync/react";
import { queries } from "@/api/queries";
import { useKeys } from "@/keys/react";
import { OutOfBounds } from "@/app/NotFound";
import { useBaseOn } from "@/app/useBaseOn";
import { useWhere } from "@/app/where";
import { Empty, Loading, Trouble } from "@/kit/States";
import { usePutBack } from "@/parts/putBack";
import { count, weekdayDate } from "@/parts/words";
import { OnLadder, advices } from "./OnLadder";
import { TeachingHead } from "./Tabs";

type Ladder = Schemas["BoardLadder"];

/** The group on its ladders: every player on his stage, who is ready, who should step back, and the next practice. */
export function Board() {
  const { group, week, base } = useWhere();
  const board = useQuery(queries.board(group, week));
  const [params, setParams] = useSearchParams();
  const list = board.data?.ladders ?? [];
  const fallback = list.reduce<Ladder | undefined>(
    (best, l) => (!best || l.reps > best.reps ? l : best),
    undefined,
  );
  const ladder = list.find((l) => l.key === params.get("ladder")) ?? fallback;
  const step = (by: number) => {
    const next = ladder && list[(list.indexOf(ladder) + by + list.length) % list.length];
    if (next) setParams({ ladder: next.key }, { replace: true });
  };
  useKeys(
    list.length > 1
      ? [
          { keys: "]", does: "Next ladder", run: () => step(1) },
          { keys: "[", does: "Ladder before", run: () => step(-1) },
        ]
      : [],
  );
  if (board.error) return <Trouble error={board.error} again={() => void board.refetch()} />;
  if (!board.data) return <Loading what="the ladders" />;
  const asked = params.get("ladder");
  if (asked && list.length > 0 && !list.some((l) => l.key === asked))
    return (
      <OutOfBounds ways={<ButtonLink to={`${base}/teaching/ladders`}>The ladders of this group</ButtonLink>}>
        This group has no ladder of that name.
      </OutOfBounds>
    );
  if (!ladder)
    return (
      <>
        <TeachingHead title="Ladders" />
        <Empty>No technique of this group has a ladder yet.</Empty>
      </>
    );
  return (
    <>
      <TeachingHead title={ladder.name}>
        <FileLink href={`/api/v1/library/export?kind=ladder&key=${ladder.key}`}>As a file</FileLink>
        {board.data.editable && (
          <ButtonLink to={`${base}/teaching/edit/ladder/${ladder.key}`}>Edit the stages</ButtonLink>
        )}
      </TeachingHead>
      <div className="grid min-w-0 items-start gap-3 max-lg:grid-cols-[minmax(0,1fr)] lg:grid-cols-[minmax(0,1fr)_270px]">
        <OnLadder board={board.data} ladder={ladder} />
        <Next key={ladder.key} board={board.data} ladder={ladder} />
      </div>
      <Overview board={board.data} chosen={ladder.key} />
    </>
  );
}

function Next({ board, ladder }: { board: Schemas["Board"]; ladder: Ladder }) {
  const { group } = useWhere();
  const baseOn = useBaseOn();
  const { pathname, search } = useLocation();
  const act = useAct<Schemas["Move"]>();
  const move = () =>
    void act.run(
      { act: "move", group, ladder: ladder.key },
      { says: `${ladder.name}: the next practice to its stage`, href: pathname + search },
    );
  const stage = ladder.stages[ladder.group_stage];
  const here = (advice: string) => ladder.players.filter((m) => m.advice === advice);
  const name = (m: Schemas["BoardPlayer"]) => {
    const p = board.players.find((x) => x.id === m.player_id);
    return `${p?.jersey} ${p?.last_name}`;
  };
  const next = board.next_practice;
  const may = board.editable && !!next && !act.busy;
  useKeys(may ? [{ keys: "m", does: "Move the next practice to the group's stage", run: move }] : []);
  const done = act.answer;
  const putBack = usePutBack();
  const back = async (was: Schemas["PutIn"]) => {
    if (await putBack(was, `${ladder.name}: the move taken back`)) act.reset();
  };
  return (
    <section className="sheet p-3" aria-label="What the group needs">
      <h2 className="head">
        The group is at stage {ladder.group_stage + 1}: {stage?.name.toLowerCase()}
      </h2>
      <dl className="mt-1">
        {advices
          .filter((c) => c.say && here(c.advice).length > 0)
          .map((c) => (
            <div key={c.advice} className="mt-1.5">
              <dt className={clsx("text-small font-semibold", c.tone)}>
                <span aria-hidden>{c.shape}</span> {c.say}
              </dt>
              <dd className="say text-small">{here(c.advice).map(name).join(", ")}</dd>
            </div>
          ))}
      </dl>
      {ladder.players.some((m) => m.overexposed.length > 0) && (
        <p className="say mt-2 text-small text-watch">
          Too many days on a stage that stops the rep:{" "}
          {ladder.players
            .filter((m) => m.overexposed.length > 0)
            .map(name)
            .join(", ")}
          . Repeated, it teaches stopping.
        </p>
      )}
      <div className="mt-3 border-t border-hair pt-2">
        {next ? (
          <p className="say text-small">
            {weekdayDate(next.date)}:{" "}
            {ladder.planned
              ? `${ladder.planned}, stage ${(ladder.planned_stage ?? 0) + 1}, is planned.`
              : "nothing of this ladder is planned."}
          </p>
        ) : (
          <p className="say text-small text-soft">No practice to come has a period of this group.</p>
        )}
        {board.editable && next && (
          <Button kind="main" className="mt-2" off={act.busy} onClick={move}>
            Move {weekdayDate(next.date)} to this stage <span className="kbd">m</span>
          </Button>
        )}
        {act.error && (
          <p role="alert" className="say mt-1 text-small text-fault">
            {act.error}
          </p>
        )}
        {done && (
          <p role="status" className="say mt-1 text-small text-good">
            {done.already ? `${done.drill} stands there already.` : null}
            {!done.already &&
              `${done.drill}, ${count(done.minutes, "minute")}, ${done.replaced ? `takes the place of ${done.replaced}` : "is put in"}.`}{" "}
            {done.shortened.map((s) => `${s.drill} went from ${s.from} to ${s.to} minutes.`).join(" ")}{" "}
            <Link className="underline" to={`${baseOn(done.practice.date)}/practice/${done.practice.id}`}>
              See it
            </Link>{" "}
            {done.put_in && (
              <Button kind="text" onClick={() => void back(done.put_in!)}>
                Undo
              </Button>
            )}
          </p>
        )}
        {done && done.keep_out.length > 0 && (
          <p role="alert" className="say mt-1 border-l-2 border-fault pl-2 text-small text-fault">
            Keep out of its contact: {done.keep_out.join("; ")}. Back to a stage without it until the head is
            right.
          </p>
        )}
      </div>
    </section>
  );
}

/** Every ladder of the group in one table: the stage of each player, and what it asks for. */
function Overview({ board, chosen }: { board: Schemas["Board"]; chosen: string }) {
  const { base } = useWhere();
  return (
    <section className="sheet mt-3 min-w-0" aria-label="All ladders">
      <Scroller label="Table of all ladders">
        <table className="w-full text-small">
          <thead>
            <tr className="border-b border-ink text-left align-bottom">
              <th className="label p-1.5">Ladder</th>
              <th className="label p-1.5">Group</th>
              {board.players.map((p) => (
                <th key={p.id} className="name whitespace-nowrap p-1.5">
                  {p.jersey} {p.last_name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {board.ladders.map((l) => (
              <tr key={l.key} className={clsx("border-b border-hair", l.key === chosen && "bg-flag-wash")}>
                <th scope="row" className="p-1.5 text-left font-normal">
                  <Link
                    className="name hover:underline"
                    to={`${base}/teaching/ladders?ladder=${l.key}`}
                    replace
                  >
                    {l.name}
                  </Link>
                </th>
                <td className="whitespace-nowrap p-1.5 font-semibold">
                  {l.reps > 0 ? `${l.group_stage + 1} of ${l.stages.length}` : "–"}
                </td>
                {l.players.map((m) => {
                  const c = advices.find((x) => x.advice === m.advice);
                  return (
                    <td key={m.player_id} className={clsx("p-1.5", c?.tone)}>
                      {m.advice === "not_his" ? (
                        <span className="sr-only">{c?.word}</span>
                      ) : m.advice === "absent" || m.advice === "unknown" ? (
                        <span className="text-soft">{m.advice === "absent" ? "out" : "–"}</span>
                      ) : (
                        <>
                          <b>{m.advice === "done" ? "✓" : m.at + 1}</b> <span aria-hidden>{c?.shape}</span>
                          <span className="sr-only">{c?.word}</span>
                        </>
                      )}
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </Scroller>
    </section>
  );
}
