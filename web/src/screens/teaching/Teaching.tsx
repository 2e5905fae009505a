import { useQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useWhere } from "@/app/where";
import { Ruler, at } from "@/parts/Ruler";
import { Empty, Loading, Trouble } from "@/parts/States";

/** What good looks like, what goes wrong, what fixes it, and in which order it is taught. */
export function Teaching() {
  const { group } = useWhere();
  const library = useQuery(queries.library(group));
  const [params, setParams] = useSearchParams();
  if (library.error) return <Trouble error={library.error} again={() => void library.refetch()} />;
  if (!library.data) return <Loading what="the library" />;
  const lib = library.data;
  const technique = lib.techniques.find((t) => t.key === params.get("technique")) ?? lib.techniques[0];
  if (!technique)
    return (
      <Empty>
        The shipped library covers the offensive line and the secondary so far. This group has no techniques
        yet.
      </Empty>
    );
  return (
    <>
      <h1 className="title mb-3">Teaching</h1>
      <div className="grid items-start gap-4 md:grid-cols-[210px_minmax(0,1fr)]">
        <nav aria-label="Techniques" className="sheet">
          {lib.techniques.map((t) => (
            <button
              key={t.key}
              type="button"
              aria-current={t.key === technique.key ? "page" : undefined}
              onClick={() => setParams({ technique: t.key }, { replace: true })}
              className={`name block w-full border-b border-hair px-3 py-2 text-left ${t.key === technique.key ? "bg-ink text-invert" : ""}`}
            >
              {t.name}
            </button>
          ))}
        </nav>
        <TechniqueView technique={technique} library={lib} />
      </div>
    </>
  );
}

function TechniqueView({
  technique,
  library,
}: {
  technique: Schemas["Technique"];
  library: Schemas["Library"];
}) {
  const n = technique.checkpoints.length;
  const drills = library.drills.filter((d) => d.technique === technique.key);
  const ladder = library.ladders.find((l) => l.technique === technique.key);
  return (
    <div className="grid gap-4">
      <section className="sheet p-3">
        <h2 className="title">{technique.name}</h2>
        {technique.aliases.length > 0 && <p className="label">also {technique.aliases.join(", ")}</p>}
        <p className="say mt-1 max-w-prose">{technique.summary}</p>
        <div className="mt-3 overflow-x-auto">
          <div className="min-w-[640px]">
            <Ruler from={0} to={n} major={1} spans word={(i) => technique.checkpoints[i]?.phase ?? ""} />
            <div className="relative grid" style={{ gridTemplateColumns: `repeat(${n}, minmax(0, 1fr))` }}>
              {technique.checkpoints.map((c, i) => (
                <div key={c.key} className="border-l border-hair p-2" style={{ left: at(i, 0, n) }}>
                  <p className="name leading-tight">{c.name}</p>
                  <p className="say mt-1 text-small text-soft">“{c.cue}”</p>
                  {technique.faults
                    .filter((f) => f.checkpoint === c.key)
                    .map((f) => (
                      <p key={f.key} className="mt-2 border-l-2 border-fault pl-2 text-small">
                        <span className="name text-fault">{f.name}</span>
                        {f.safety && <b className="ml-1 text-label text-fault">SAFETY</b>}
                        <span className="say block text-soft">{f.effect}</span>
                        <span className="label block normal-case tracking-normal">
                          Trained by {f.drills.join(", ")}
                        </span>
                      </p>
                    ))}
                </div>
              ))}
            </div>
          </div>
        </div>
      </section>
      {ladder && (
        <section className="sheet p-3">
          <h3 className="head">Ladder</h3>
          <ol className="mt-1 grid gap-1">
            {ladder.stages.map((s, i) => (
              <li key={s.key} className="say">
                <b className="name">
                  {i + 1} {s.name}
                </b>
                : {s.game ? "in games" : s.drills.join(", ")}. Pass with {s.clean} of {s.window} clean over{" "}
                {s.sessions === 1 ? "one day" : `${s.sessions} days`}
                {s.from_week > 1 && `, from week ${s.from_week}`}
                {s.max_sessions && `; at most ${s.max_sessions} days here`}.
              </li>
            ))}
          </ol>
        </section>
      )}
      {drills.map((d) => (
        <DrillCard key={d.key} drill={d} />
      ))}
    </div>
  );
}

function DrillCard({ drill: d }: { drill: Schemas["Drill"] }) {
  const lines: [string, string][] = [
    ["Who does what", d.roles],
    ["Stand", d.coach_at],
    ["Watch", d.watch],
    ["Self-check", d.self_check],
    ["Alone", d.alone],
    ["Shows up in", d.game],
    ["Equipment", d.equipment],
    ["Works on", d.works_on.join(", ")],
  ];
  return (
    <section className="sheet p-3" aria-label={d.name}>
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h3 className="head">{d.name}</h3>
        <span className="label">
          {d.working} working{d.helping > 0 && ` + ${d.helping} helping`} a lane · {d.lanes} lanes ·{" "}
          {d.rep_seconds} s rep, {d.reset_seconds} s reset · {d.contact} · {d.space_length_yd} ×{" "}
          {d.space_width_yd} yd{d.sides === 2 && " · left and right"}
        </span>
      </div>
      <dl className="mt-2 grid gap-x-6 gap-y-1 sm:grid-cols-2">
        {lines.map(([k, v]) => (
          <div key={k}>
            <dt className="label inline">{k} </dt>
            <dd className="say inline">{v}</dd>
          </div>
        ))}
      </dl>
      <p className="say mt-2 border-l-2 border-watch pl-2">
        <b>Cautions.</b> {d.cautions}
      </p>
    </section>
  );
}
