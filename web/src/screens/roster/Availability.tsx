import { Button } from "@/kit/Button";
import { useQuery } from "@tanstack/react-query";
import clsx from "clsx";
import { useState, type FormEvent } from "react";
import { useLocation } from "react-router";
import { v7 as uuid } from "uuid";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { Loading, Trouble } from "@/parts/States";
import { Window } from "@/kit/Window";
import { availability, dayMonth, weekdayDate } from "@/parts/words";
import { statuses } from "./Row";
import type { SpellContent } from "@/sync/kinds";
import { useDraft } from "@/sync/drafts";
import { useSave } from "@/sync/react";
import { Draft } from "@/parts/Draft";
import { named, type Player } from "./useRoster";

type Spell = Schemas["Spell"];

/** What a player may take part in by day: what is recorded, and a line for what is new. */
export function AvailabilityWindow({ player: p, onClose }: { player: Player; onClose: () => void }) {
  const spells = useQuery(queries.availability(p.id));
  const frame = useQuery(queries.frame());
  const session = useQuery(queries.session());
  const head = session.data?.user?.role === "head";
  return (
    <Window
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
          <SpellLine key={s.id} player={p} spell={s} today={frame.data?.today ?? ""} head={head} />
        ))}
      </ul>
      {p.editable && frame.data && <NewSpell player={p} today={frame.data.today} />}
      <p className="say mt-4 border-l-2 border-watch pl-2 text-small text-soft">
        With a suspected head injury a player is out at once and stays out until a licensed health
        professional clears him in writing. A coach cannot clear him. Follow your league&apos;s rules and your
        medical staff.
      </p>
    </Window>
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
  head,
}: {
  player: Player;
  spell: Spell;
  today: string;
  head: boolean;
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
          {s.status === "head_hold" && head && !clearing && (
            <Button kind="quiet" onClick={() => setClearing(true)}>
              Record a written clearance
            </Button>
          )}
          {s.status === "head_hold" && !head && (
            <span className="say text-soft">Only the head coach records a written clearance.</span>
          )}
        </div>
      )}
      {clearing && <Clearance player={p} spell={s} today={today} onDone={() => setClearing(false)} />}
      {error && (
        <p role="alert" className="say mt-1 text-fault">
          {error.message}{" "}
          <button type="button" className="textual" onClick={saving.drop}>
            Leave it as it is
          </button>
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
  const [by, setBy] = useState("");
  const [on, setOn] = useState(today);
  const saving = useSave<{ by: string; on: string }>("clearance", `clearance/${p.id}/${s.id}`);
  const clear = async () => {
    const about = { says: `Written clearance of ${named(p)}`, href: pathname };
    if ((await saving.save({ by, on }, s.version, about)).is === "saved") onDone();
  };
  return (
    <form
      className="mt-2 flex flex-wrap items-end gap-2 border-t border-hair pt-2"
      onSubmit={(e) => {
        e.preventDefault();
        void clear();
      }}
    >
      <label className="grid flex-1 gap-0.5">
        <span className="label">Licensed health professional who cleared him in writing</span>
        <input
          className="field w-full min-w-56"
          required
          maxLength={120}
          placeholder="Name and profession"
          value={by}
          aria-invalid={saving.refused?.field === "by" || undefined}
          onChange={(e) => setBy(e.target.value)}
        />
      </label>
      <label className="grid gap-0.5">
        <span className="label">Written on</span>
        <input
          className="field"
          type="date"
          required
          min={s.from}
          max={today}
          value={on}
          aria-invalid={saving.refused?.field === "on" || undefined}
          onChange={(e) => setOn(e.target.value)}
        />
      </label>
      <Button type="submit" kind="main" off={saving.busy || by.trim() === ""}>
        Record it
      </Button>
      {saving.refused && (
        <p role="alert" className="say w-full text-fault">
          {saving.refused.message}
        </p>
      )}
    </form>
  );
}

const choices: { status: "limited" | "out" | "head_hold"; word: string }[] = [
  { status: "limited", word: "Limited, no contact" },
  { status: "out", word: "Out" },
  { status: "head_hold", word: "Suspected head injury" },
];

interface NewTyped {
  status: (typeof choices)[number]["status"];
  from: string;
  to: string;
  reason: string;
}

/** A new stretch of days. */
function NewSpell({ player: p, today }: { player: Player; today: string }) {
  const { pathname } = useLocation();
  const [id, setId] = useState(() => uuid());
  const empty: NewTyped = { status: "limited", from: today, to: "", reason: "" };
  const [typed, setTyped] = useState(empty);
  const { status, from, to, reason } = typed;
  const draft = useDraft<NewTyped>(`spell/${p.id}/new`, "");
  const saving = useSave<SpellContent>("spell", `spell/${p.id}/${id}`);
  const set = (part: Partial<NewTyped>) => {
    const next = { ...typed, ...part };
    setTyped(next);
    draft.keep(next);
  };
  const submit = async (e: FormEvent) => {
    e.preventDefault();
    const done = await saving.save(
      { status, from, to: status === "head_hold" || !to ? undefined : to, reason },
      0,
      { says: `Availability of ${named(p)}`, href: pathname },
    );
    if (done.is !== "saved") return;
    draft.drop();
    setId(uuid());
    setTyped({ ...empty, status, from });
  };
  return (
    <form
      className="mt-3 grid gap-2 border-t border-ink pt-2"
      onSubmit={(e) => void submit(e)}
      noValidate
      aria-label="Record a stretch of days"
    >
      <fieldset className="flex flex-wrap gap-x-4 gap-y-1">
        <legend className="label">He is</legend>
        {choices.map((c) => (
          <label key={c.status} className="flex min-h-7 items-center gap-1.5 text-small">
            <input
              type="radio"
              name="status"
              checked={status === c.status}
              onChange={() => set({ status: c.status })}
            />
            {c.word}
          </label>
        ))}
      </fieldset>
      <div className="flex flex-wrap items-end gap-2">
        <label className="grid gap-0.5">
          <span className="label">From</span>
          <input
            className="field"
            type="date"
            required
            value={from}
            aria-invalid={saving.refused?.field === "from" || undefined}
            onChange={(e) => set({ from: e.target.value })}
          />
        </label>
        {status !== "head_hold" && (
          <label className="grid gap-0.5">
            <span className="label">To, the last day</span>
            <input
              className="field"
              type="date"
              min={from}
              value={to}
              aria-invalid={saving.refused?.field === "to" || undefined}
              onChange={(e) => set({ to: e.target.value })}
            />
          </label>
        )}
        <label className="grid min-w-56 flex-1 gap-0.5">
          <span className="label">Why</span>
          <input
            className="field w-full"
            maxLength={200}
            required
            value={reason}
            aria-invalid={saving.refused?.field === "reason" || undefined}
            onChange={(e) => set({ reason: e.target.value })}
            placeholder={status === "head_hold" ? "Suspected head injury in …" : "Ankle: no contact"}
          />
        </label>
        <Button type="submit" kind="main" off={saving.busy || !from}>
          Record
        </Button>
      </div>
      {status === "head_hold" && (
        <p className="say text-small text-watch">
          He is out at once and has no last day: the hold ends by a written clearance alone.
        </p>
      )}
      <Draft draft={draft} onTake={set} />
      {saving.refused && (
        <p role="alert" className="say text-small text-fault">
          {saving.refused.message}
        </p>
      )}
    </form>
  );
}
