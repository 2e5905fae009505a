import { Button, FilePick } from "@/kit/Button";
import { Scroller } from "@/kit/Scroller";
import { Select } from "@/kit/Select";
import { Table, type Column } from "@/kit/Table";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useLocation } from "react-router";
import { v7 as uuid } from "uuid";
import { api, data, upload, type Schemas } from "@/api/client";
import { Title } from "@/kit/Title";
import { useWhere } from "@/app/where";
import { useTeaches } from "@/screens/today/useEditable";
import { listFiles } from "@/parts/lists";
import { count, feet } from "@/parts/words";
import { useAct } from "@/sync/react";
import { Refusal } from "@/kit/States";

type Preview = Schemas["RosterPreview"];

const columnNames: Record<string, string> = {
  jersey: "Jersey",
  first_name: "First name",
  last_name: "Last name",
  name: "Full name",
  position: "Position",
  height: "Height",
  weight: "Weight",
  returning: "Returning",
};

/** Sends the list once; what follows asks for it by its id. */
function send(file: File, group: string): Promise<Preview> {
  const form = new FormData();
  form.set("id", uuid());
  form.set("group", group);
  form.set("file", file);
  return upload<Preview>("/roster/uploads", form);
}

/** Importing the roster: the file as the coach has it, a look at every line, then the good ones in one go. */
export function Import() {
  const { group, base } = useWhere();
  const editable = useTeaches(group);
  const [file, setFile] = useState<File>();
  const [mapping, setMapping] = useState<Record<string, number>>();
  const preview = useMutation({
    mutationFn: (next: { file: File } | { id: string; mapping: Record<string, number> }) =>
      "file" in next
        ? send(next.file, group)
        : data(
            api.POST("/roster/uploads/{id}/preview", {
              params: { path: { id: next.id } },
              body: { group, mapping: next.mapping },
            }),
          ),
    onSuccess: (p) => setMapping(p.mapping),
  });
  const { pathname } = useLocation();
  const doImport = useAct<Preview>();
  const choose = (next: File) => {
    setFile(next);
    setMapping(undefined);
    doImport.reset();
    preview.mutate({ file: next });
  };
  const remap = (column: string, index: number) => {
    if (!preview.data || !mapping) return;
    const next = Object.fromEntries(Object.entries(mapping).filter(([c, i]) => c !== column && i !== index));
    if (index >= 0) next[column] = index;
    setMapping(next);
    preview.mutate({ id: preview.data.id, mapping: next });
  };
  const error = preview.error?.message ?? doImport.error;
  const p = preview.data;
  return (
    <>
      <Title page="Import the roster">Import the roster</Title>
      <p className="say mb-3 max-w-2xl text-soft">
        Your list as you have it, a workbook or CSV: any columns in any order. Comma, semicolon or tab; 07 or
        7A; 6-2, 6&apos;2&quot; or 188 cm. Nothing is changed before you have seen every line, and importing
        it again updates instead of doubling.
      </p>
      {!editable && (
        <p className="say mb-3 text-watch">Only this group&apos;s coach or the head coach can import here.</p>
      )}
      <FilePick kind="main" accept={listFiles} disabled={!editable} onPick={choose}>
        Choose the file
      </FilePick>
      {file && <span className="say ml-3">{file.name}</span>}
      {error && <Refusal className="mt-3">{error}</Refusal>}
      {doImport.answer && (
        <p role="status" className="say mt-3 border border-good bg-good-wash p-2">
          Done: {count(doImport.answer.create, "player")} added, {doImport.answer.update} updated,{" "}
          {doImport.answer.same} already right
          {doImport.answer.propose > 0 && `, ${doImport.answer.propose} proposed to other coaches`}
          {doImport.answer.problems > 0 && `, ${count(doImport.answer.problems, "line")} left out`}.{" "}
          <Link className="underline" to={`${base}/roster`}>
            See the roster
          </Link>
        </p>
      )}
      {p && mapping && !doImport.answer && (
        <>
          <Columns preview={p} mapping={mapping} onChange={remap} />
          <div className="mt-3 flex flex-wrap items-center gap-3">
            <Button
              kind="main"
              off={preview.isPending || doImport.busy || p.create + p.update + p.same + p.propose === 0}
              onClick={() =>
                void doImport.run(
                  { act: "importRoster", upload: p.id, choice: { group, mapping } },
                  { says: `Import of ${file?.name ?? "a list"}`, href: pathname },
                )
              }
            >
              {p.create + p.update > 0 || p.propose === 0
                ? `Import ${count(p.create + p.update, "player")}`
                : `Propose ${count(p.propose, "change")}`}
            </Button>
            <span className="say" role="status">
              {p.create} new, {p.update} changed, {p.same} already right,{" "}
              {p.propose > 0 && `${p.propose} proposed to other coaches, `}
              {p.problems} with a problem
            </span>
            <span className="label">
              {p.encoding}, {p.separator}
              {p.remembered && ", columns as last time"}
            </span>
          </div>
          <Lines lines={p.lines} />
        </>
      )}
    </>
  );
}

