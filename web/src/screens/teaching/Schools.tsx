import { Button } from "@/kit/Button";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useWhere } from "@/app/where";
import { Loading, Trouble } from "@/kit/States";
import { TeachingHead } from "./Tabs";
import { useEntry } from "./useEntry";

/** Where schools of teaching differ: each with its reason; the staff picks the house variant and says why. */
export function Schools() {
  const { group } = useWhere();
  const library = useQuery(queries.library(group));
  if (library.error) return <Trouble error={library.error} again={() => void library.refetch()} />;
  if (!library.data) return <Loading what="the schools" />;
  return (
    <>
      <TeachingHead title="Where schools differ" />
      <p className="say mb-3 max-w-prose text-soft">
        Both are taught somewhere with success. Pick one for this house and write why; the standards, faults
        and drills that follow from it switch with it.
      </p>
      <div className="grid gap-3">
        {library.data.questions.map((q) => (
          <QuestionView key={q.key + q.house + q.why} question={q} />
        ))}
      </div>
    </>
  );
}

function QuestionView({ question: q }: { question: Schemas["Question"] }) {
  const { base } = useWhere();
  const [picked, setPicked] = useState(q.house);
  const [why, setWhy] = useState(q.why);
  const entry = useEntry("question", q.key);
  const changed = picked !== q.house || why !== q.why;
  const save = () => void entry.save({ ...entry.data?.fields, house: picked, why });
  return (
    <section id={q.key} className="sheet p-3" aria-label={q.name}>
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h2 className="head">{q.name}</h2>
        <span className="label">
          {q.techniques?.map((t, i) => (
            <span key={t}>
              {i > 0 && ", "}
              <Link className="underline" to={`${base}/teaching?technique=${t}`}>
                {q.called[t]}
              </Link>
            </span>
          )) ?? "the whole staff"}
        </span>
        {q.shipped && <span className="label ml-auto">as shipped</span>}
      </div>
      <p className="say">{q.asks}</p>
      <div role="radiogroup" aria-label={q.asks} className="mt-2 grid gap-2 md:grid-cols-2">
        {q.schools.map((s) => (
          <label
            key={s.key}
            className={`block border p-2 ${picked === s.key ? "border-2 border-ink" : "border-rule"} ${entry.data?.editable ? "cursor-pointer" : ""}`}
          >
            <input
              type="radio"
              name={q.key}
              className="mr-2"
              checked={picked === s.key}
              disabled={!entry.data?.editable}
              onChange={() => setPicked(s.key)}
            />
            <span className="name text-head">{s.name}</span>
            {q.house === s.key && <span className="label ml-2 text-flag">taught here</span>}
            <p className="say">{s.reason}</p>
            {!!q.brings[s.key]?.length && (
              <p className="mt-1 text-small text-soft">Brings: {q.brings[s.key]!.join(" · ")}</p>
            )}
          </label>
        ))}
      </div>
      <label className="label mt-2 block" htmlFor={`why-${q.key}`}>
        Why here
      </label>
      <input
        id={`why-${q.key}`}
        className="field w-full"
        value={why}
        disabled={!entry.data?.editable}
        aria-invalid={entry.field === "fields.why"}
        onChange={(e) => setWhy(e.target.value)}
      />
      {entry.message && (
        <p role="alert" className="say mt-1 text-small text-fault">
          {entry.message}
        </p>
      )}
      {changed && (
        <p className="mt-2 flex gap-2">
          <Button kind="main" off={entry.saving} onClick={save}>
            Teach it so
          </Button>
          <Button
            kind="quiet"
            onClick={() => {
              setPicked(q.house);
              setWhy(q.why);
            }}
          >
            Leave it
          </Button>
        </p>
      )}
    </section>
  );
}
