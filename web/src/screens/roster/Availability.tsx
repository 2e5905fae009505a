import { Button } from "@/kit/Button";
import { useQuery } from "@tanstack/react-query";
import clsx from "clsx";
import { useState } from "react";
import { useLocation } from "react-router";
import { v7 as uuid } from "uuid";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { Loading, Trouble } from "@/kit/States";
import { Dialog } from "@/kit/Dialog";
import { availability, dayMonth, weekdayDate } from "@/parts/words";
import { statuses } from "./columns";
import type { SpellContent } from "@/sync/kinds";
import { useDraft } from "@/sync/drafts";
import { useSave } from "@/sync/react";
import { Form, useFormOf } from "@/kit/form/Form";
import { ChoiceField, DayField, TextField, useNow } from "@/kit/form/fields";
import { choices, shapeOf, type Body } from "@/kit/form/shape";
import { named, type Player } from "./useRoster";

type Spell = Schemas["Spell"];

/** What a player may take part in by day: what is recorded, and a line for what is new. */
export function AvailabilityWindow({ player: p, onClose }: { player: Player; onClose: () => void }) {
  const spells = useQuery(queries.availability(p.id));
  const frame = useQuery(queries.frame());
  const session = useQuery(queries.session());
  const health = session.data?.user?.role === "health";
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={`Availability of ${p.jersey} ${p.first_name} ${p.last_name}`}
      wide
    >
      {spells.error && <Trouble error={spells.error} again={() => void spells.refetch()} />}
      {!spells.data && !spells.error && <Loading what="his availability" />}
      {spells.data?.length === 0 && <p className="say text-soft">Nothing is recorded: he is available.</p>}
      <ul className="grid gap-2">
        {spells.data?.map((s) => (
          <SpellLine key={s.id} player={p} spell={s} today={frame.data?.today ?? ""} health={health} />
        ))}
      </ul>
      {/* Below what is recorded, and with it: what is pressed does not move away under the pointer. */}
      {p.recordable && frame.data && !spells.isLoading && <NewSpell player={p} today={frame.data.today} />}
      <p className="say mt-4 border-l-2 border-watch pl-2 text-small text-soft">
        With a suspected head injury a player is out at once and stays out until a licensed health
        professional clears him in writing. A coach cannot clear him. Follow your league&apos;s rules and your
        medical staff.
      </p>
    </Dialog>
  );
}

/** "12 Oct – 14 Oct", "since 12 Oct" */
const days = (s: Spell) =>
  s.cleared_on
    ? `${dayMonth(s.from)} – cleared ${dayMonth(s.cleared_on)}`
    : s.to
      ? s.to === s.from
        ? dayMonth(s.from)
        : `${dayMonth(s.from)} – ${dayMonth(s.to)}`
      : `since ${dayMonth(s.from)}`;

function SpellLine({
  player: p,
  spell: s,
  today,
  health,
}: {
  player: Player;
  spell: Spell;
  today: string;
  health: boolean;
}) {
  const { pathname } = useLocation();
  const [clearing, setClearing] = useState(false);
  const saving = useSave<SpellContent>("spell", `spell/${p.id}/${s.id}`);
  const about = { says: `Availability of ${named(p)}`, href: pathname };
  const end = (to: string) =>
    void saving.save({ status: s.status as "limited", from: s.from, to, reason: s.reason }, s.version, about);
  const withdraw = () => void saving.save(null, s.version, about);
  const look = statuses[s.status];
  const over = s.cleared_on !== undefined || (s.to !== undefined && s.to < today);
  const error = saving.refused ?? saving.conflict;
  return (
    <li className={clsx("border border-hair p-2 text-small", over && "text-soft")}>
      <div className="flex flex-wrap items-baseline gap-x-3">
        <span className={clsx("font-semibold", !over && look.tone)}>
          <span aria-hidden>{look.shape}</span> {availability[s.status]}
        </span>
        <span>{days(s)}</span>
        <span className="label ml-auto normal-case tracking-normal">
          {s.by && `${s.by}, `}
          {dayMonth(s.at)}
        </span>
      </div>
      <p className="say">{s.reason}</p>
      {s.cleared_by && (
        <p className="say">
          Cleared in writing by <b>{s.cleared_by}</b> on {weekdayDate(s.cleared_on!)}
          {s.cleared_document && ` (${s.cleared_document})`}
          {s.recorded_by && `; recorded by ${s.recorded_by}`}.
        </p>
      )}
      {s.editable && (
        <div className="mt-1 flex flex-wrap gap-2">
          {s.status !== "head_hold" && !over && s.from < today && (
            <Button kind="quiet" off={saving.busy} onClick={() => end(dayBefore(today))}>
              Back from today
            </Button>
          )}
          {s.status !== "head_hold" && (
            <Button kind="quiet" off={saving.busy} onClick={withdraw}>
              Take it back
            </Button>
          )}
          {s.status === "head_hold" && health && !clearing && (
            <Button kind="quiet" onClick={() => setClearing(true)}>
              Record a written clearance
            </Button>
          )}
          {s.status === "head_hold" && !health && (
            <span className="say text-soft">Only the athletic-health staff records a written clearance.</span>
          )}
        </div>
      )}
      {clearing && <Clearance player={p} spell={s} today={today} onDone={() => setClearing(false)} />}
      {error && (
        <p role="alert" className="say mt-1 text-fault">
          {error.message}{" "}
          <Button kind="text" onClick={saving.drop}>
            Leave it as it is
          </Button>
        </p>
      )}
    </li>
  );
}

