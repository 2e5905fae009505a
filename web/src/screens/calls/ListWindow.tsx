import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, data, upload, type Schemas } from "@/api/client";
import { Button, FilePick } from "@/kit/Button";
import { Dialog } from "@/kit/Dialog";
import { Field } from "@/kit/Field";
import { LinesRead } from "@/parts/LinesRead";
import { changing, listFiles } from "@/parts/lists";
import type { Editing } from "./useCalls";
import { Refusal } from "@/kit/States";

interface Props {
  open: boolean;
  editing: Editing;
  onClose: () => void;
}

/** Calls typed one a line, or read from a list: every line is seen before anything is changed. */
export function ListWindow({ open, editing, onClose }: Props) {
  return (
    <Dialog open={open} onOpenChange={(o) => !o && onClose()} title="Type or read a list of calls" wide>
      {open && <Reading editing={editing} onClose={onClose} />}
    </Dialog>
  );
}

function Reading({ editing, onClose }: Omit<Props, "open">) {
  const [text, setText] = useState("");
  const [file, setFile] = useState<File>();
  const read = useMutation({
    mutationFn: (of: { text: string } | { file: File }) => {
      if ("text" in of) return data(api.POST("/calls/typed", { body: of }));
      const form = new FormData();
      form.set("file", of.file);
      return upload<Schemas["CallLines"]>("/calls/list", form);
    },
  });
  const lines = read.data?.lines ?? [];
  const good = changing(lines);
  const take = () => {
    const next = new Map(editing.items);
    for (const l of good) if (l.id && l.call) next.set(l.id, l.call);
    editing.change(next);
    onClose();
  };
  return (
    <div className="grid gap-2">
      <Field
        label="One line a call"
        hint={
          <>
            <code>
              Lead left | run | OL Base block &gt; bag [LG, RG]; TE Base block | 12 | 20 Oct | power
            </code>
            : name, kind, needs, per cent of the snaps, day, other names, tags, side. A need is a group, a
            technique by any of its names, after <code>&gt;</code> the stage, in brackets the spots.
          </>
        }
      >
        {(control) => (
          <textarea
            {...control}
            rows={7}
            spellCheck={false}
            maxLength={100_000}
            className="field w-full font-mono text-small leading-5 whitespace-pre"
            value={text}
            onChange={(e) => {
              setText(e.target.value);
              setFile(undefined);
              read.reset();
            }}
            onKeyDown={(e) => {
              if (e.key === "Enter" && (e.ctrlKey || e.metaKey)) {
                e.preventDefault();
                if (good.length > 0) take();
                else if (text.trim()) read.mutate({ text });
              }
            }}
          />
        )}
      </Field>
      <span className="flex flex-wrap items-center gap-1.5">
        <Button off={!text.trim() || read.isPending} onClick={() => read.mutate({ text })}>
          Read the lines <span className="kbd">Ctrl+Enter</span>
        </Button>
        <FilePick
          accept={listFiles}
          onPick={(next) => {
            setFile(next);
            read.mutate({ file: next });
          }}
        >
          Read a CSV or XLSX
        </FilePick>
        {file && <span className="say text-small">{file.name}</span>}
      </span>
      {read.error && <Refusal className="text-small">{read.error.message}</Refusal>}
      {read.data && (
        <LinesRead
          one="call"
          lines={lines.map((l) => ({ ...l, title: l.name, details: [l.fields[2]] }))}
          onTake={take}
          onLeave={onClose}
        />
      )}
    </div>
  );
}
