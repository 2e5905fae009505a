import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import clsx from "clsx";
import { useState, type FormEvent } from "react";
import { v7 as uuid } from "uuid";
import { api, data, Problem, type Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { Loading, Trouble } from "@/parts/States";
import { Window } from "@/parts/Window";
import { availability, dayMonth, weekdayDate } from "@/parts/words";
import { statuses } from "./Row";
import { rosterChanged, type Player } from "./useRoster";

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
  const client = useQueryClient();
  const [clearing, setClearing] = useState(false);
  const after = () => rosterChanged(client);
  const end = useMutation<Spell, Problem, string>({
    mutationFn: (to) =>
      data(
        api.PUT("/roster/players/{id}/availability/{spell}", {
          params: { path: { id: p.id, spell: s.id } },
          body: { version: s.version, status: s.status as "limited", from: s.from, to, reason: s.reason },
        }),
      ),
    onSuccess: after,
  });
  const withdraw = useMutation<void, Problem>({
    mutationFn: async () => {
      const answer = await api.DELETE("/roster/players/{id}/availability/{spell}", {
        params: { path: { id: p.id, spell: s.id } },
      });
      if (!answer.response.ok) await data(Promise.resolve(answer as never));
    },
    onSuccess: after,
  });
  const look = statuses[s.status];
  const over = s.cleared_on !== undefined || (s.to !== undefined && s.to < today);
  const error = end.error ?? withdraw.error;
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
            <button
              type="button"
              className="btn btn-quiet"
              disabled={end.isPending}
              onClick={() => end.mutate(dayBefore(today))}
            >
              Back from today
            </button>
          )}
          {s.status !== "head_hold" && (
            <button
              type="button"
              className="btn btn-quiet"
              disabled={withdraw.isPending}
              onClick={() => withdraw.mutate()}
            >
              Take it back
            </button>
          )}
          {s.status === "head_hold" && head && !clearing && (
            <button type="button" className="btn btn-quiet" onClick={() => setClearing(true)}>
              Record a written clearance
            </button>
          )}
          {s.status === "head_hold" && !head && (
            <span className="say text-soft">Only the head coach records a written clearance.</span>
          )}
        </div>
      )}
      {clearing && <Clearance player={p} spell={s} today={today} onDone={() => setClearing(false)} />}
      {error && (
        <p role="alert" className="say mt-1 text-fault">
          {error.message}
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
  const client = useQueryClient();
  const [by, setBy] = useState("");
  const [on, setOn] = useState(today);
  const clear = useMutation<Spell, Problem>({
    mutationFn: () =>
      data(
        api.PUT("/roster/players/{id}/availability/{spell}/clearance", {
          params: { path: { id: p.id, spell: s.id } },
          body: { by, on },
        }),
      ),
    onSuccess: () => {
      rosterChanged(client);
      onDone();
    },
  });
  return (
    <form
      className="mt-2 flex flex-wrap items-end gap-2 border-t border-hair pt-2"
      onSubmit={(e) => {
        e.preventDefault();
        clear.mutate();
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
          aria-invalid={clear.error?.field === "by" || undefined}
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
          aria-invalid={clear.error?.field === "on" || undefined}
          onChange={(e) => setOn(e.target.value)}
        />
      </label>
      <button type="submit" className="btn btn-main" disabled={clear.isPending || by.trim() === ""}>
        Record it
      </button>
      {clear.error && (
        <p role="alert" className="say w-full text-fault">
          {clear.error.message}
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

/** A new stretch of days. */
function NewSpell({ player: p, today }: { player: Player; today: string }) {
  const client = useQueryClient();
  const [id, setId] = useState(() => uuid());
  const [status, setStatus] = useState<(typeof choices)[number]["status"]>("limited");
  const [from, setFrom] = useState(today);
  const [to, setTo] = useState("");
  const [reason, setReason] = useState("");
  const add = useMutation<Spell, Problem>({
    mutationFn: () =>
      data(
        api.PUT("/roster/players/{id}/availability/{spell}", {
          params: { path: { id: p.id, spell: id } },
          body: { version: 0, status, from, to: status === "head_hold" || !to ? undefined : to, reason },
        }),
      ),
    onSuccess: () => {
      rosterChanged(client);
      setId(uuid());
      setReason("");
      setTo("");
    },
  });
  const submit = (e: FormEvent) => {
    e.preventDefault();
    add.mutate();
  };
  return (
    <form
      className="mt-3 grid gap-2 border-t border-ink pt-2"
      onSubmit={submit}
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
              onChange={() => setStatus(c.status)}
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
            aria-invalid={add.error?.field === "from" || undefined}
            onChange={(e) => setFrom(e.target.value)}
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
              aria-invalid={add.error?.field === "to" || undefined}
              onChange={(e) => setTo(e.target.value)}
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
            aria-invalid={add.error?.field === "reason" || undefined}
            onChange={(e) => setReason(e.target.value)}
            placeholder={status === "head_hold" ? "Suspected head injury in …" : "Ankle: no contact"}
          />
        </label>
        <button type="submit" className="btn btn-main" disabled={add.isPending || !from}>
          Record
        </button>
      </div>
      {status === "head_hold" && (
        <p className="say text-small text-watch">
          He is out at once and has no last day: the hold ends by a written clearance alone.
        </p>
      )}
      {add.error && (
        <p role="alert" className="say text-small text-fault">
          {add.error.message}
        </p>
      )}
    </form>
  );
}
