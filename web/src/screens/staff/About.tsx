import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Dialog } from "@/kit/Dialog";
import { Button } from "@/kit/Button";
import { Loading, Trouble } from "@/kit/States";
import { Table, type Column } from "@/kit/Table";
import { Title } from "@/kit/Title";
import { count } from "@/parts/words";

interface Part {
  name: string;
  version: string;
  licence: string;
  texts: number[];
}

interface List {
  parts: Part[];
  texts: string[];
}

async function licences(): Promise<List> {
  const answer = await fetch("/licences.json");
  if (!answer.ok) throw new Error("The list of licences does not come");
  return (await answer.json()) as List;
}

/** What the product is made of, and under which licences. */
export function About() {
  const list = useQuery({ queryKey: ["licences"], queryFn: licences, staleTime: Infinity });
  const [shown, setShown] = useState<Part>();
  if (list.error) return <Trouble error={list.error} again={() => void list.refetch()} />;
  if (!list.data) return <Loading what="the licences" />;
  const { parts, texts } = list.data;
  const columns: Column<Part>[] = [
    { id: "name", head: "Part", heads: true, className: "name break-all", cell: (p) => p.name },
    { id: "version", head: "Version", className: "max-sm:hidden", cell: (p) => p.version },
    {
      id: "licence",
      head: "Licence",
      order: (a, b) => a.licence.localeCompare(b.licence),
      cell: (p) =>
        p.texts.length > 0 ? (
          <Button kind="text" onClick={() => setShown(p)}>
            {p.licence}
            <span className="sr-only"> of {p.name}</span>
          </Button>
        ) : (
          p.licence
        ),
    },
  ];
  return (
    <>
      <Title page="About">About Nine Yard</Title>
      <p className="say mb-3 mt-1 max-w-2xl text-soft">
        Nine Yard stands on {count(parts.length, "part")} that others have made and given away. Each ships
        with its licence.
      </p>
      <div className="sheet max-w-4xl">
        <Table
          label="Parts and licences"
          rows={parts}
          columns={columns}
          keyOf={(p) => `${p.name} ${p.version}`}
        />
      </div>
      {shown && (
        <Dialog
          open
          wide
          onOpenChange={(o) => !o && setShown(undefined)}
          title={`${shown.name}: ${shown.licence}`}
        >
          {shown.texts.map((t) => (
            <pre key={t} className="mb-4 whitespace-pre-wrap text-small">
              {texts[t]}
            </pre>
          ))}
        </Dialog>
      )}
    </>
  );
}
