import { within } from "@/kit/form/shape";
import { lanesTaken, minutesTaken } from "@/screens/practice/arrange";
import { Button, ButtonLink, FileLink } from "@/kit/Button";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Fragment } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useKeys } from "@/keys/react";
import { OutOfBounds } from "@/app/NotFound";
import { useBaseOn } from "@/app/useBaseOn";
import { useWhere } from "@/app/where";
import { RotationTable } from "@/parts/RotationTable";
import { Loading, Trouble } from "@/kit/States";
import { count, dayMonth, menWords, percent } from "@/parts/words";
import { Drawing } from "./Drawing";
import { TeachingHead } from "./Tabs";

/** One drill: its drawing, how it is run, what it gives the players of today, and where it is used. */
export function DrillView() {
  const { drill: key = "" } = useParams();
  const { group, base } = useWhere();
  const [params, setParams] = useSearchParams();
  const asked = (name: string) => Number(params.get(name)) || undefined;
  const page = useQuery({
    ...queries.drill(group, key, asked("minutes"), asked("lanes")),
    placeholderData: keepPreviousData,
  });
  const library = useQuery(queries.library(group));
  useKeys([{ keys: "p", does: "Print the drill", run: () => window.print() }]);
  if (page.error) return <Trouble error={page.error} again={() => void page.refetch()} />;
  if (!page.data) return <Loading what="the drill" />;
  if (library.data && !library.data.drills.some((x) => x.key === key))
    return (
      <OutOfBounds ways={<ButtonLink to={`${base}/teaching/drills`}>The drills of this group</ButtonLink>}>
        {page.data.drill.name} is not a drill of this group.
      </OutOfBounds>
    );
  const { drill: d, reps } = page.data;
  const set = (name: string, value: number) => {
    if (!within(name === "lanes" ? lanesTaken : minutesTaken, value)) return;
    const next = new URLSearchParams(params);
    next.set(name, String(value));
    setParams(next, { replace: true });
  };
  return (
    <>
      <TeachingHead title={d.name}>
        <Button onClick={() => window.print()}>
          Print <span className="kbd">p</span>
        </Button>
        <FileLink href={`/api/v1/library/export?kind=drill&key=${d.key}`}>As a file</FileLink>
        {library.data?.editable && <ButtonLink to={`${base}/teaching/edit/drill/${d.key}`}>Edit</ButtonLink>}
      </TeachingHead>
      <div className="grid items-start gap-3 screen-only max-lg:grid-cols-[minmax(0,1fr)] lg:grid-cols-[minmax(0,1fr)_450px]">
        <div className="grid gap-3">
          <section className="sheet p-3" aria-label="Set-up">
            <p className="label mb-1">
              {[
                `${d.working} working${d.helping ? ` + ${d.helping} helping` : ""} a lane`,
                count(d.lanes, "lane"),
                `rep ${d.rep_seconds} s, reset ${d.reset_seconds} s`,
                d.sides === 2 ? "left and right" : "",
                `contact ${d.contact}`,
                d.conditioning ? "conditioning" : "",
              ]
                .filter(Boolean)
                .join(" · ")}
            </p>
            <Drawing drill={d} />
          </section>
          <Cautions drill={d} />
          <section className="sheet p-3" aria-label="How it is run">
            <How drill={d} />
            <Cards drill={d} />
          </section>
        </div>
        <div className="grid min-w-0 gap-3">
          <section className="sheet min-w-0 p-3" aria-labelledby="today">
            <h2 id="today" className="head">
              With the players of today
            </h2>
            <p className="mt-2 flex flex-wrap items-center gap-2 text-small">
              <Stepper label="Minutes" value={page.data.minutes} onChange={(v) => set("minutes", v)} />
              <Stepper label="Lanes" value={page.data.lanes} onChange={(v) => set("lanes", v)} />
            </p>
            <p className="mt-2">
              <b className="text-2xl">{reps.min === reps.max ? reps.min : `${reps.min}–${reps.max}`}</b> reps
              a player{reps.sides === 2 && `, at least ${reps.per_side_min} to each side`} ·{" "}
              {count(reps.players, "player", "players")}
              {reps.help_only > 0 && `, ${reps.help_only} of them helping only`} · waiting{" "}
              {percent(reps.waiting_share)}
            </p>
            {reps.advice && <p className="say text-watch">{reps.advice}</p>}
            {page.data.out.map((h) => (
              <p key={h.player_id} className="say text-small text-soft">
                {h.jersey} {h.name}:{" "}
                {h.status === "limited"
                  ? reps.help_only > 0
                    ? "limited, helps where there is no contact"
                    : "limited, kept out"
                  : h.status === "head_hold"
                    ? "head-injury hold, in no drill"
                    : "out"}
              </p>
            ))}
            {page.data.rotation.rows.length > 0 && (
              <div className="mt-3">
                <RotationTable rotation={page.data.rotation} />
              </div>
            )}
          </section>
          <Places page={page.data} />
        </div>
      </div>
      <div className="print-only">
        <p style={{ fontSize: "18pt", fontWeight: 800, borderBottom: "1.5pt solid #000" }}>{d.name}</p>
        <div style={{ display: "grid", gridTemplateColumns: "38% 1fr", gap: "12pt", fontSize: "10pt" }}>
          <Drawing drill={d} />
          <div>
            <How drill={d} />
            <Cards drill={d} />
            <p style={{ border: "1.2pt solid #000", padding: "3pt 5pt", marginTop: "5pt" }}>
              <b>Cautions.</b> {d.cautions}
            </p>
          </div>
        </div>
        <p style={{ margin: "4pt 0" }}>
          {count(page.data.minutes, "minute")}, {count(page.data.lanes, "lane")}: {reps.min} reps a player
        </p>
        <RotationTable rotation={page.data.rotation} />
      </div>
    </>
  );
}

