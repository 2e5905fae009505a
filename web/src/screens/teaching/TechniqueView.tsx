import clsx from "clsx";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useWhere } from "@/app/where";
import { Trouble } from "@/kit/States";
import { Ruler } from "@/parts/Ruler";
import { Standard } from "@/parts/Standard";
import { Voices } from "@/parts/Voices";
import { count, percent } from "@/parts/words";

interface Props {
  technique: Schemas["Technique"];
  library: Schemas["Library"];
}

/** One technique: the rep along the ruler, its standards as bands, faults where they occur, drills and ladder. */
export function TechniqueView({ technique, library }: Props) {
  const ladder = library.ladders.find((l) => l.technique === technique.key);
  return (
    <div className="grid min-w-0 gap-3">
      <section className="sheet min-w-0 p-3" aria-label="The rep">
        {technique.aliases.length > 0 && (
          <p className="label normal-case tracking-normal">Also called {technique.aliases.join(", ")}</p>
        )}
        <p className="say max-w-prose">{technique.summary}</p>
        {(technique.core || technique.places) && (
          <p className="label mt-1 normal-case tracking-normal">
            {[
              technique.places &&
                `Only for: ${technique.places.map((p) => (p.length < 3 ? p.toUpperCase() : p)).join(", ")}`,
              technique.core && (technique.places ? "each of them must own it" : "every player must own it"),
            ]
              .filter(Boolean)
              .join(" · ")}
          </p>
        )}
        <Rep technique={technique} editable={library.editable} />
      </section>
      <GroupForm technique={technique} />
      <Faults technique={technique} editable={library.editable} />
      {ladder && <LadderLine ladder={ladder} />}
      <Questions technique={technique} library={library} />
    </div>
  );
}

/** How the group does it, in practice and in games, and what may be claimed of its players. */
function GroupForm({ technique }: { technique: Schemas["Technique"] }) {
  const { group, week } = useWhere();
  const form = useQuery(queries.techniqueForm(group, technique.key, week));
  if (form.error) return <Trouble error={form.error} again={() => void form.refetch()} />;
  if (form.data?.rate === undefined) return null; // not read yet, or no reps
  const { practice, game, rate, voices } = form.data;
  const of = (c: Schemas["Count"], where: string) =>
    c.clean + c.faulty > 0 ? `${c.clean} of ${c.clean + c.faulty} ${where}` : `no reps ${where}`;
  return (
    <section className="sheet min-w-0 p-3" aria-labelledby="group-form">
      <h2 id="group-form" className="head">
        How the group does it
      </h2>
      <p className="say mt-1">
        About {percent(rate)} clean, recent weeks counting more. In the last five weeks{" "}
        {of(practice, "in practice")}, {of(game, "in games")}. That is a number of the group: games are harder
        for everybody.
      </p>
      <Voices voices={voices} />
    </section>
  );
}

function Rep({ technique, editable }: { technique: Schemas["Technique"]; editable: boolean }) {
  const { base } = useWhere();
  const points = technique.checkpoints;
  const n = points.length;
  return (
    <div className="mt-2 overflow-x-auto pb-1">
      <div style={{ minWidth: n * 112 }}>
        <Ruler from={0} to={n} major={1} spans word={(i) => points[i]?.phase ?? ""} />
        <div className="grid" style={{ gridTemplateColumns: `repeat(${n}, minmax(0, 1fr))` }}>
          {points.map((c) => (
            <div key={c.key} className="flex flex-col gap-1.5 border-l border-hair px-2 pt-2">
              <p className="name leading-tight">
                {editable ? (
                  <Link className="hover:underline" to={`${base}/teaching/edit/checkpoint/${c.key}`}>
                    {c.name}
                  </Link>
                ) : (
                  c.name
                )}
              </p>
              <p className="say text-small leading-snug text-soft">“{c.cue}”</p>
              <div className="mt-auto">
                <Standard checkpoint={c} />
              </div>
            </div>
          ))}
          {points.map((c) => (
            <div key={c.key} className="border-l border-hair px-2 pt-2">
              {technique.faults
                .filter((f) => f.at === c.key)
                .map((f) => (
                  <a
                    key={f.key}
                    href={`#fault-${f.key}`}
                    className="mb-1 flex min-h-6 items-center border-l-2 border-fault pl-1.5 text-small font-semibold leading-tight text-fault pointer-coarse:min-h-11"
                  >
                    {f.name}
                  </a>
                ))}
            </div>
          ))}
        </div>
      </div>
    </div>
  );
}

/** Severity as one, two or three bars. */
export function Severity({ value, safety }: { value: number; safety?: boolean }) {
  if (safety) return <span className="border border-fault px-1 text-label font-bold text-fault">SAFETY</span>;
  return (
    <span className="inline-flex items-end gap-px" role="img" aria-label={`severity ${value} of 3`}>
      {[1, 2, 3].map((i) => (
        <span
          key={i}
          className={clsx("w-1.5 border border-fault", i <= value && "bg-fault")}
          style={{ height: 4 + 3 * i }}
        />
      ))}
    </span>
  );
}

