import clsx from "clsx";
import { Button } from "@/kit/Button";
import { Scroller } from "@/kit/Scroller";
import { changing } from "./lists";
import { count } from "./words";

/** A line of a list that was read, and what taking it would do. */
export interface LineRead {
  number: number;
  action: "create" | "update" | "same" | "wrong";
  title?: string;
  /** What is wrong with it, and in which column. */
  says?: string;
  column?: string;
  details: (string | undefined)[];
}

interface Props {
  /** What a line is: a call, a play. */
  one: string;
  lines: LineRead[];
  onTake: () => void;
  onLeave: () => void;
}

const does = { create: "new", update: "changes", same: "already there", wrong: "already there" };

/** A list that was read, line by line: it is seen before anything is changed. */
export function LinesRead({ one, lines, onTake, onLeave }: Props) {
  const of = (action: LineRead["action"]) => lines.filter((l) => l.action === action).length;
  const good = changing(lines).length;
  return (
    <>
      <p role="status" className="say text-small">
        {count(of("create"), `new ${one}`)}, {of("update")} changed, {of("same")} already there, {of("wrong")}{" "}
        with a problem
        {of("wrong") > 0 && good > 0 && ": these are left out"}
      </p>
      <Scroller label="The lines" className="max-h-64">
        <ul className="grid gap-1 text-small">
          {lines.map((l) => (
            <li
              key={l.number}
              className={clsx("border-l-[3px] pl-2", l.says ? "border-fault" : "border-rule")}
            >
              <span className="label">Line {l.number}</span> {l.title !== undefined && <b>{l.title}</b>}{" "}
              {l.says ? (
                <span className="text-fault">
                  {l.column && `${l.column}: `}
                  {l.says}
                </span>
              ) : (
                <span className="text-soft">
                  {does[l.action]}
                  {l.details.filter(Boolean).map((w) => ` · ${w}`)}
                </span>
              )}
            </li>
          ))}
        </ul>
      </Scroller>
      <span className="flex gap-2">
        <Button kind="main" off={good === 0} onClick={onTake}>
          Take {count(good, one)}
        </Button>
        <Button kind="quiet" onClick={onLeave}>
          Leave it
        </Button>
      </span>
    </>
  );
}
