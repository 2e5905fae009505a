import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { api, data, type Schemas } from "@/api/client";
import type { Core } from "@/core";
import { Button } from "@/kit/Button";
import { Dialog } from "@/kit/Dialog";
import { Field, Wrong } from "@/kit/Field";
import { numberOf } from "@/kit/form/fields";
import { clock, count } from "@/parts/words";

interface Props {
  practice: string;
  groups: Schemas["GroupRef"][];
  core: Core;
  sheet: Schemas["ScriptSheet"];
  /** From which minute on may be changed. */
  from: number;
  open: boolean;
  onClose: () => void;
  onTake: (periods: Schemas["ScriptPeriod"][]) => void;
}

/** The practice runs late: what is shortened, so that what is left is worth most. */
export function LateWindow({ open, onClose, ...rest }: Props) {
  return (
    <Dialog open={open} onOpenChange={(o) => !o && onClose()} title="It runs late">
      {open && <Proposal {...rest} onClose={onClose} />}
    </Dialog>
  );
}

function Proposal({ practice, groups, core, sheet, from: begin, onTake, onClose }: Omit<Props, "open">) {
  const [lost, setLost] = useState("10");
  const [at, setAt] = useState(clock(sheet.start_minute + begin));
  const m = /^(\d{1,2}):(\d{2})$/.exec(at.trim());
  const from = m ? Number(m[1]) * 60 + Number(m[2]) - sheet.start_minute : undefined;
  const minutes = numberOf(lost);
  const late = useMemo(
    () =>
      from !== undefined && minutes !== null && minutes >= 1
        ? core.late(sheet, from, Math.round(minutes))
        : undefined,
    [core, sheet, from, minutes],
  );
  const costs = useCosts(practice, late);
  const dropped = late?.cuts.filter((c) => c.to === 0) ?? [];
  return (
    <form
      className="grid gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (!late || late.wrong) return;
        onTake(late.periods);
        onClose();
      }}
    >
      <div className="grid grid-cols-2 gap-2">
        <Field label="Minutes lost">
          {(control) => (
            <input
              {...control}
              inputMode="numeric"
              className="field w-full text-right"
              value={lost}
              onChange={(e) => setLost(e.target.value)}
            />
          )}
        </Field>
        <Field label="From" hint="What has begun before is left alone.">
          {(control) => (
            <input {...control} className="field w-full" value={at} onChange={(e) => setAt(e.target.value)} />
          )}
        </Field>
      </div>
      <div role="status">
        {!late && (
          <p className="say text-small text-soft">Say how many minutes, and from when, such as 18:40.</p>
        )}
        {late?.wrong && <Wrong>{late.wrong}</Wrong>}
        {late && !late.wrong && (
          <>
            <p className="say text-small text-soft">
              {late.cuts.length === 0
                ? "The free minutes are enough: nothing is shortened."
                : `${count(late.cuts.length, "period")} shorter${dropped.length > 0 ? `, ${dropped.length} of them dropped` : ""}. Water and warm-up keep their minutes.`}
            </p>
            <ul className="mt-1 grid gap-0.5 text-small">
              {late.cuts.map((c) => (
                <li key={c.id} className="grid grid-cols-[minmax(0,1fr)_7rem] border-b border-hair">
                  <span className="truncate">{c.name}</span>
                  <span className="text-right">{c.to === 0 ? "dropped" : `${c.from} → ${c.to} min`}</span>
                  <Cost cost={costs?.find((x) => x.id === c.id)} groups={groups} />
                </li>
              ))}
            </ul>
          </>
        )}
      </div>
      <span className="flex gap-2">
        <Button kind="main" type="submit" off={!late || !!late.wrong}>
          Make it the script
        </Button>
        <Button kind="quiet" onClick={onClose}>
          Leave it as it was
        </Button>
      </span>
    </form>
  );
}

/** What the cuts cost in the drills that are placed there; absent until it is known. */
function useCosts(practice: string, late: Schemas["LateScript"] | undefined) {
  const cuts = late && !late.wrong ? late.cuts.map((c) => ({ id: c.id, minutes: c.to })) : [];
  const asked = useQuery({
    queryKey: ["late", practice, JSON.stringify(cuts)],
    queryFn: () =>
      data(api.POST("/practices/{id}/late", { params: { path: { id: practice } }, body: { cuts } })),
    enabled: cuts.length > 0,
    placeholderData: keepPreviousData,
  });
  return asked.data;
}

function Cost({ cost, groups }: { cost?: Schemas["LateCost"]; groups: Schemas["GroupRef"][] }) {
  if (!cost || cost.drills.length === 0) return null;
  return (
    <span className="col-span-2 text-soft">
      {groups.find((g) => g.key === cost.group)?.short}: {count(cost.reps, "rep")} a player fewer, of{" "}
      {cost.drills.join(", ")}
      {cost.needs.length > 0 && <span className="text-fault"> · less work on {cost.needs.join(", ")}</span>}
    </span>
  );
}
