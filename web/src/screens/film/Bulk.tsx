import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useWhere } from "@/app/where";
import { Button } from "@/kit/Button";
import { Field } from "@/kit/Field";
import { Select } from "@/kit/Select";
import { count } from "@/parts/words";
import { known, labels, words } from "./plays";

type Play = Schemas["PlayInput"];
type Word = (typeof words)[number];

interface Props {
  game: string;
  items: ReadonlyMap<string, Play>;
  /** Whose plays one may change. */
  mine: Play["unit"][];
  only?: ReadonlySet<string>;
  onOnly: (ids: ReadonlySet<string> | undefined) => void;
  onChange: (next: ReadonlyMap<string, Play>) => void;
}

/** One label of many plays corrected at once: those of a cut-up, as one step that is undone as one. */
export function Bulk({ game, items, mine, only, onOnly, onChange }: Props) {
  const { group } = useWhere();
  const [open, setOpen] = useState(false);
  const [text, setText] = useState("");
  const [asked, setAsked] = useState("");
  const [label, setLabel] = useState<Word>("front");
  const [said, setSaid] = useState("");
  const cut = useQuery({ ...queries.cut(game, group, asked), enabled: asked !== "" });
  const found = asked && cut.data ? new Set(cut.data.plays) : undefined;
  const shown = [...items].filter(([id, p]) => mine.includes(p.unit) && (!found || found.has(id)));
  const show = (ids: ReadonlySet<string> | undefined) => ids !== only && onOnly(ids);
  const close = () => {
    setOpen(false);
    setAsked("");
    setText("");
    show(undefined);
  };
  if (!open)
    return (
      <p className="mb-2">
        <Button kind="quiet" onClick={() => setOpen(true)}>
          Correct many at once
        </Button>
      </p>
    );
  const changing = shown.filter(([, p]) => p[label] !== said.trim());
  return (
    <section className="mb-3 grid gap-2 border-b border-hair pb-3" aria-label="Correct many at once">
      <form
        className="flex flex-wrap items-end gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          setAsked(text.trim());
        }}
      >
        <Field
          label="Plays that are all of this"
          hint="As a cut-up: front odd, down 3. Empty: all of them."
          error={cut.error?.message}
        >
          {(control) => (
            <input
              {...control}
              className="field w-72 max-w-full"
              maxLength={300}
              value={text}
              onChange={(e) => setText(e.target.value)}
            />
          )}
        </Field>
        <Button type="submit">Find them</Button>
        {found && !only && (
          <Button kind="quiet" onClick={() => show(found)}>
            Show just these
          </Button>
        )}
        {only && (
          <Button kind="quiet" onClick={() => show(undefined)}>
            Show all
          </Button>
        )}
      </form>
      <span className="flex flex-wrap items-end gap-2">
        <Select
          label="Which label"
          value={label}
          options={words.map((w) => ({ value: w, name: labels[w] }))}
          onChange={(w) => setLabel(w as Word)}
        />
        <Field label={`${labels[label]} is`}>
          {(control) => (
            <input
              {...control}
              className="field w-48 max-w-full"
              maxLength={60}
              list="bulk-said"
              value={said}
              onChange={(e) => setSaid(e.target.value)}
            />
          )}
        </Field>
        <datalist id="bulk-said">
          {known(items.values(), label).map((w) => (
            <option key={w} value={w} />
          ))}
        </datalist>
        <Button
          kind="main"
          off={changing.length === 0 || cut.isLoading}
          onClick={() => {
            const next = new Map(items);
            for (const [id, p] of changing) next.set(id, { ...p, [label]: said.trim() });
            onChange(next);
          }}
        >
          Correct {count(changing.length, "play")}
        </Button>
        <Button kind="text" onClick={close}>
          Done
        </Button>
      </span>
      <p className="say text-small text-soft" role="status" aria-label="What is chosen">
        {count(shown.length, "play")} chosen; {shown.length - changing.length} of them say so already.
      </p>
    </section>
  );
}
