import { Button } from "@/kit/Button";
import { useState, type ReactNode } from "react";
import { AlertDialog, AlertWay } from "@/kit/AlertDialog";

/** A part of something that two have changed: as the coach has it, and as it was saved meanwhile. */
export interface Part {
  key: string;
  name: string;
  mine: ReactNode;
  theirs: ReactNode;
}

interface Props {
  title: string;
  message: string;
  parts: Part[];
  /** Saves what was chosen part by part: for each key whether it is the coach's own. */
  onChosen: (mine: ReadonlySet<string>) => void;
  onTheirs: () => void;
}

/**
 * Two have changed the same thing: both versions, part by part, and the choice. It stands before everything else
 * until the coach has decided; nothing of his is lost before.
 */
export function Both({ title, message, parts, onChosen, onTheirs }: Props) {
  const [mine, setMine] = useState<ReadonlySet<string>>(() => new Set(parts.map((p) => p.key)));
  const pick = (key: string, own: boolean) => {
    const next = new Set(mine);
    if (own) next.add(key);
    else next.delete(key);
    setMine(next);
  };
  const all = parts.every((p) => mine.has(p.key));
  return (
    <AlertDialog
      title={title}
      says={`${message} Nothing of yours is lost: choose what holds.`}
      ways={
        <>
          <AlertWay main>
            <Button kind="main" off={mine.size === 0 && parts.length > 0} onClick={() => onChosen(mine)}>
              {all ? "Keep mine" : "Save what is chosen"}
            </Button>
          </AlertWay>
          <AlertWay>
            <Button onClick={onTheirs}>Take theirs</Button>
          </AlertWay>
        </>
      }
    >
      <div className="mt-3 grid gap-2">
        {parts.map((p) => (
          <fieldset key={p.key} className="border border-rule p-2">
            <legend className="label px-1">{p.name}</legend>
            <div className="grid gap-2 sm:grid-cols-2">
              <Choice name={p.key} word="Yours" checked={mine.has(p.key)} onPick={() => pick(p.key, true)}>
                {p.mine}
              </Choice>
              <Choice
                name={p.key}
                word="Theirs, saved"
                checked={!mine.has(p.key)}
                onPick={() => pick(p.key, false)}
              >
                {p.theirs}
              </Choice>
            </div>
          </fieldset>
        ))}
      </div>
    </AlertDialog>
  );
}

interface ChoiceProps {
  name: string;
  word: string;
  checked: boolean;
  onPick: () => void;
  children: ReactNode;
}

function Choice({ name, word, checked, onPick, children }: ChoiceProps) {
  return (
    // Its text is the choice.
    // eslint-disable-next-line jsx-a11y/label-has-associated-control
    <label className="flex min-h-7 items-start gap-2 text-small">
      <input type="radio" className="mt-1" name={`both-${name}`} checked={checked} onChange={onPick} />
      <span className="min-w-0">
        <span className="font-semibold">{word}</span>
        <span className="say block break-words whitespace-pre-wrap">{children}</span>
      </span>
    </label>
  );
}
