import { Button } from "@/kit/Button";
import { backTo } from "@/kit/focus";
import { Table, type Column } from "@/kit/Table";
import { useInfiniteQuery } from "@tanstack/react-query";
import clsx from "clsx";
import { useEffect, useRef } from "react";
import { Link } from "react-router";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useBaseOn } from "@/app/useBaseOn";
import { useWhere } from "@/app/where";
import { Loading, More, Trouble } from "@/kit/States";
import { count, dayMonth } from "@/parts/words";

interface Props {
  player: string;
  technique?: string;
  fault?: string;
  title: string;
  onClose: () => void;
}

/** The plays and reps behind a number. */
export function EvidenceList({ player, technique, fault, title, onClose }: Props) {
  const { group, week } = useWhere();
  const baseOn = useBaseOn();
  const heading = useRef<HTMLHeadingElement>(null);
  const evidence = useInfiniteQuery(queries.evidence(player, group, week, technique, fault));
  // The number that was pressed has the keyboard again when its reps are closed.
  useEffect(() => {
    const from = document.activeElement;
    return () => backTo(from);
  }, []);
  const there = !!evidence.data;
  // What was asked for comes into sight and has the keyboard.
  useEffect(() => {
    heading.current?.focus();
    heading.current?.scrollIntoView({ block: "start" });
  }, [there, technique, fault]);
  if (evidence.error) return <Trouble error={evidence.error} />;
  if (!evidence.data) return <Loading what="the reps" />;
  const rows = evidence.data.pages.flatMap((p) => p.reps);
  return (
    <section className="sheet min-w-0 p-3" aria-labelledby="evidence">
      <div className="flex items-baseline justify-between gap-3">
        <h2 ref={heading} id="evidence" tabIndex={-1} className="head outline-none">
          Behind the number: {title.toLowerCase()}
        </h2>
        <span className="label">
          {count(rows.length, "rep")}
          {evidence.hasNextPage && " and more"}
        </span>
        <Button kind="quiet" className="ml-auto" onClick={onClose}>
          Close
        </Button>
      </div>
      <Table
        label="Reps"
        rows={rows}
        columns={columnsOf(baseOn)}
        keyOf={(e) => e.id}
        by={{ id: "day", down: true }}
        within="mt-2 max-h-[420px]"
        tall={30}
      />
      <More word="Older reps" of={evidence} />
    </section>
  );
}

const heard = (word: string) => <span className="sr-only">{word}</span>;

/** What is told of a rep. */
const columnsOf = (baseOn: (date: string) => string): Column<Schemas["Evidence"]>[] => [
  { id: "judged", head: heard("Judged"), className: "w-6", cell: (e) => <Shape e={e} /> },
  {
    id: "day",
    head: "Day",
    order: (a, b) => a.date.localeCompare(b.date),
    className: "whitespace-nowrap",
    cell: (e) => (
      <>
        <span className="label">wk {e.week}</span> {dayMonth(e.date)}
      </>
    ),
  },
  {
    id: "where",
    head: "Rep",
    cell: (e) =>
      e.placement_id ? (
        <Link className="underline" to={`${baseOn(e.date)}/practice/${e.practice_id}/mark/${e.placement_id}`}>
          {e.where}
        </Link>
      ) : (
        <span className="font-semibold">{e.where}</span>
      ),
  },
  {
    id: "what",
    head: "What was seen",
    className: "say",
    cell: (e) => (
      <span className={clsx(e.faults.length > 0 && "text-fault")}>
        {e.faults.join(", ") || said(e)}
        {e.measures.map((m) => (
          <span key={m} className="block text-small text-soft">
            {m}
          </span>
        ))}
      </span>
    ),
  },
  { id: "side", head: "Side", className: "whitespace-nowrap text-soft", cell: (e) => e.side },
  {
    id: "standard",
    head: heard("By which standards it was made and by which scheme it is judged"),
    className: "whitespace-nowrap text-soft",
    cell: (e) => (
      <>
        <span aria-hidden>
          v{e.standard}
          {e.scheme > 0 && ` · j${e.scheme}`}
        </span>
        {heard(
          `standards version ${e.standard}, ${e.scheme > 0 ? `scheme version ${e.scheme}` : "the shipped scheme"}`,
        )}
      </>
    ),
  },
  { id: "by", head: "By", className: "text-right text-soft", cell: (e) => e.by },
];

function said(e: Schemas["Evidence"]): string {
  if (!e.graded) return e.reason ?? "not graded";
  if (e.assumed) return "assumed clean";
  return e.clean ? "clean" : "not clean";
}

function Shape({ e }: { e: Schemas["Evidence"] }) {
  if (!e.graded) return <span aria-hidden>–</span>;
  if (e.assumed) return <span aria-hidden>·</span>;
  return (
    <span
      aria-hidden
      className={clsx("inline-block size-2.5", e.clean ? "bg-good" : "border border-fault bg-fault-wash")}
    />
  );
}
