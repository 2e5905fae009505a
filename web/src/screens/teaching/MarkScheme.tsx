import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useLocation } from "react-router";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { Button } from "@/kit/Button";
import { Select } from "@/kit/Select";
import { Loading, Trouble } from "@/kit/States";
import { dayMonth } from "@/parts/words";
import type { SchemeBody } from "@/sync/kinds";
import { useAct } from "@/sync/react";

type Facet = Schemas["SchemeFacet"];
type Kind = Schemas["Judged"]["kind"];

/** How a rep is judged: by facets, plus and minus or points; for the club, and for groups that judge otherwise. */
export function MarkScheme() {
  const scheme = useQuery(queries.scheme());
  if (scheme.error) return <Trouble error={scheme.error} again={() => void scheme.refetch()} />;
  if (!scheme.data) return <Loading what="how a rep is judged" />;
  return <Judging key={scheme.data.version} scheme={scheme.data} />;
}

const weights = [0, 0.5, 1, 1.5, 2, 3];
const kinds: { value: Kind; name: string }[] = [
  { value: "facets", name: "Facets" },
  { value: "plus_minus", name: "Plus and minus" },
  { value: "points", name: "Points" },
];
const points = [2, 3, 4, 5, 6, 7, 8, 9, 10];

/** What is chosen of a way of judging. */
interface Chosen {
  kind: Kind;
  max: number;
  clean_at: number;
  by_result: boolean;
  facets: Facet[];
}

const chosenOf = (s: Chosen): Chosen => ({
  kind: s.kind,
  max: s.max || 4,
  clean_at: s.clean_at || 3,
  by_result: s.by_result,
  // What ships, where it is judged by no facets.
  facets: s.facets.some((f) => f.clean)
    ? s.facets
    : s.facets.map((f) => ({
        ...f,
        weight: f.key === "finish" ? 0.5 : 1,
        clean: f.key !== "finish",
      })),
});

const bodyOf = (c: Chosen, group?: string): SchemeBody => ({
  group,
  kind: c.kind,
  by_result: c.by_result,
  ...(c.kind === "points" && { max: c.max, clean_at: Math.min(c.clean_at, c.max) }),
  facets: c.kind === "facets" ? c.facets.map(({ key, weight, clean }) => ({ key, weight, clean })) : [],
});

function Judging({ scheme }: { scheme: Schemas["Scheme"] }) {
  const act = useAct<Schemas["Scheme"]>();
  const { pathname } = useLocation();
  const left = scheme.marks - scheme.judged;
  const save = (body: SchemeBody) =>
    void act.run(
      { act: "scheme", version: scheme.version, body },
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
        All marks follow a change; each says by which version it is judged.
      </p>
      <Way of={scheme} scheme={scheme} busy={act.busy} onSave={(c) => save(bodyOf(c))} />
      {scheme.groups.length > 0 && (
        <details className="mt-2" open={scheme.groups.some((g) => g.own)}>
          <summary className="label cursor-pointer py-1">Groups that judge otherwise</summary>
          <ul className="divide-y divide-hair">
            {scheme.groups.map((g) => (
              <Own key={g.group} {...{ g, scheme, save }} busy={act.busy} />
            ))}
          </ul>
        </details>
      )}
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
      {act.error && (
        <p role="alert" className="say text-small text-fault">
          {act.error}
        </p>
      )}
    </section>
  );
}

/** A group judges as the club does, or in a way of its own. */
function Own({
  g,
  scheme,
  busy,
  save,
}: {
  g: Schemas["GroupScheme"];
  scheme: Schemas["Scheme"];
  busy: boolean;
  save: (body: SchemeBody) => void;
}) {
  return (
    <li className="py-2">
      <span className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <span className="name w-40">{g.name}</span>
        {scheme.editable ? (
          <Select
            label={`${g.name} is judged`}
            value={g.own ? "own" : "club"}
            options={[
              { value: "club", name: "as the club" },
              { value: "own", name: "in a way of its own" },
            ]}
            onChange={(to) =>
              save(to === "own" ? bodyOf(chosenOf(g), g.group) : { group: g.group, own: false, facets: [] })
            }
          />
        ) : (
          <span className="say text-small">{g.own ? "in a way of its own" : "as the club"}</span>
        )}
      </span>
      {g.own && (
        <Way of={g} scheme={scheme} name={g.name} busy={busy} onSave={(c) => save(bodyOf(c, g.group))} />
      )}
    </li>
  );
}

interface WayProps {
  of: Chosen;
  scheme: Schemas["Scheme"];
  /** Whose; not given: the club's. */
  name?: string;
  busy: boolean;
  onSave: (c: Chosen) => void;
}

