import { Button, FileLink } from "@/kit/Button";
import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useLocation } from "react-router";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useAct } from "@/sync/react";
import { useWhere } from "@/app/where";
import { Loading, More, Trouble } from "@/kit/States";
import { Table, type Column } from "@/kit/Table";
import { count, dayMonth } from "@/parts/words";
import { MarkScheme } from "./MarkScheme";
import { TakeIn } from "./TakeIn";
import { TeachingHead } from "./Tabs";

/** What the house changed of the shipped library: decisions that wait, changes, versions, and files in and out. */
export function House() {
  const house = useQuery(queries.house());
  if (house.error) return <Trouble error={house.error} again={() => void house.refetch()} />;
  if (!house.data) return <Loading what="the house standards" />;
  const h = house.data;
  return (
    <>
      <TeachingHead title="House standards">
        <FileLink kind="plain" href="/api/v1/library/export?format=yaml">
          Export as YAML
        </FileLink>
        <FileLink href="/api/v1/library/export?format=json">as JSON</FileLink>
        <FileLink href="/api/v1/library/schema">Schema</FileLink>
      </TeachingHead>
      <p className="say mb-3 max-w-prose text-soft">
        Your own layer over the library that ships. An update of ours merges beneath it: what you never
        touched follows, what you changed stays. Every change is a version, and marks keep the one they were
        made by.
      </p>
      <div className="grid items-start gap-3 lg:grid-cols-2">
        <div className="grid gap-3">
          {h.conflicts.length > 0 && <Conflicts list={h.conflicts} />}
          <Changes list={h.changes} />
          <Missing list={h.missing} />
        </div>
        <div className="grid gap-3">
          <MarkScheme />
          <TakeIn />
          <Versions house={h} />
        </div>
      </div>
    </>
  );
}

function Conflicts({ list }: { list: Schemas["HouseConflict"][] }) {
  const { base } = useWhere();
  return (
    <section className="border-l-4 border-watch bg-sheet p-3" aria-label="Decisions that wait">
      <h2 className="head">{count(list.length, "field")} changed by you and by the update</h2>
      <ul className="mt-1">
        {list.map((c) => (
          <li key={c.kind + c.key + c.field} className="say">
            <Link className="underline" to={`${base}/teaching/edit/${c.kind}/${c.key}`}>
              {c.name}
            </Link>
            : {c.field.replaceAll("_", " ")}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Changes({ list }: { list: Schemas["HouseChange"][] }) {
  const { base } = useWhere();
  return (
    <section className="sheet p-3" aria-labelledby="changes">
      <h2 id="changes" className="head">
        {list.length === 0 ? "Nothing changed yet" : count(list.length, "entry", "entries") + " changed"}
      </h2>
      {list.length === 0 && (
        <p className="say text-soft">
          Open any technique, fault, drill or ladder and press Edit. Your words stay yours, and the old ones
          stay findable.
        </p>
      )}
      {list.length > 0 && (
        <Table
          label="What the house has changed"
          rows={list}
          columns={changeColumns(base)}
          keyOf={(c) => `${c.kind} ${c.key}`}
          within="max-h-[70vh]"
        />
      )}
    </section>
  );
}

const changeColumns = (base: string): Column<Schemas["HouseChange"]>[] => [
  {
    id: "kind",
    head: "Kind",
    order: (a, b) => a.kind.localeCompare(b.kind),
    cell: (c) => <span className="label">{c.kind}</span>,
  },
  {
    id: "name",
    head: "Name",
    order: (a, b) => a.name.localeCompare(b.name),
    heads: true,
    className: "font-normal",
    cell: (c) => (
      <Link className="name hover:underline" to={`${base}/teaching/edit/${c.kind}/${c.key}`}>
        {c.name}
      </Link>
    ),
  },
  {
    id: "what",
    head: "What is ours",
    className: "say",
    cell: (c) =>
      c.retired
        ? "not taught here"
        : c.added
          ? "our own"
          : c.fields.map((f) => f.replaceAll("_", " ")).join(", "),
  },
];

function Missing({ list }: { list: string[] }) {
  return (
    <section className="sheet p-3" aria-labelledby="missing">
      <h2 id="missing" className="head">
        {list.length === 0 ? "Nothing is missing" : count(list.length, "gap")}
      </h2>
      <p className="say text-soft">
        {list.length === 0
          ? "Every fault has a drill, every technique a ladder to the game, every drill its cautions."
          : "A house may leave them; the product only says so."}
      </p>
      <ul className="say mt-1 list-disc pl-5 text-small">
        {list.map((m) => (
          <li key={m}>{m}</li>
        ))}
      </ul>
    </section>
  );
}

function Versions({ house }: { house: Schemas["House"] }) {
  const versions = useInfiniteQuery(queries.versions());
  const [asked, setAsked] = useState<number>();
  const { pathname } = useLocation();
  const restore = useAct<Schemas["House"]>();
  const back = async (version: number) => {
    const done = await restore.run(
      { act: "restore", version },
      { says: `Back to version ${version} of the library`, href: pathname },
    );
    if (done) setAsked(undefined);
  };
  return (
    <section className="sheet p-3" aria-labelledby="versions">
      <h2 id="versions" className="head">
        Versions
      </h2>
      {restore.error && (
        <p role="alert" className="say text-fault">
          {restore.error}
        </p>
      )}
      <ol className="mt-1 divide-y divide-hair" aria-label="Versions, newest first">
        {versions.data?.pages
          .flatMap((p) => p.versions)
          .map((v) => (
            <li key={v.version} className="flex items-baseline gap-2 py-1">
              <b className="w-7 text-right">{v.version}</b>
              <span className="say min-w-0 flex-1 text-small">
                {dayMonth(v.at)} {v.by && `${v.by}: `}
                {v.summary}
              </span>
              {v.version !== house.version &&
                (asked === v.version ? (
                  <Button off={restore.busy} onClick={() => void back(v.version)}>
                    Go back to {v.version}
                  </Button>
                ) : (
                  <Button kind="text" onClick={() => setAsked(v.version)}>
                    back to it
                  </Button>
                ))}
            </li>
          ))}
      </ol>
      {versions.error && <Trouble error={versions.error} again={() => void versions.refetch()} />}
      {!versions.data && !versions.error && <Loading what="the versions" />}
      <More word="Older versions" of={versions} />
    </section>
  );
}
