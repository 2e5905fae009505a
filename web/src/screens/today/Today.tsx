import { ButtonLink } from "@/kit/Button";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { Title } from "@/kit/Title";
import { useBaseOn } from "@/app/useBaseOn";
import { useWhere } from "@/app/where";
import { Needs } from "@/parts/Needs";
import { Voices } from "@/parts/Voices";
import { Empty, Loading, Trouble } from "@/kit/States";
import { availability, clock, count, dayMonth, weekdayDate } from "@/parts/words";
import { Asked } from "./Asked";
import { useEditable } from "./useEditable";

/** What is next for the group: the practice to run, what is to be graded, and what hurts. */
export function Today() {
  const { group, week } = useWhere();
  const today = useQuery(queries.today(group, week));
  const frame = useQuery(queries.frame());
  // They stand above what is pressed: what is shown at first has them, so that nothing moves away under the pointer.
  const asked = useQuery(queries.questions());
  const editable = useEditable(group);
  if (today.error) return <Trouble error={today.error} again={() => void today.refetch()} />;
  if (!today.data || (asked.isLoading && asked.failureCount === 0)) return <Loading what="today" />;
  const t = today.data;
  const name = frame.data?.groups.find((g) => g.key === group)?.name ?? group;
  return (
    <>
      <p className="label">
        {name} · week {week}
      </p>
      <div className="mb-3">
        <Title page="Today">
          {frame.data && week === frame.data.week ? weekdayDate(frame.data.today) : `Week ${week}`}
        </Title>
      </div>
      <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-[minmax(0,1fr)_minmax(0,1.1fr)]">
        <div className="grid grid-cols-1 gap-4">
          <NextPractice next={t.next_practice} />
          <Asked />
          <ToGrade list={t.to_grade} />
          <Holds holds={t.holds} />
        </div>
        <div className="grid grid-cols-1 gap-4">
          <section className="sheet p-3" aria-labelledby="hurts">
            <div className="flex items-baseline justify-between">
              <h2 id="hurts" className="head">
                What hurts most next game
              </h2>
              <span className="label">expected faults, weighted</span>
            </div>
            {t.needs.length === 0 ? (
              <Empty>
                No faults on record in the last four weeks. Mark a practice or a game and they are counted
                here.
              </Empty>
            ) : (
              <Needs needs={t.needs} editable={editable} />
            )}
          </section>
          <section className="sheet p-3" aria-labelledby="voices">
            <h2 id="voices" className="head">
              What the marks say
            </h2>
            <Voices voices={t.voices} />
          </section>
        </div>
      </div>
    </>
  );
}

function NextPractice({ next }: { next?: Schemas["NextPractice"] }) {
  const baseOn = useBaseOn();
  return (
    <section className="sheet p-3" aria-labelledby="next">
      <h2 id="next" className="label">
        Next practice
      </h2>
      {!next ? (
        <p className="say mt-1">No practice is on the calendar from here on.</p>
      ) : (
        <>
          <p className="head mt-1">
            {next.practice.title}, {dayMonth(next.practice.date)}, {clock(next.practice.start_minute)}–
            {clock(next.practice.start_minute + next.practice.minutes)}
          </p>
          <p className="say mt-1">
            {next.drills.length === 0
              ? `Your ${next.own_minutes} minutes are still empty.`
              : `${next.drill_minutes} of your ${next.own_minutes} minutes are planned: ${next.drills.join(", ")}.`}
          </p>
          <ButtonLink
            kind="main"
            className="mt-3"
            to={`${baseOn(next.practice.date)}/practice/${next.practice.id}`}
          >
            {next.drill_minutes < next.own_minutes ? "Plan the rest" : "Open the plan"}
          </ButtonLink>
        </>
      )}
    </section>
  );
}

function ToGrade({ list }: { list: Schemas["ToGrade"][] }) {
  const { base } = useWhere();
  const baseOn = useBaseOn();
  return (
    <section className="sheet p-3" aria-labelledby="to-grade">
      <h2 id="to-grade" className="label">
        Still to grade
      </h2>
      {list.length === 0 && (
        <p className="say mt-1 text-soft">Nothing. All reps of the last days are marked.</p>
      )}
      <ul className="divide-y divide-hair">
        {list.map((g) => (
          <li key={g.id} className="flex items-center gap-3 py-2">
            <span className="min-w-0">
              <span className="name block text-head">{g.title}</span>
              <span className="say text-small text-soft">
                {weekdayDate(g.date)} · {g.graded} of{" "}
                {g.kind === "game" ? count(g.expected, "play") : count(g.expected, "rep")} marked
              </span>
            </span>
            {g.kind === "game" && (
              <ButtonLink kind="quiet" className="ml-auto" to={`${base}/film/${g.id}`}>
                Grade
              </ButtonLink>
            )}
            {g.kind === "drill" && g.practice_id && (
              <ButtonLink
                kind="quiet"
                className="ml-auto"
                to={`${baseOn(g.date)}/practice/${g.practice_id}/mark/${g.id}`}
              >
                Mark
              </ButtonLink>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Holds({ holds }: { holds: Schemas["Hold"][] }) {
  const { base } = useWhere();
  if (holds.length === 0) return null;
  return (
    <section className="sheet p-3" aria-labelledby="holds">
      <h2 id="holds" className="label">
        Not at full strength
      </h2>
      <ul className="divide-y divide-hair">
        {holds.map((h) => (
          <li key={h.player_id} className="py-2">
            <Link className="name text-head underline" to={`${base}/players/${h.player_id}`}>
              {h.jersey} {h.name}
            </Link>{" "}
            <span
              className={
                h.status === "head_hold"
                  ? "text-small font-semibold text-fault"
                  : "text-small font-semibold text-watch"
              }
            >
              {h.status === "head_hold" ? "■ " : "◧ "}
              {availability[h.status]}
            </span>
            {h.note && <p className="say text-small text-soft">{h.note}</p>}
          </li>
        ))}
      </ul>
    </section>
  );
}
