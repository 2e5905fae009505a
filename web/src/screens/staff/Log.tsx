import { useInfiniteQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import { api, data, type Schemas } from "@/api/client";
import { FileLink } from "@/kit/Button";
import { Field } from "@/kit/Field";
import { Select } from "@/kit/Select";
import { Empty, Loading, Trouble, More } from "@/kit/States";
import { Table, type Column } from "@/kit/Table";
import { Title } from "@/kit/Title";
import { moment } from "@/screens/account/moment";

type Line = Schemas["AuditLine"];

const kinds = {
  "": "Everything",
  people: "Players and staff",
  availability: "Availability",
  exports: "What was taken out",
  marks: "Marks and gates",
  plans: "Plans",
  film: "Film",
  teaching: "What is taught",
  club: "The club",
} as const;

type Kind = Exclude<keyof typeof kinds, "">;

const columns: Column<Line>[] = [
  { id: "at", head: "When", className: "whitespace-nowrap", cell: (l) => moment(l.at) },
  { id: "by", head: "Who", heads: true, className: "name", cell: (l) => l.by || "the product" },
  { id: "did", head: "Did", cell: (l) => l.did },
  { id: "of", head: "Of", cell: (l) => l.of },
];

/** Who changed what and when: the head coach's to read. What is looked for is the address. */
export function Log() {
  const [params, setParams] = useSearchParams();
  const { kind = "", person = "", from = "", to = "" } = Object.fromEntries(params);
  const query = {
    kind: (kind in kinds && kind ? kind : undefined) as Kind | undefined,
    person: person || undefined,
    from: from || undefined,
    to: to || undefined,
  };
  const log = useInfiniteQuery({
    queryKey: ["audit", query],
    queryFn: ({ pageParam }) =>
      data(api.GET("/audit", { params: { query: { ...query, before: pageParam || undefined } } })),
    initialPageParam: 0,
    getNextPageParam: (last) => last.next,
    staleTime: 0,
  });
  const set = (name: string, value: string) =>
    setParams(
      (was) => {
        if (value) was.set(name, value);
        else was.delete(name);
        return was;
      },
      { replace: true },
    );
  if (log.error && !log.data) return <Trouble error={log.error} again={() => void log.refetch()} />;
  if (!log.data) return <Loading what="the log" />;
  const lines = log.data.pages.flatMap((p) => p.changes);
  const people = log.data.pages[0]?.people ?? [];
  const address = new URLSearchParams(Object.entries(query).filter(([, v]) => v) as [string, string][]);
  return (
    <>
      <div className="mb-2 flex flex-wrap items-end gap-x-4 gap-y-2">
        <Title page="Who changed what">Who changed what</Title>
        <span className="ml-auto flex gap-2">
          <FileLink href={`/api/v1/audit/export?format=csv&${address}`}>Export CSV</FileLink>
          <FileLink href={`/api/v1/audit/export?format=xlsx&${address}`}>XLSX</FileLink>
        </span>
      </div>
      <div className="mb-2 flex flex-wrap items-end gap-2" role="search">
        <span className="grid gap-0.5">
          <span className="label" aria-hidden>
            What
          </span>
          <Select
            label="What"
            value={kind}
            options={Object.entries(kinds).map(([value, name]) => ({ value, name }))}
            onChange={(v) => set("kind", v)}
          />
        </span>
        <span className="grid gap-0.5">
          <span className="label" aria-hidden>
            Who
          </span>
          <Select
            label="Who"
            value={person}
            options={[
              { value: "", name: "Everybody" },
              ...people.map((p) => ({ value: p.id, name: p.name, more: p.title })),
            ]}
            onChange={(v) => set("person", v)}
          />
        </span>
        {(["from", "to"] as const).map((name) => (
          <Field key={name} label={name === "from" ? "From" : "To"}>
            {(control) => (
              <input
                {...control}
                type="date"
                className="field"
                value={params.get(name) ?? ""}
                onChange={(e) => set(name, e.target.value)}
              />
            )}
          </Field>
        ))}
      </div>
      <div className="sheet overflow-x-auto">
        <Table label="Changes" rows={lines} columns={columns} keyOf={(l) => String(l.number)} />
        {lines.length === 0 && <Empty>Nothing of that was changed.</Empty>}
      </div>
      <More word="Show earlier ones" of={log} />
    </>
  );
}