function dayBefore(day: string): string {
  const d = new Date(`${day}T12:00:00Z`);
  d.setUTCDate(d.getUTCDate() - 1);
  return d.toISOString().slice(0, 10);
}

interface ClearanceProps {
  player: Player;
  spell: Spell;
  today: string;
  onDone: () => void;
}

/** The record of a clearance: who gave it in writing, and when. */
function Clearance({ player: p, spell: s, today, onDone }: ClearanceProps) {
  const { pathname } = useLocation();
  const of = useFormOf("recordClearance", { by: "", document: "", on: today });
  const saving = useSave<Body<"recordClearance">>("clearance", `clearance/${p.id}/${s.id}`);
  const clear = async (body: Body<"recordClearance">) => {
    const about = { says: `Written clearance of ${named(p)}`, href: pathname };
    if ((await saving.save(body, s.version, about)).is === "saved") onDone();
  };
  return (
    <Form
      of={of}
      refused={saving.refused}
      onSave={(body) => void clear(body)}
      className="mt-2 flex flex-wrap items-end gap-2 border-t border-hair pt-2"
    >
      <TextField name="by" place="flex-1" className="w-full min-w-56" placeholder="Name and profession" />
      <TextField
        name="document"
        place="flex-1"
        className="w-full min-w-40"
        placeholder="Letter of 13 Oct, file 12"
      />
      <DayField name="on" min={s.from} max={today} />
      <Button type="submit" kind="main" off={saving.busy}>
        Record it
      </Button>
    </Form>
  );
}

const words: Record<NonNullable<SpellContent>["status"], string> = {
  limited: "Limited, no contact",
  out: "Out",
  head_hold: "Suspected head injury",
};

/** A new stretch of days. */
function NewSpell({ player: p, today }: { player: Player; today: string }) {
  const { pathname } = useLocation();
  const [id, setId] = useState(() => uuid());
  const draft = useDraft<Body<"putSpell">>(`spell/${p.id}/new`, "");
  const of = useFormOf("putSpell", { status: "limited", from: today, reason: "" }, draft);
  const saving = useSave<SpellContent>("spell", `spell/${p.id}/${id}`);
  const submit = async (body: Body<"putSpell">) => {
    const { to, ...rest } = body;
    const done = await saving.save(body.status === "head_hold" || !to ? rest : body, 0, {
      says: `Availability of ${named(p)}`,
      href: pathname,
    });
    if (done.is !== "saved") return;
    draft.drop();
    setId(uuid());
    of.form.reset({ status: body.status, from: body.from, to: undefined, reason: "" });
  };
  return (
    <Form
      of={of}
      draft={draft}
      refused={saving.refused}
      onSave={(body) => void submit(body)}
      className="mt-3 grid gap-2 border-t border-ink pt-2"
      aria-label="Record a stretch of days"
    >
      <ChoiceField
        name="status"
        options={choices(shapeOf("putSpell"), "status").map((value) => ({
          value,
          name: words[value as keyof typeof words],
        }))}
      />
      <Days busy={saving.busy} />
    </Form>
  );
}

/** From when, to when and why; a suspected head injury has no last day. */
function Days({ busy }: { busy: boolean }) {
  const hold = useNow("status") === "head_hold";
  const from = useNow("from") as string;
  return (
    <>
      <div className="flex flex-wrap items-end gap-2">
        <DayField name="from" />
        {!hold && <DayField name="to" min={from} />}
        <TextField
          name="reason"
          place="min-w-56 flex-1"
          className="w-full"
          placeholder={hold ? "Suspected head injury in …" : "Ankle: no contact"}
        />
        <Button type="submit" kind="main" off={busy}>
          Record
        </Button>
      </div>
      {hold && (
        <p className="say text-small text-watch">
          He is out at once and has no last day: the hold ends by a written clearance alone.
        </p>
      )}
    </>
  );
}
