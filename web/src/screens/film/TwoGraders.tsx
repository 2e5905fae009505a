import { useQuery } from "@tanstack/react-query";
import clsx from "clsx";
import { useEffect, useRef, useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useWhere } from "@/app/where";
import { useKeys } from "@/keys/react";
import { Button, ButtonLink } from "@/kit/Button";
import { Select } from "@/kit/Select";
import { Empty, Loading, Trouble } from "@/kit/States";
import { Title } from "@/kit/Title";
import { count, filmTitle, percent, weekdayDate } from "@/parts/words";
import { words } from "@/screens/marks/cell";
import { fromServer } from "@/screens/marks/useMarking";
import { PlayLine } from "./PlayScore";
import { useSettling, type Settling } from "./useSettling";

type Agreement = Schemas["Agreement"];
type Apart = Schemas["Apart"];

/** What two coaches said of the same plays, side by side: how far they agree, and where they differ, to settle it. */
export function TwoGraders() {
  const { game = "" } = useParams();
  const { group, base } = useWhere();
  const [params, setParams] = useSearchParams();
  const found = useQuery(
    queries.agreement(game, group, params.get("a") ?? undefined, params.get("b") ?? undefined),
  );
  if (found.error && !found.data) return <Trouble error={found.error} again={() => void found.refetch()} />;
  if (!found.data) return <Loading what="what both said" />;
  const r = found.data;
  const title = filmTitle(r);
  const [a, b] = r.graders;
  const choose = (x: string, y: string) => setParams({ a: x, b: y }, { replace: true });
  return (
    <>
      <div className="mb-3 flex flex-wrap items-end gap-3">
        <div className="min-w-0">
          <p className="label">
            {weekdayDate(r.date)} · {count(r.both, "mark")} both made · {count(r.apart.length, "difference")}
          </p>
          <Title page={`Two graders: ${title}`}>{title}</Title>
        </div>
        <span className="ml-auto flex flex-wrap gap-1.5">
          <ButtonLink to={`${base}/film/${game}`}>Grade</ButtonLink>
          {r.editable && <ButtonLink to={`${base}/film/${game}?blind=1`}>Grade blind</ButtonLink>}
        </span>
      </div>
      {!a || !b ? (
        <Empty
          action={
            r.editable ? (
              <ButtonLink to={`${base}/film/${game}?blind=1`}>Grade it blind</ButtonLink>
            ) : undefined
          }
        >
          {a
            ? `${a.name} alone has graded this game. Once a second coach has, what both said stands here side by side.`
            : "Nobody has graded this game yet. Once two coaches have, what both said stands here side by side."}
        </Empty>
      ) : (
        <>
          {r.graders.length > 2 && (
            <p className="mb-3 flex flex-wrap items-center gap-2">
              {[a, b].map((g, i) => (
                <Select
                  key={i}
                  label={i === 0 ? "The one coach" : "The other"}
                  value={g.id}
                  options={r.graders.map((x) => ({ value: x.id, name: x.name }))}
                  onChange={(id) => {
                    const other = i === 0 ? b.id : a.id;
                    const kept = id === other ? g.id : other; // the other's place is taken by who was here
                    choose(i === 0 ? id : kept, i === 0 ? kept : id);
                  }}
                />
              ))}
            </p>
          )}
          <HowFar report={r} />
          <Differences key={`${a.id} ${b.id}`} report={r} />
        </>
      )}
    </>
  );
}

const facetNames: Record<string, string> = {
  assignment: "Assignment",
  technique: "Technique",
  finish: "Finish",
};

