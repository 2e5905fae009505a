import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { v7 as uuid } from "uuid";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useWhere } from "@/app/where";
import { useKeys } from "@/keys/react";
import { Button } from "@/kit/Button";
import { Dialog } from "@/kit/Dialog";
import { Field } from "@/kit/Field";
import { Typed } from "@/kit/Typed";
import { AllNotSaved } from "@/parts/NotSaved";
import { count } from "@/parts/words";
import { useEditable } from "@/screens/today/useEditable";
import { useSheet, type Of } from "@/sync/sheet";

interface Props {
  /** What is asked; empty: all plays. */
  cut: string;
  /** How many plays are in it, and of how many. */
  plays: number;
  of: number;
  /** Why it is not understood. */
  wrong?: string;
  /** Cut-ups worth a look in this game. */
  worth: string[];
}

/** Which plays are gone through: a cut-up is an address, and can be sent. */
export function CutUp({ cut, plays, of, wrong, worth }: Props) {
  const [open, setOpen] = useState(false);
  const [params] = useSearchParams();
  const navigate = useNavigate();
  const go = (next: string) => {
    const to = new URLSearchParams(params);
    if (next) to.set("cut", next);
    else to.delete("cut");
    setOpen(false);
    void navigate({ search: to.toString() });
  };
  useKeys([{ keys: "Shift+c", does: "Which plays: a cut-up", run: () => setOpen(true) }]);
  return (
    <>
      <Button kind={cut ? undefined : "quiet"} onClick={() => setOpen(true)}>
        {cut ? `Cut-up: ${cut}` : "Cut-up"}{" "}
        <span className="kbd max-md:hidden" aria-hidden>
          ⇧C
        </span>
      </Button>
      {cut && (
        <span
          className="say flex flex-wrap items-baseline gap-x-3 text-small"
          role="status"
          aria-label="The cut-up"
        >
          {wrong ? <span className="text-fault">{wrong}</span> : `${plays} of ${count(of, "play")}`}
          <Button kind="text" onClick={() => go("")}>
            All plays
          </Button>
        </span>
      )}
      <Dialog open={open} onOpenChange={setOpen} title="Which plays">
        {open && <Asking {...{ cut, worth, go }} />}
        {open && <Kept cut={cut} onGo={go} />}
      </Dialog>
    </>
  );
}

const cutUpsOf = (group: string): Of<Schemas["CutUpInput"]> => ({
  idOf: (key) => (key.startsWith(`cutUp/${group}/`) ? key.split("/")[2] : undefined),
  keyOf: (id) => `cutUp/${group}/${id}`,
  read: (_key, content) => content as Schemas["CutUpInput"],
  write: (_id, c) => c ?? null,
  alike: (a, b) => a?.name === b?.name && a?.cut === b?.cut,
  says: (c) => `Cut-up ${c.name}`,
});

/** Those that the group's coaches keep by a name, for any game. */
function Kept({ cut, onGo }: { cut: string; onGo: (next: string) => void }) {
  const { group } = useWhere();
  const kept = useQuery(queries.cutUps(group)).data;
  const editable = useEditable(group);
  const kind = useMemo(() => cutUpsOf(group), [group]);
  const server = useMemo(() => new Map((kept ?? []).map(({ id, name, cut }) => [id, { name, cut }])), [kept]);
  const versions = useMemo(() => new Map((kept ?? []).map((c) => [c.id, c.version])), [kept]);
  const editing = useSheet(server, versions, kind);
  const list = [...editing.items].sort(([, a], [, b]) => a.name.localeCompare(b.name));
  const keep = (name: string) => {
    const same = list.find(([, c]) => c.name === name);
    editing.change(new Map(editing.items).set(same?.[0] ?? uuid(), { name, cut }));
  };
  return (
    <section className="mt-3 grid gap-2 border-t border-hair pt-2" aria-label="Kept cut-ups">
      <AllNotSaved editing={editing} />
      {list.length > 0 && (
        <ul className="grid gap-1">
          {list.map(([id, c]) => (
            <li key={id} className="flex flex-wrap items-center gap-2">
              <Button kind="quiet" pressed={c.cut === cut} onClick={() => onGo(c.cut)}>
                {c.name}
              </Button>
              <span className="say text-small text-soft">{c.cut}</span>
              {editable && (
                <Button
                  kind="text"
                  className="ml-auto"
                  onClick={() => {
                    const next = new Map(editing.items);
                    next.delete(id);
                    editing.change(next);
                  }}
                >
                  Forget<span className="sr-only"> {c.name}</span>
                </Button>
              )}
            </li>
          ))}
        </ul>
      )}
      {editable && cut && !list.some(([, c]) => c.cut === cut) && (
        <Typed label={`Keep “${cut}” as`} value="" max={80} onSay={(name) => name && keep(name)} />
      )}
    </section>
  );
}

function Asking({ cut, worth, go }: Pick<Props, "cut" | "worth"> & { go: (next: string) => void }) {
  const [text, setText] = useState(cut);
  return (
    <form
      className="grid gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        go(text.trim());
      }}
    >
      <Field
        label="Plays that are all of this"
        hint={
          <>
            <code>third and long, odd front, 64 at fault</code>: terms with commas between. Down, distance,
            gain, quarter, drive and play with a number (<code>3 or 4</code>, <code>7+</code>,{" "}
            <code>&lt;0</code>, <code>4 to 6</code>); hash, formation, motion, call, front, coverage, result,
            context, spot with a word; player, position, fault, praise, open, unseen, no finish, won, lost,
            right but lost, wrong but won, effort, call echoed, wrong call of what was marked;{" "}
            <code>not</code> before any of them.
          </>
        }
      >
        {(control) => (
          <input
            {...control}
            className="field w-full"
            maxLength={300}
            value={text}
            // The coach asked for the field; it must be ready for his next key.
            autoFocus // eslint-disable-line jsx-a11y/no-autofocus
            onChange={(e) => setText(e.target.value)}
          />
        )}
      </Field>
      <span className="flex flex-wrap gap-1.5">
        <Button kind="main" type="submit">
          Show them <span className="kbd">Enter</span>
        </Button>
        {cut && (
          <Button kind="quiet" onClick={() => go("")}>
            All plays
          </Button>
        )}
      </span>
      {worth.length > 0 && (
        <p className="flex flex-wrap items-center gap-1.5">
          <span className="label">Worth a look</span>
          {worth.map((w) => (
            <Button key={w} kind="quiet" onClick={() => go(w)}>
              {w}
            </Button>
          ))}
        </p>
      )}
    </form>
  );
}
