import { useState } from "react";
import type { Schemas } from "@/api/client";
import { Button } from "@/kit/Button";
import { Dialog } from "@/kit/Dialog";
import { Field, Wrong } from "@/kit/Field";
import { numberOf } from "@/kit/form/fields";
import { NotSaved } from "@/parts/NotSaved";
import { useSave } from "@/sync/react";
import { changed } from "@/kit/reorder";
import { after } from "./days";

type Input = Schemas["SeasonInput"];

interface Props {
  season: Schemas["Season"];
  open: boolean;
  onClose: () => void;
}

/** The first day, the weeks and the phases of the season. */
export function DatesWindow({ open, onClose, season }: Props) {
  return (
    <Dialog open={open} onOpenChange={(o) => !o && onClose()} title="Dates and phases">
      {open && <Dates season={season} onClose={onClose} />}
    </Dialog>
  );
}

/** What staffs often call them; their own words are written over. */
const usual = ["Off-season", "Spring", "Camp", "Season"];

function Dates({ season, onClose }: Omit<Props, "open">) {
  const { start, weeks, phases, version } = season;
  const [input, setInput] = useState({ start, weeks: String(weeks), phases });
  const save = useSave<Input>("season", "season");
  const n = numberOf(input.weeks);
  const put = async () => {
    if (n === null) return;
    const content = { start: input.start, weeks: Math.round(n), phases: input.phases };
    const done = save.conflict
      ? await save.settle(content)
      : await save.save(content, version, { says: "The dates of the season", href: location.pathname });
    if (done.is === "saved") onClose();
  };
  const change = (i: number, part: Partial<Schemas["SeasonPhase"]>) =>
    setInput({ ...input, phases: changed(input.phases, i, part) });
  const add = () => {
    const last = input.phases.at(-1);
    const name = usual.find((u) => !input.phases.some((p) => p.name === u)) ?? "Phase";
    const from = last ? after(last.from, 28) : input.start;
    setInput({ ...input, phases: [...input.phases, { name, from }] });
  };
  return (
    <form
      className="grid gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        void put();
      }}
    >
      {save.conflict && (
        <NotSaved trouble={save.conflict} onMine={() => void put()} onTheirs={() => save.drop()} />
      )}
      <div className="grid grid-cols-2 gap-2">
        <Field label="First day">
          {(control) => (
            <input
              {...control}
              type="date"
              className="field w-full min-w-0"
              value={input.start}
              onChange={(e) => e.target.value && setInput({ ...input, start: e.target.value })}
            />
          )}
        </Field>
        <Field label="Weeks" error={n === null || n < 1 || n > 60 ? "1 to 60 weeks" : undefined}>
          {(control) => (
            <input
              {...control}
              inputMode="numeric"
              className="field w-full text-right"
              value={input.weeks}
              onChange={(e) => setInput({ ...input, weeks: e.target.value })}
            />
          )}
        </Field>
      </div>
      <fieldset className="grid gap-1.5">
        <legend className="label mb-1">Phases, each until the next</legend>
        {input.phases.map((p, i) => (
          <span key={i} className="grid grid-cols-[minmax(0,1fr)_9.5rem_auto] items-center gap-1.5">
            <input
              aria-label={`Phase ${i + 1}`}
              className="field min-w-0"
              maxLength={30}
              value={p.name}
              onChange={(e) => change(i, { name: e.target.value })}
            />
            <input
              aria-label={`Phase ${i + 1} begins`}
              type="date"
              className="field min-w-0"
              value={p.from}
              onChange={(e) => e.target.value && change(i, { from: e.target.value })}
            />
            <Button
              kind="text"
              onClick={() => setInput({ ...input, phases: input.phases.filter((_, j) => j !== i) })}
            >
              Take out<span className="sr-only"> phase {i + 1}</span>
            </Button>
          </span>
        ))}
        {input.phases.length < 12 && (
          <span>
            <Button kind="quiet" onClick={add}>
              One more phase
            </Button>
          </span>
        )}
      </fieldset>
      {save.refused && <Wrong>{save.refused.message}</Wrong>}
      <span className="flex gap-2">
        <Button kind="main" type="submit" off={save.busy || n === null}>
          Save the dates
        </Button>
        <Button
          kind="quiet"
          onClick={() => {
            if (save.refused || save.conflict) save.drop();
            onClose();
          }}
        >
          Leave them
        </Button>
      </span>
    </form>
  );
}