function Way({ of, scheme, name, busy, onSave }: WayProps) {
  const { editable } = scheme;
  const was = chosenOf(of);
  const [c, setC] = useState(was);
  const whose = name ? `${name}: ` : "";
  const changed = JSON.stringify(c) !== JSON.stringify(was);
  const decides = c.kind !== "facets" || c.facets.some((f) => f.clean);
  // Of a way that is not chosen yet: what becomes of the marks that are made. Of a chosen one: of all made otherwise.
  const sound =
    c.kind !== of.kind || scheme.version > 0
      ? [
          ...new Set(
            scheme.switching
              .filter((x) => x.by === c.kind && (c.kind === of.kind || x.made === of.kind))
              .map((x) => x.says),
          ),
        ]
      : [];
  const put = (part: Partial<Chosen>) => setC({ ...c, ...part });
  const set = (key: string, to: Partial<Facet>) =>
    put({
      facets: c.facets.map((f) =>
        f.key === key ? { ...f, ...to, clean: (to.weight ?? f.weight) > 0 && (to.clean ?? f.clean) } : f,
      ),
    });
  return (
    <div className="mt-2 grid gap-2">
      <span className="flex flex-wrap items-center gap-x-4 gap-y-1 text-small">
        <span className="flex items-center gap-2">
          judged by
          <Select
            label={`${whose}Judged by`}
            value={c.kind}
            disabled={!editable}
            options={kinds}
            onChange={(kind) => put({ kind: kind as Kind })}
          />
        </span>
        {c.kind === "points" && (
          <>
            <span className="flex items-center gap-2">
              0 to
              <Select
                label={`${whose}Most points`}
                value={String(c.max)}
                disabled={!editable}
                options={points.map((n) => ({ value: String(n), name: String(n) }))}
                onChange={(n) => put({ max: Number(n), clean_at: Math.min(c.clean_at, Number(n)) })}
              />
            </span>
            <span className="flex items-center gap-2">
              clean from
              <Select
                label={`${whose}Clean from`}
                value={String(c.clean_at)}
                disabled={!editable}
                options={[1, ...points]
                  .filter((n) => n <= c.max)
                  .map((n) => ({ value: String(n), name: String(n) }))}
                onChange={(n) => put({ clean_at: Number(n) })}
              />
            </span>
          </>
        )}
      </span>
      {c.kind === "facets" && (
        <ul className="divide-y divide-hair">
          {c.facets.map((f) => (
            <li key={f.key} className="flex flex-wrap items-center gap-x-4 gap-y-1 py-2">
              <span className="name w-28">{f.name}</span>
              <span className="flex items-center gap-2 text-small">
                counts
                <Select
                  label={`${whose}${f.name} counts`}
                  value={String(f.weight)}
                  disabled={!editable}
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
                  disabled={!editable || f.weight === 0}
                  onChange={(e) => set(f.key, { clean: e.target.checked })}
                />
                <span>
                  <span className="sr-only">
                    {whose}
                    {f.name}{" "}
                  </span>
                  decides whether a rep is clean
                </span>
              </label>
            </li>
          ))}
        </ul>
      )}
      {c.kind === "plus_minus" && (
        <p className="say text-small text-soft">
          A rep is plus until a fault of the player’s own is named, or you say minus.
        </p>
      )}
      {c.kind === "points" && (
        <p className="say text-small text-soft">
          A rep has all points, less what its faults weigh, until you say otherwise.
        </p>
      )}
      <label className="flex min-h-6 items-center gap-2 text-small pointer-coarse:min-h-11">
        <input
          type="checkbox"
          checked={c.by_result}
          disabled={!editable}
          onChange={(e) => put({ by_result: e.target.checked })}
        />
        <span>
          <span className="sr-only">{whose}</span>where it is said who won, that decides: a lost rep done
          right is not clean
        </span>
      </label>
      {sound.length > 0 && <p className="say text-small text-soft">{sound.join(" ")}</p>}
      {editable && (
        <div className="flex flex-wrap items-center gap-3">
          <Button kind="main" off={!changed || !decides || busy} onClick={() => onSave(c)}>
            Judge by this<span className="sr-only">{name && `: ${name}`}</span>
          </Button>
          {changed && (
            <Button kind="quiet" onClick={() => setC(was)}>
              As it was
            </Button>
          )}
          {!decides && (
            <p role="alert" className="say text-small text-fault">
              At least one facet must decide whether a rep is clean.
            </p>
          )}
        </div>
      )}
    </div>
  );
}
