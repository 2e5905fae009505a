import type { ReactNode } from "react";
import type { Schemas } from "@/api/client";
import { Button } from "@/kit/Button";
import { Dialog } from "@/kit/Dialog";
import { count } from "@/parts/words";
import { leftOf, type Cells, type Place } from "./grading";

interface Props {
  sheet: Schemas["GameSheet"];
  cells: Cells;
  assumed: number;
  open: boolean;
  onClose: () => void;
  onGo: (place: Place) => void;
  onDone: () => void;
}

/** What is left of a game before the coach leaves it: each with a way to the first of it. */
export function Finishing({ open, onClose, ...rest }: Props) {
  return (
    <Dialog open={open} onOpenChange={(o) => !o && onClose()} title="What is left of this game">
      {open && <Lines {...rest} />}
    </Dialog>
  );
}

function Lines({ sheet, cells, assumed, onGo, onDone }: Omit<Props, "open" | "onClose">) {
  const left = leftOf(sheet, cells);
  const named = ({ row, at }: Place) => {
    const p = row === undefined ? undefined : sheet.players[row];
    const play = `play ${sheet.plays[at]?.play.number}`;
    return p ? `${play}, ${p.jersey} ${p.last_name}` : play;
  };
  const line = (list: Place[], says: ReactNode) =>
    list[0] && (
      <li className="flex flex-wrap items-center gap-2 border-b border-hair py-1">
        <span className="say">{says}</span>
        <Button className="ml-auto" onClick={() => onGo(list[0]!)}>
          To {named(list[0])}
        </Button>
      </li>
    );
  return (
    <>
      <ul>
        {line(left.unmarked, `${count(left.unmarked.length, "play")} not marked yet.`)}
        {line(
          left.open,
          left.open.length === 1
            ? "1 open question: it charges nobody until it is answered."
            : `${left.open.length} open questions: they charge nobody until they are answered.`,
        )}
        {line(
          left.unseen,
          `${count(left.unseen.length, "mark")} unseen: another view may settle what it was.`,
        )}
      </ul>
      <p className="say mt-2 text-small text-soft">
        {count(assumed, "mark")} {assumed === 1 ? "is" : "are"} assumed clean, because you moved on.
      </p>
      <p className="mt-3">
        <Button kind="main" data-first onClick={onDone}>
          Leave it so, to Today <span className="kbd">Enter</span>
        </Button>
      </p>
    </>
  );
}