function HowFar({ report: r }: { report: Agreement }) {
  const rows = [
    ...r.facets.filter((f) => f.n > 0).map((f) => ({ ...f, name: facetNames[f.facet ?? ""] })),
    { ...r.overall, name: "All" },
  ];
  return (
    <section className="sheet mb-3 max-w-3xl p-3" aria-label="How far they agree">
      <h2 className="head mb-1">How far they agree</h2>
      <table className="w-full border-collapse">
        <thead>
          <tr>
            {["Facet", "Both judged", "Alike", "By chance", "Beyond chance"].map((c, i) => (
              <th
                key={c}
                scope="col"
                className={clsx("label border-b border-ink px-1", i === 0 ? "text-left" : "text-right")}
              >
                {c}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((f) => (
            <tr key={f.name}>
              <th scope="row" className="border-b border-hair px-1 py-0.5 text-left font-semibold">
                {f.name}
              </th>
              {[
                f.n || "–",
                f.observed === undefined ? "–" : percent(f.observed),
                f.expected === undefined ? "–" : percent(f.expected),
                f.kappa === undefined ? "–" : f.kappa.toFixed(2).replace("-", "−"),
              ].map((v, i) => (
                <td key={i} className="border-b border-hair px-1 text-right">
                  {v}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="say mt-2 text-small text-soft">
        Beyond chance: 1 when they always say the same, 0 when they agree no more than chance would
        (Cohen&apos;s kappa). There is none where both said one thing of every play.
      </p>
    </section>
  );
}

function Differences({ report: r }: { report: Agreement }) {
  const settling = useSettling(r);
  const [at, setAt] = useState(0);
  const list = r.apart;
  const here = Math.min(at, list.length - 1);
  const x = list[here];
  useKeys(
    list.length === 0
      ? []
      : [
          {
            keys: "ArrowDown ]",
            does: "Next difference",
            run: () => setAt(Math.min(here + 1, list.length - 1)),
          },
          { keys: "ArrowUp [", does: "Difference before", run: () => setAt(Math.max(here - 1, 0)) },
          ...(r.editable && x
            ? [
                {
                  keys: "1",
                  does: `Settle as ${r.graders[0]!.name} said`,
                  run: () => settling.toggle(x, "a"),
                },
                {
                  keys: "2",
                  does: `Settle as ${r.graders[1]!.name} said`,
                  run: () => settling.toggle(x, "b"),
                },
              ]
            : []),
        ],
  );
  return (
    <section aria-label="Where they differ">
      <h2 className="head mb-1">Where they differ</h2>
      {list.length === 0 ? (
        <Empty>
          {r.both > 0
            ? "They said the same of every play that both graded."
            : "No play was graded by both of them."}
        </Empty>
      ) : (
        <ol className="grid gap-2">
          {list.map((d, i) => (
            <Difference
              key={`${d.player_id} ${d.play.id} ${d.a.technique_key}`}
              d={d}
              report={r}
              settling={settling}
              here={i === here}
              onHere={() => setAt(i)}
            />
          ))}
        </ol>
      )}
    </section>
  );
}

const on: Record<Schemas["Apart"]["on"][number], string> = {
  work: "which technique it was",
  graded: "whether it can be graded",
  assignment: "assignment",
  technique: "technique",
  finish: "finish",
  faults: "what was wrong",
};

function Difference({
  d,
  report: r,
  settling,
  here,
  onHere,
}: {
  d: Apart;
  report: Agreement;
  settling: Settling;
  here: boolean;
  onHere: () => void;
}) {
  const { base } = useWhere();
  const line = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (here) line.current?.scrollIntoView({ block: "nearest" });
  }, [here]);
  const player = r.players.find((p) => p.id === d.player_id);
  const techniqueOf = (key: string) => r.techniques.find((t) => t.key === key);
  const said = (m: Schemas["GameMark"]) =>
    words(
      { ...fromServer(m.mark), rep: 0 },
      (f) => techniqueOf(m.technique_key)?.faults.find((x) => x.key === f)?.name ?? f,
    );
  const as = settling.of(d);
  const keys = [...new Set([d.a.technique_key, d.b.technique_key])];
  return (
    <li ref={line} className={clsx("sheet p-3", here && "border-flag")} aria-current={here || undefined}>
      <p>
        <b>
          Play {d.play.play.number}, {player ? `${player.jersey} ${player.last_name}` : ""}
        </b>{" "}
        <PlayLine play={d.play.play} />
      </p>
      <p className="say text-small text-soft">
        They differ on {d.on.map((x) => on[x]).join(", ")}.{" "}
        {keys.map((k) => (
          <Link key={k} className="textual mr-2" to={`${base}/teaching?technique=${k}`}>
            What is right in {techniqueOf(k)?.name ?? k}
          </Link>
        ))}
      </p>
      <div className="mt-2 grid gap-2 sm:grid-cols-2">
        {(["a", "b"] as const).map((who, i) => (
          <div key={who} className="flex flex-wrap items-center gap-x-3 gap-y-1 border border-hair p-2">
            <p className="say min-w-0">
              <span className="label mr-2">{r.graders[i]?.name}</span>
              {keys.length > 1 && `${techniqueOf(d[who].technique_key)?.name}: `}
              {said(d[who])}
              {d[who].mark.note && ` – “${d[who].mark.note}”`}
            </p>
            {r.editable && (
              <Button
                className="ml-auto"
                pressed={as.side === who}
                onClick={() => {
                  onHere();
                  settling.toggle(d, who);
                }}
              >
                {as.side === who ? "Settled so" : "Settle so"}
                <span className="sr-only">
                  : play {d.play.play.number}, {player?.last_name}, as {r.graders[i]?.name} said
                </span>
                {here && (
                  <span className="kbd max-md:hidden" aria-hidden>
                    {i + 1}
                  </span>
                )}
              </Button>
            )}
          </div>
        ))}
      </div>
      {(as.waiting || as.refused || as.settled) && (
        <p className={clsx("say mt-1 text-small", as.refused && "text-fault")} role="status">
          {as.refused
            ? "It could not be saved; press “not saved” above to see why."
            : as.waiting
              ? "Not saved yet."
              : as.side
                ? "Settled: this stands for the club."
                : `Settled otherwise: ${said(d.settled!)}.`}
        </p>
      )}
    </li>
  );
}
