import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useLocation } from "react-router";
import { Button } from "@/kit/Button";
import { Select } from "@/kit/Select";
import { Loading, Trouble } from "@/kit/States";
import { dayMonth } from "@/parts/words";
import { useAct } from "@/sync/react";

type Facet = Schemas["SchemeFacet"];

/** How a rep is judged: which facets decide whether it is clean, and what each counts in the score. */
export function MarkScheme() {
  const scheme = useQuery(queries.scheme());
  if (scheme.error) return <Trouble error={scheme.error} again={() => void scheme.refetch()} />;
  if (!scheme.data) return <Loading what="how a rep is judged" />;
  return <Judging key={scheme.data.version} scheme={scheme.data} />;
}

const weights = [0, 0.5, 1, 1.5, 2, 3];

function Judging({ scheme }: { scheme: Schemas["Scheme"] }) {
  const [facets, setFacets] = useState<Facet[]>(scheme.facets);
  const act = useAct<Schemas["Scheme"]>();
  const { pathname } = useLocation();
  const changed = JSON.stringify(facets) !== JSON.stringify(scheme.facets);
  const set = (key: string, to: Partial<Facet>) =>
    setFacets((list) =>
      list.map((f) =>
        f.key === key ? { ...f, ...to, clean: (to.weight ?? f.weight) > 0 && (to.clean ?? f.clean) } : f,
      ),
    );
  const decides = facets.some((f) => f.clean);
  const left = scheme.marks - scheme.judged;
  const save = () =>
    act.run(
      {
        act: "scheme",
        version: scheme.version,
        facets: facets.map(({ key, weight, clean }) => ({ key, weight, clean })),
      },
      { says: "How a rep is judged", href: pathname },
    );
  return (
    <section className="sheet p-3" aria-labelledby="judged">
      <h2 id="judged" className="head">
        How a rep is judged
      </h2>
      <p className="say text-small text-soft">
        {scheme.version === 0
          ? "As shipped."
          : `Version ${scheme.version}, by ${scheme.by}${scheme.on ? `, ${dayMonth(scheme.on)}` : ""}.`}{" "}
        A rep is clean when every facet that decides is right. All marks follow a change; each says by which
        version it is judged.
      </p>
      <ul className="mt-2 divide-y divide-hair">
        {facets.map((f) => (
          <li key={f.key} className="flex flex-wrap items-center gap-x-4 gap-y-1 py-2">
            <span className="name w-28">{f.name}</span>
            <span className="flex items-center gap-2 text-small">
              counts
              <Select
                label={`${f.name} counts`}
                value={String(f.weight)}
                disabled={!scheme.editable}
                options={[...new Set([...weights, f.weight])]
                  .sort((a, b) => a - b)
                  .map((w) => ({ value: String(w), name: w === 0 ? "nothing" : String(w) }))}
                onChange={(w) => set(f.key, { weight: Number(w) })}
              />
            </span>
            <label className="flex min-h-6 items-center gap-2 text-small pointer-coarse:min-h-11">
              <input
                type="checkbox"
                checked={f.clean}
                disabled={!scheme.editable || f.weight === 0}
                onChange={(e) => set(f.key, { clean: e.target.checked })}
              />
              <span>
                <span className="sr-only">{f.name} </span>decides whether a rep is clean
              </span>
            </label>
          </li>
        ))}
      </ul>
      {left > 0 && (
        <div className="mt-2">
          <div
            role="progressbar"
            aria-label="Marks judged anew"
            aria-valuemin={0}
            aria-valuemax={scheme.marks}
            aria-valuenow={scheme.judged}
            className="h-2.5 border border-rule"
          >
            <span
              className="block h-full bg-ink"
              style={{ width: `${(100 * scheme.judged) / scheme.marks}%` }}
            />
          </div>
          <p role="status" className="say text-small">
            {scheme.judged.toLocaleString("en")} of {scheme.marks.toLocaleString("en")} marks are judged anew.
          </p>
        </div>
      )}
      {!scheme.editable && <p className="say mt-1 text-small text-soft">The head coach decides this.</p>}
      {scheme.editable && (
        <div className="mt-2 flex flex-wrap items-center gap-3">
          <Button kind="main" off={!changed || !decides || act.busy} onClick={() => void save()}>
            Judge by this
          </Button>
          {changed && (
            <Button kind="quiet" onClick={() => setFacets(scheme.facets)}>
              As it was
            </Button>
          )}
          {act.error && (
            <p role="alert" className="say text-small text-fault">
              {act.error}
            </p>
          )}
          {!decides && (
            <p role="alert" className="say text-small text-fault">
              At least one facet must decide whether a rep is clean.
            </p>
          )}
        </div>
      )}
    </section>
  );
}
