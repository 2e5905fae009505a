import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { upload, type Schemas } from "@/api/client";
import { FilePick } from "@/kit/Button";
import { Dialog } from "@/kit/Dialog";
import { Select } from "@/kit/Select";
import { LinesRead } from "@/parts/LinesRead";
import { changing, listFiles } from "@/parts/lists";
import { situation } from "./plays";
import { Refusal } from "@/kit/States";

interface Props {
  game: string;
  unit: Schemas["Side"];
  open: boolean;
  onClose: () => void;
  onTake: (lines: Schemas["PlayLine"][]) => void;
}

/** A list of plays with whatever headers: every line is seen before anything is changed. */
export function PlayList({ open, onClose, ...rest }: Props) {
  return (
    <Dialog open={open} onOpenChange={(o) => !o && onClose()} title="Read a list of plays" wide>
      {open && <Reading {...rest} onClose={onClose} />}
    </Dialog>
  );
}

function Reading({ game, unit, onClose, onTake }: Omit<Props, "open">) {
  const [file, setFile] = useState<File>();
  const [columns, setColumns] = useState<Record<string, string>>({});
  const read = useMutation({
    mutationFn: (of: { file: File; columns: Record<string, string> }) => {
      const form = new FormData();
      form.set("file", of.file);
      const query = new URLSearchParams({ unit });
      for (const [name, header] of Object.entries(of.columns)) query.append("columns", `${name}=${header}`);
      return upload<Schemas["PlayLines"]>(`/games/${game}/plays-list?${query.toString()}`, form);
    },
  });
  const lines = read.data?.lines ?? [];
  const mean = (name: string, header: string) => {
    if (!file) return;
    const next = { ...columns, [name]: header };
    setColumns(next);
    read.mutate({ file, columns: next });
  };
  return (
    <div className="grid gap-3">
      <span className="flex flex-wrap items-center gap-2">
        <FilePick
          accept={listFiles}
          onPick={(next) => {
            setFile(next);
            setColumns({});
            read.mutate({ file: next, columns: {} });
          }}
        >
          Choose a CSV or XLSX
        </FilePick>
        {file && <span className="say text-small">{file.name}</span>}
      </span>
      {!file && (
        <p className="say text-small text-soft">
          Whatever its columns are called. A play that is there already, by its number, is changed; nothing is
          until you take the lines.
        </p>
      )}
      {read.error && <Refusal className="text-small">{read.error.message}</Refusal>}
      {read.data && (
        <>
          <details open={read.data.columns.every((c) => !c.header)}>
            <summary className="label cursor-pointer py-1">Which column is what</summary>
            <div className="grid gap-2 pt-1 sm:grid-cols-[minmax(0,1fr)_minmax(0,1fr)_minmax(0,1fr)]">
              {read.data.columns.map((c) => (
                <span key={c.name} className="grid gap-0.5">
                  <span className="label" aria-hidden>
                    {c.name}
                  </span>
                  <Select
                    label={c.name}
                    value={c.header ?? ""}
                    options={[
                      { value: "", name: "none" },
                      ...read.data.headers.filter(Boolean).map((h) => ({ value: h, name: h })),
                    ]}
                    onChange={(h) => mean(c.name, h)}
                  />
                </span>
              ))}
            </div>
          </details>
          <LinesRead
            one="play"
            lines={lines.map((l) => ({
              number: l.line,
              action: l.action,
              title: l.says || !l.play ? undefined : `Play ${l.play.number}`,
              says: l.says,
              column: l.column,
              details: l.play ? [situation(l.play), l.play.call] : [],
            }))}
            onTake={() => {
              onTake(changing(lines));
              onClose();
            }}
            onLeave={onClose}
          />
        </>
      )}
    </div>
  );
}
