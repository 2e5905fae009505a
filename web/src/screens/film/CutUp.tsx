import { useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { useKeys } from "@/keys/react";
import { Button } from "@/kit/Button";
import { Dialog } from "@/kit/Dialog";
import { Field } from "@/kit/Field";
import { count } from "@/parts/words";

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
      </Dialog>
    </>
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
            context, spot with a word; player, position, fault, praise, open, unseen, lost of what was marked;{" "}
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