function Faults({ technique, editable }: { technique: Schemas["Technique"]; editable: boolean }) {
  const { base } = useWhere();
  return (
    <section className="sheet p-3" aria-labelledby="faults">
      <div className="flex items-baseline gap-3">
        <h2 id="faults" className="head">
          Faults, and what trains them away
        </h2>
        {editable && (
          <Link className="textual ml-auto" to={`${base}/teaching/edit/fault/new?technique=${technique.key}`}>
            add one of ours
          </Link>
        )}
      </div>
      <table className="mt-1 w-full max-md:block max-md:overflow-x-auto">
        <tbody>
          {safestFirst(technique.faults).map((f) => (
            <tr key={f.key} id={`fault-${f.key}`} className="border-t border-hair align-baseline">
              <td className="w-14 py-1.5 pr-2">
                <Severity value={f.severity} safety={f.safety} />
              </td>
              <td className="name w-[26%] py-1.5 pr-3">
                {editable ? (
                  <Link className="hover:underline" to={`${base}/teaching/edit/fault/${f.key}`}>
                    {f.name}
                  </Link>
                ) : (
                  f.name
                )}
              </td>
              <td className="say py-1.5 pr-3 text-small">
                {f.effect}
                {f.penalty && <b className="text-label"> FOUL</b>}
                {f.say?.[f.at ?? ""] && <span className="block">“{f.say[f.at ?? ""]}”</span>}
                {technique.behind[f.key] && (
                  <span className="block text-soft">May come from: {technique.behind[f.key]}</span>
                )}
              </td>
              <td className="w-[28%] py-1.5 text-small">
                {technique.trained_by[f.key]?.map((d, i) => (
                  <span key={d.key}>
                    {i > 0 && ", "}
                    <Link className="font-semibold underline" to={`${base}/teaching/drills/${d.key}`}>
                      {d.name}
                    </Link>
                  </span>
                ))}
                {!technique.trained_by[f.key] && <span className="text-watch">no drill trains it</span>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** Where somebody may be hurt comes before the rest, which stay in their order. */
const safestFirst = (faults: Schemas["Technique"]["faults"]) =>
  faults.toSorted((a, b) => Number(!!b.safety) - Number(!!a.safety));

/** The ladder of a technique along the ruler: each stage with its drills and gate. */
export function LadderLine({ ladder }: { ladder: Schemas["Ladder"] }) {
  const { base } = useWhere();
  const stages: Schemas["Stage"][] = ladder.stages;
  const n = stages.length;
  return (
    <section className="sheet min-w-0 p-3" aria-labelledby="ladder">
      <div className="flex items-baseline gap-3">
        <h2 id="ladder" className="head">
          Ladder
        </h2>
        <p className={ladder.minutes === undefined ? "label text-fault" : "label"}>{costWords(ladder)}</p>
        <Link className="textual ml-auto" to={`${base}/teaching/ladders?ladder=${ladder.key}`}>
          who stands where
        </Link>
      </div>
      <div className="overflow-x-auto">
        <div style={{ minWidth: n * 120 }}>
          <Ruler from={0} to={n} major={1} spans word={(i) => `stage ${i + 1}`} />
          <ol className="grid" style={{ gridTemplateColumns: `repeat(${n}, minmax(0, 1fr))` }}>
            {stages.map((s) => (
              <li key={s.key} className="border-l border-hair px-2 pt-1.5">
                <p className="name leading-tight">{s.name}</p>
                {s.here
                  .filter((d) => s.called[d] !== s.name)
                  .map((d) => (
                    <Link
                      key={d}
                      className="flex min-h-6 items-center text-small leading-tight underline pointer-coarse:min-h-11"
                      to={`${base}/teaching/drills/${d}`}
                    >
                      {s.called[d]}
                    </Link>
                  ))}
                <p className="mt-1 text-label leading-tight text-soft">{gateWords(s)}</p>
              </li>
            ))}
          </ol>
        </div>
      </div>
    </section>
  );
}

/** What a ladder costs a new player beside what the season has: "34 min of 600 to pass, 4 of 5 reps clean". */
export const costWords = ({ minutes, season_minutes }: Schemas["Ladder"]): string =>
  minutes === undefined
    ? "cannot be climbed with the players the group usually has"
    : `${Math.round(minutes)} min of the season’s ${season_minutes} to pass, 4 of 5 reps clean${
        minutes > season_minutes ? ": more than there is" : ""
      }`;

/** A gate in words: "8 of 10 clean over 2 days, from week 3, at most 6 days". */
export function gateWords(s: Schemas["Stage"]): string {
  return [
    `${s.clean} of ${s.window} clean`,
    s.sessions > 1 ? `over ${s.sessions} days` : "",
    s.from_week > 1 ? `from week ${s.from_week}` : "",
    s.max_sessions ? `at most ${count(s.max_sessions, "day")}` : "",
  ]
    .filter(Boolean)
    .join(", ");
}

function Questions({ technique, library }: Props) {
  const { base } = useWhere();
  const list = library.questions.filter((q) => technique.questions.includes(q.key));
  if (list.length === 0) return null;
  return (
    <section className="sheet p-3" aria-labelledby="questions">
      <h2 id="questions" className="head">
        Where schools differ
      </h2>
      {list.map((q) => (
        <p key={q.key} className="say mt-1">
          {q.asks} <b>{q.schools.find((s) => s.key === q.house)?.name}.</b>{" "}
          <span className="text-soft">{q.why}</span>{" "}
          <Link className="underline" to={`${base}/teaching/schools#${q.key}`}>
            the other school
          </Link>
        </p>
      ))}
    </section>
  );
}