function Columns({
  preview,
  mapping,
  onChange,
}: {
  preview: Preview;
  mapping: Record<string, number>;
  onChange: (column: string, index: number) => void;
}) {
  return (
    <fieldset className="sheet mt-4 p-3">
      <legend className="label px-1">Which column is which</legend>
      <div className="grid gap-x-4 gap-y-2 sm:grid-cols-2 lg:grid-cols-4">
        {preview.columns.map((c) => {
          const index = mapping[c] ?? -1;
          return (
            <div key={c} className="grid content-start gap-0.5">
              <span className="label" aria-hidden>
                {columnNames[c] ?? c}
              </span>
              <Select
                label={columnNames[c] ?? c}
                value={String(index)}
                options={[
                  { value: "-1", name: "not in the file" },
                  ...preview.headers.map((h, i) => ({ value: String(i), name: h || `column ${i + 1}` })),
                ]}
                onChange={(v) => onChange(c, Number(v))}
              />
              <span className="say truncate text-small text-soft">
                {index >= 0
                  ? preview.sample
                      .map((row) => row[index] ?? "")
                      .filter(Boolean)
                      .join(", ")
                  : ""}
              </span>
            </div>
          );
        })}
      </div>
    </fieldset>
  );
}

const actions: Record<string, { word: string; shape: string; tone: string }> = {
  create: { word: "new", shape: "+", tone: "text-good" },
  update: { word: "changes", shape: "◧", tone: "text-ink" },
  same: { word: "already right", shape: "=", tone: "text-soft" },
  propose: { word: "proposed to his coach", shape: "→", tone: "text-watch" },
  problem: { word: "left out", shape: "!", tone: "text-fault" },
};

const lineColumns: Column<Schemas["RosterLine"]>[] = [
  { id: "line", head: "Line", cell: (l) => l.line },
  {
    id: "what",
    head: "What happens",
    className: "whitespace-nowrap font-semibold",
    cell: (l) => {
      const a = actions[l.action] ?? actions.problem!;
      return (
        <span className={a.tone}>
          <span aria-hidden>{a.shape} </span>
          {a.word}
        </span>
      );
    },
  },
  { id: "player", head: "Player", heads: true, className: "name", cell: (l) => `${l.jersey} ${l.name}` },
  {
    id: "position",
    head: "Position",
    cell: (l) => (
      <>
        {l.position} {l.group && <span className="label">{l.group}</span>}
      </>
    ),
  },
  {
    id: "height",
    head: "Height",
    className: "whitespace-nowrap",
    cell: (l) => (l.height_in ? feet(l.height_in) : ""),
  },
  { id: "weight", head: "Weight", cell: (l) => l.weight_lb ?? "" },
  {
    id: "why",
    head: "Why",
    className: "say",
    cell: (l) => (
      <>
        {l.reasons.map((r) => r.message).join("; ")}
        {l.changes.join(", ")}
      </>
    ),
  },
];

function Lines({ lines }: { lines: Schemas["RosterLine"][] }) {
  // Problems first: they are what the coach must look at.
  const ordered = [...lines].sort(
    (a, b) => Number(b.action === "problem") - Number(a.action === "problem") || a.line - b.line,
  );
  return (
    <Scroller label="Every line of the list" className="sheet mt-3">
      <Table
        label="Every line of the list"
        rows={ordered}
        columns={lineColumns}
        keyOf={(l) => String(l.line)}
        look={(l) => (l.action === "problem" ? "bg-fault-wash" : undefined)}
      />
    </Scroller>
  );
}
