import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { v7 as uuid } from "uuid";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { Button } from "@/kit/Button";
import { Dialog } from "@/kit/Dialog";
import { Field } from "@/kit/Field";
import { SelectField } from "@/kit/Select";
import { Loading } from "@/kit/States";
import { AllNotSaved } from "@/parts/NotSaved";
import { useSheet, type Of } from "@/sync/sheet";
import { aliased } from "./plays";

type Word = Schemas["LabelWordInput"];

const kind: Of<Word> = {
  idOf: (key) => (key.startsWith("labelWord/") ? key.split("/")[1] : undefined),
  keyOf: (id) => `labelWord/${id}`,
  read: (_key, content) => content as Word,
  write: (_id, w) => w ?? null,
  alike: (a, b) => a?.label === b?.label && a?.said === b?.said && a?.means === b?.means,
  says: (w) => `${w.label}: ${w.said} is ${w.means}`,
};

interface Props {
  open: boolean;
  onClose: () => void;
}

/** What other words mean: whoever types, reads or asks for one means the staff's own. */
export function LabelWords({ open, onClose }: Props) {
  const words = useQuery({ ...queries.labelWords(), enabled: open }).data;
  return (
    <Dialog open={open} onOpenChange={(o) => !o && onClose()} title="Words of the labels">
      {open && (words ? <Editing words={words} /> : <Loading what="the words" />)}
    </Dialog>
  );
}

function Editing({ words }: { words: Schemas["LabelWords"] }) {
  const server = useMemo(
    () => new Map(words.aliases.map(({ id, label, said, means }) => [id, { label, said, means } as Word])),
    [words.aliases],
  );
  const versions = useMemo(() => new Map(words.aliases.map((w) => [w.id, w.version])), [words.aliases]);
  const editing = useSheet(server, versions, kind);
  const [label, setLabel] = useState<Word["label"]>("Front");
  const [said, setSaid] = useState("");
  const [means, setMeans] = useState("");
  const list = [...editing.items].sort(
    ([, a], [, b]) => a.label.localeCompare(b.label) || a.said.localeCompare(b.said),
  );
  const used = words.used.find((u) => u.label === label)?.words ?? [];
  // Told once, by the answer: what is read anew says nothing of it.
  const [told, setTold] = useState<ReadonlyMap<string, number>>(new Map());
  const news = words.aliases.filter((w) => w.corrected && !told.has(w.id));
  if (news.length > 0) setTold(new Map([...told, ...news.map((w) => [w.id, w.corrected!] as const)]));
  const corrected = [...told.values()].reduce((n, m) => n + m, 0);
  const text = (name: string, value: string, set: (v: string) => void) => (
    <Field label={name}>
      {(control) => (
        <input
          {...control}
          className="field w-40 max-w-full"
          required
          maxLength={60}
          list="words-used"
          value={value}
          onChange={(e) => set(e.target.value)}
        />
      )}
    </Field>
  );
  return (
    <div className="grid gap-3">
      <p className="say text-small">
        Another word for one of yours: plays that say it are corrected, and whoever types it, reads it from a
        list or asks for it in a cut-up means yours. The other names of a call are written at the call.
      </p>
      <AllNotSaved
        editing={editing}
        says={(u) => u.mine && <p className="say text-small">{kind.says(u.mine)}</p>}
      />
      <form
        className="flex flex-wrap items-end gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          if (!said.trim() || !means.trim()) return;
          editing.change(
            new Map(editing.items).set(uuid(), { label, said: said.trim(), means: means.trim() }),
          );
          setSaid("");
          setMeans("");
          e.currentTarget.querySelector("input")?.focus(); // the next one
        }}
      >
        <SelectField
          label="Label"
          value={label}
          options={aliased.map((l) => ({ value: l, name: l }))}
          onChange={(l) => setLabel(l as Word["label"])}
        />
        {text("Who writes", said, setSaid)}
        {text("means", means, setMeans)}
        <datalist id="words-used">
          {used.map((w) => (
            <option key={w} value={w} />
          ))}
        </datalist>
        <Button type="submit">Add it</Button>
      </form>
      {corrected > 0 && (
        <p role="status" className="say text-small text-good">
          {corrected === 1 ? "One play was" : `${corrected} plays were`} corrected; what stood there is in
          their history.
        </p>
      )}
      {list.length === 0 ? (
        <p className="say text-soft">Every word means itself.</p>
      ) : (
        <ul className="grid gap-1" aria-label="What words mean">
          {list.map(([id, w]) => (
            <li key={id} className="flex flex-wrap items-baseline gap-2">
              <span className="label w-20">{w.label}</span>
              <span>
                “{w.said}” is <b>{w.means}</b>
              </span>
              <Button
                kind="text"
                className="ml-auto"
                onClick={() => {
                  const next = new Map(editing.items);
                  next.delete(id);
                  editing.change(next);
                }}
              >
                Forget<span className="sr-only"> {w.said}</span>
              </Button>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