function Cautions({ drill: d }: { drill: Schemas["Drill"] }) {
  return (
    <section className="border-l-4 border-watch bg-sheet p-3" aria-label="Cautions">
      <p className="say">
        <b>Cautions.</b> {d.cautions}
      </p>
      {d.contact !== "air" && (
        <p className="say text-small text-soft">
          Your league&apos;s rules and your medical staff come before this page.
        </p>
      )}
    </section>
  );
}

function How({ drill: d }: { drill: Schemas["Drill"] }) {
  const lines: [string, string][] = [
    ["Who does what", d.roles],
    ["Helping", helpWords(d)],
    ["It starts", d.start ?? ""],
    ["Who goes where", d.rotation ?? ""],
    ["A rep ends", d.ends ?? ""],
    ["Stand", d.coach_stands],
    ["Watch", d.watch],
    ["Self-check", d.self_check?.text ?? ""],
    ["With one coach", d.alone],
    ["Done from", d.from_each?.join(", ") ?? ""],
    ["Must show up in", d.game],
    ["Equipment", d.takes],
    ["Works on", d.works_on.length > 24 ? "" : d.works_on.map((f) => d.called[f]).join(", ")],
    // What twenty techniques are looked at for would be read by nobody: the cards say what is asked.
    ["Checkpoints", d.trains.length > 24 ? "" : d.trains.map((c) => d.called[c]).join("; ")],
    ["Stop when", d.stop_when ?? ""],
  ];
  return (
    <dl className="grid gap-x-6 gap-y-1.5 sm:grid-cols-2">
      {lines
        .filter(([, v]) => v)
        .map(([k, v]) => (
          <div key={k}>
            <dt className="label">{k}</dt>
            <dd className="say">{v}</dd>
          </div>
        ))}
    </dl>
  );
}

/** The cards of a drill in the order in which they are shown. */
function Cards({ drill: d }: { drill: Schemas["Drill"] }) {
  if (!d.cards?.length) return null;
  return (
    <section className="mt-4" aria-labelledby="cards">
      <h2 id="cards" className="head">
        {count(d.cards.length, "card")}
      </h2>
      <ol className="divide-y divide-hair">
        {d.cards.map((c, i) => (
          <li key={c.key} className="grid gap-x-3 py-1 sm:grid-cols-[2rem_1fr_1fr]">
            <b className="max-sm:float-left max-sm:mr-2">{i + 1}</b>
            <span className="say">{c.look}</span>
            <span className="say">
              {c.right}
              <span className="block text-label text-soft">
                {c.asks
                  ? d.called[c.asks]
                  : Object.entries(c.each ?? {})
                      .map(([place, t]) => `${place.toUpperCase()} ${d.called[t]}`)
                      .join(" · ")}
                {c.invites && ` · invites: ${d.called[c.invites]}`}
                {c.men && ` · ${menWords(c.men)}`}
              </span>
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}

/** Who helps, doing what, at which contact: "1 holds the shield and is struck (control)". */
export const helpWords = (d: Schemas["DrillEntry"]): string =>
  (d.help ?? []).map((h) => `${h.men} ${h.role} (${h.contact})`).join("; ");

function Stepper({
  label,
  value,
  onChange,
}: {
  label: string;
  value: number;
  onChange: (v: number) => void;
}) {
  return (
    <span className="inline-flex items-center gap-1">
      <span className="label">{label}</span>
      <Button kind="quiet" aria-label={`Fewer ${label.toLowerCase()}`} onClick={() => onChange(value - 1)}>
        −
      </Button>
      <output className="w-6 text-center font-bold" aria-label={label}>
        {value}
      </output>
      <Button kind="quiet" aria-label={`More ${label.toLowerCase()}`} onClick={() => onChange(value + 1)}>
        +
      </Button>
    </span>
  );
}

function Places({ page }: { page: Schemas["DrillPage"] }) {
  const { base } = useWhere();
  const baseOn = useBaseOn();
  const use = page.use;
  return (
    <section className="sheet p-3" aria-labelledby="places">
      <h2 id="places" className="head">
        Where it stands
      </h2>
      <ul className="say">
        {page.drill.rungs.map((p) => (
          <li key={p.ladder}>
            <Link className="underline" to={`${base}/teaching/ladders?ladder=${p.ladder}`}>
              {p.name}
            </Link>
            , stage {p.number} of {p.of}
          </li>
        ))}
        {page.drill.rungs.length === 0 && <li className="text-soft">On no ladder yet.</li>}
      </ul>
      <p className="say mt-1 text-soft">
        {use.practices === 0 ? (
          "In no practice yet this season."
        ) : (
          <>
            In {count(use.practices, "practice")} this season, {count(use.marks, "mark")}.{" "}
            {use.practices > use.recent.length ? "The latest: " : ""}
            {use.recent.map((d, i) => (
              <Fragment key={d.id}>
                {i > 0 && ", "}
                <Link className="underline" to={`${baseOn(d.date)}/practice/${d.id}`}>
                  {dayMonth(d.date)}
                </Link>
              </Fragment>
            ))}
            .
          </>
        )}
      </p>
    </section>
  );
}
