import { ButtonLink } from "@/kit/Button";
import { Scroller } from "@/kit/Scroller";
import { Table, type Column } from "@/kit/Table";
import { choices } from "@/kit/form/shape";
import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { Link, useSearchParams } from "react-router";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useWhere } from "@/app/where";
import { Empty, Loading, Trouble } from "@/kit/States";
import { count } from "@/parts/words";
import { entryShape } from "./fields";
import { TeachingHead } from "./Tabs";

/** Every drill of the group, with what it trains and what it needs. */
export function Drills() {
  const { group, base } = useWhere();
  const library = useQuery(queries.library(group));
  const [params, setParams] = useSearchParams();
  const words = params.get("q") ?? "";
  const found = useMemo(() => {
    const want = words.toLowerCase().split(/\s+/).filter(Boolean);
    return (library.data?.drills ?? []).filter((d) => {
      const text = [
        d.name,
        ...d.aliases,
        ...d.techniques.map((t) => t.name),
        ...d.works_on.map((f) => d.called[f]),
        d.contact,
        d.takes,
      ]
        .join(" ")
        .toLowerCase();
      return want.every((w) => text.includes(w));
    });
  }, [library.data, words]);
  if (library.error) return <Trouble error={library.error} again={() => void library.refetch()} />;
  if (!library.data) return <Loading what="the drills" />;
  return (
    <>
      <TeachingHead title={count(library.data.drills.length, "drill")}>
        <input
          className="field w-64 max-w-full"
          placeholder="Name, technique, fault, contact, equipment"
          aria-label="Narrow the drills"
          value={words}
          onChange={(e) => setParams(e.target.value ? { q: e.target.value } : {}, { replace: true })}
        />
        {library.data.editable && <ButtonLink to={`${base}/teaching/edit/drill/new`}>Add a drill</ButtonLink>}
      </TeachingHead>
      {found.length === 0 ? (
        <Empty>No drill has these words.</Empty>
      ) : (
        <Scroller label="Drills" className="sheet">
          <Table label="Drills" rows={found} columns={columnsOf(base)} keyOf={(d) => d.key} />
        </Scroller>
      )}
    </>
  );
}

type Drill = Schemas["Drill"];

const byText = (of: (d: Drill) => string) => (a: Drill, b: Drill) => of(a).localeCompare(of(b));
const byNumber = (of: (d: Drill) => number) => (a: Drill, b: Drill) => of(a) - of(b);
const contacts = choices(entryShape("drill"), "contact");

/** What the list shows of a drill; contact is sorted from the least to the most. */
const columnsOf = (base: string): Column<Drill>[] => [
  {
    id: "drill",
    head: "Drill",
    order: byText((d) => d.name),
    heads: true,
    className: "font-normal",
    cell: (d) => (
      <>
        <Link className="name text-head hover:underline" to={`${base}/teaching/drills/${d.key}`}>
          {d.name}
        </Link>
        <span className="label block normal-case tracking-normal">
          {d.techniques.length > 2
            ? `${d.techniques.length} techniques`
            : d.techniques.map((t) => t.name).join(", ")}
        </span>
      </>
    ),
  },
  {
    id: "works",
    head: "Works on",
    className: "say max-w-72",
    cell: (d) => d.works_on.map((f) => d.called[f]).join(", "),
  },
  {
    id: "stands",
    head: "Stands on",
    cell: (d) =>
      d.rungs.length > 2
        ? count(d.rungs.length, "ladder")
        : d.rungs.map((p) => `${p.name}, stage ${p.number} of ${p.of}`).join("; "),
  },
  {
    id: "contact",
    head: "Contact",
    order: byNumber((d) => contacts.indexOf(d.contact)),
    cell: (d) => d.contact,
  },
  {
    id: "players",
    head: "Players a lane",
    order: byNumber((d) => d.working + d.helping),
    className: "text-right",
    cell: (d) => `${d.working}${d.helping > 0 ? ` + ${d.helping}` : ""}`,
  },
  {
    id: "lanes",
    head: "Lanes",
    order: byNumber((d) => d.lanes),
    className: "text-right",
    cell: (d) => d.lanes,
  },
  {
    id: "rep",
    head: "Rep + reset",
    order: byNumber((d) => d.rep_seconds + (d.reset_seconds ?? 0)),
    className: "whitespace-nowrap text-right",
    cell: (d) => `${d.rep_seconds} + ${d.reset_seconds ?? 0} s`,
  },
  {
    id: "minutes",
    head: "Minutes",
    order: byNumber((d) => d.minutes),
    className: "text-right",
    cell: (d) => d.minutes,
  },
];
