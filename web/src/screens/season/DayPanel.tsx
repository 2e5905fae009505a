import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "@/api/client";
import { useWhere } from "@/app/where";
import { AlertDialog, AlertWay } from "@/kit/AlertDialog";
import { Button } from "@/kit/Button";
import { Dialog } from "@/kit/Dialog";
import { Field } from "@/kit/Field";
import { SelectField } from "@/kit/Select";
import { Typed, TypedClock, TypedNumber } from "@/kit/Typed";
import { clock, count, weekdayDate } from "@/parts/words";
import { verdicts } from "@/screens/calls/calls";
import { changed, without, type Entry } from "./days";
import type { Install } from "./ready";
import type { Season } from "./useSeason";

interface Props {
  date: string;
  week: number;
  season: Schemas["Season"];
  entries: [string, Entry][];
  installs?: Install[];
  editing: Season;
  onNew: (is: "practice" | "game") => void;
  onCopyWeek: () => void;
}

/** What is on a day, and what can be done with it. */
export function DayPanel({ date, week, season, entries, installs = [], editing, onNew, onCopyWeek }: Props) {
  const { base } = useWhere();
  return (
    <section className="sheet min-w-0 p-3" aria-label="The chosen day">
      <p className="label">Week {week}</p>
      <h2 className="head">{weekdayDate(date)}</h2>
      {entries.length === 0 && installs.length === 0 && (
        <p className="say text-small text-soft">Nothing is on this day.</p>
      )}
      <div className="grid gap-3">
        {entries.map(([id, e]) =>
          e.is === "practice" ? (
            <PracticeForm key={id} id={id} of={e.of} {...{ week, season, editing }} />
          ) : (
            <GameForm key={id} id={id} of={e.of} {...{ season, editing }} />
          ),
        )}
      </div>
      {installs.length > 0 && (
        <ul className="mt-2 grid gap-0.5 text-small" aria-label="Installs">
          {installs.map((i) => (
            <li key={i.id}>
              Install of{" "}
              <Link className="textual" to={`${base}/season/calls?call=${i.id}`}>
                {i.name}
              </Link>
              {i.verdict && (
                <span className={verdicts[i.verdict].tone}>
                  {" "}
                  <span aria-hidden>{verdicts[i.verdict].shape}</span>{" "}
                  {verdicts[i.verdict].says.toLowerCase()}
                </span>
              )}
            </li>
          ))}
        </ul>
      )}
      {season.editable && (
        <div className="mt-3 flex flex-wrap gap-1.5 border-t border-hair pt-2">
          <Button onClick={() => onNew("practice")}>
            New practice <span className="kbd">n</span>
          </Button>
          <Button onClick={() => onNew("game")}>
            New game <span className="kbd">g</span>
          </Button>
          {week < season.weeks && (
            <Button onClick={onCopyWeek}>
              Copy week {week} to week {week + 1} <span className="kbd">w</span>
            </Button>
          )}
        </div>
      )}
    </section>
  );
}

interface FormProps {
  id: string;
  season: Schemas["Season"];
  editing: Season;
}

function PracticeForm({
  id,
  of,
  week,
  season,
  editing,
}: FormProps & { of: Schemas["PracticeInput"]; week: number }) {
  const { group } = useWhere();
  const known = season.practices.find((p) => p.id === id);
  const change = (part: Partial<Schemas["PracticeInput"]>) =>
    editing.change(changed(editing.items, id, part));
  const base = `/g/${group}/w/${week}/practice/${id}`;
  const themes = [...new Set([...season.themes, of.theme].filter(Boolean))];
  return (
    <article aria-label={of.title} className="grid gap-2 border-l-[3px] border-ink pl-2">
      {of.cancelled && (
        <p className="say text-small text-fault">
          <b>Called off:</b> {of.cancelled}
        </p>
      )}
      {season.editable ? (
        <>
          <Typed label="Title" value={of.title} max={80} onSay={(title) => title && change({ title })} />
          <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-2">
            <SelectField
              label="Theme"
              value={of.theme}
              options={[{ value: "", name: "no theme" }, ...themes.map((t) => ({ value: t, name: t }))]}
              onChange={(theme) => change({ theme })}
            />
            <Typed label="Place" value={of.place} max={60} onSay={(place) => change({ place })} />
            <TypedClock
              label="From"
              value={clock(of.start_minute)}
              onSay={(start_minute) => change({ start_minute })}
            />
            <TypedNumber
              label="Minutes"
              value={of.minutes}
              least={10}
              most={300}
              onSay={(minutes) => change({ minutes })}
            />
            <DayLine value={of.date} season={season} onSay={(date) => change({ date })} />
          </div>
        </>
      ) : (
        <p className="say text-small">
          {[of.title, of.theme, clock(of.start_minute), count(of.minutes, "minute"), of.place]
            .filter(Boolean)
            .join(", ")}
        </p>
      )}
      {known && (
        <p className="say text-small text-soft">
          {count(known.periods, "period")}, {count(known.drills, "drill")}
          {known.marks > 0 && `, ${count(known.marks, "mark")} that day`}, {known.contact} minutes of contact
        </p>
      )}
      <p className="flex flex-wrap items-center gap-3">
        <Link className="textual" to={base}>
          Own period
        </Link>
        <Link className="textual" to={`${base}/script`}>
          Script
        </Link>
      </p>
      {season.editable && (
        <Ways
          cancelled={of.cancelled}
          onCancel={(why) => change({ cancelled: why })}
          loses={
            known && known.periods > 0
              ? `Its script of ${count(known.periods, "period")} and ${count(known.drills, "placed drill")} go with it, and cannot be taken back. Calling it off keeps them.`
              : undefined
          }
          onOff={() => takeOff(editing, id, !!known && known.periods > 0)}
        />
      )}
    </article>
  );
}

/** Takes an entry off; where something is lost with it, that cannot be taken back. */
function takeOff(editing: Season, id: string, forGood: boolean) {
  editing.change(without(editing.items, id));
  if (forGood) editing.forget();
}

function GameForm({ id, of, season, editing }: FormProps & { of: Schemas["GameInput"] }) {
  const known = season.games.find((g) => g.id === id);
  const change = (part: Partial<Schemas["GameInput"]>) => editing.change(changed(editing.items, id, part));
  return (
    <article aria-label={`Game against ${of.opponent}`} className="grid gap-2 border-l-[3px] border-ink pl-2">
      {of.cancelled && (
        <p className="say text-small text-fault">
          <b>Called off:</b> {of.cancelled}
        </p>
      )}
      {season.editable ? (
        <>
          <Typed
            label="Opponent"
            value={of.opponent}
            max={80}
            onSay={(opponent) => opponent && change({ opponent })}
          />
          <DayLine value={of.date} season={season} onSay={(date) => change({ date })} />
          <label className="flex items-center gap-1.5 pointer-coarse:min-h-11">
            <input type="checkbox" checked={of.home} onChange={(e) => change({ home: e.target.checked })} />
            At home
          </label>
        </>
      ) : (
        <p className="say text-small">
          Game against {of.opponent}, {of.home ? "at home" : "away"}
        </p>
      )}
      {known && known.plays > 0 && (
        <p className="say text-small text-soft">{count(known.plays, "play")} on record</p>
      )}
      {season.editable && (
        <Ways
          cancelled={of.cancelled}
          onCancel={(why) => change({ cancelled: why })}
          onOff={() => takeOff(editing, id, false)}
        />
      )}
    </article>
  );
}

interface WaysProps {
  cancelled?: string;
  onCancel: (why: string | undefined) => void;
  /** What is lost when it is taken off, in words; absent where nothing is. */
  loses?: string;
  onOff: () => void;
}

function Ways({ cancelled, onCancel, loses, onOff }: WaysProps) {
  const [why, setWhy] = useState<string>();
  const [asked, setAsked] = useState(false);
  return (
    <div className="flex flex-wrap gap-1.5">
      {cancelled ? (
        <Button onClick={() => onCancel(undefined)}>It is on again</Button>
      ) : (
        <Button onClick={() => setWhy("")}>Call it off</Button>
      )}
      <Button kind="quiet" onClick={() => (loses ? setAsked(true) : onOff())}>
        Take it off the calendar
      </Button>
      <Dialog open={why !== undefined} onOpenChange={(o) => !o && setWhy(undefined)} title="Call it off">
        <form
          className="grid gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            if (why?.trim()) onCancel(why.trim());
            setWhy(undefined);
          }}
        >
          <Field label="Why" hint="It stays on the calendar with its script; nothing of it counts.">
            {(control) => (
              <input
                {...control}
                maxLength={200}
                className="field w-full"
                value={why ?? ""}
                onChange={(e) => setWhy(e.target.value)}
              />
            )}
          </Field>
          <span>
            <Button kind="main" type="submit" off={!why?.trim()}>
              Call it off
            </Button>
          </span>
        </form>
      </Dialog>
      {asked && loses && (
        <AlertDialog
          title="Take it off the calendar?"
          says={loses}
          ways={
            <>
              <AlertWay>
                <Button onClick={() => setAsked(false)}>Leave it</Button>
              </AlertWay>
              <AlertWay main>
                <Button
                  onClick={() => {
                    setAsked(false);
                    onOff();
                  }}
                >
                  Take it off
                </Button>
              </AlertWay>
            </>
          }
        />
      )}
    </div>
  );
}

function DayLine({
  value,
  season,
  onSay,
}: {
  value: string;
  season: Schemas["Season"];
  onSay: (date: string) => void;
}) {
  return (
    <Field label="Day">
      {(control) => (
        <input
          {...control}
          type="date"
          className="field w-full min-w-0"
          value={value}
          min={season.start}
          onChange={(e) => e.target.value && onSay(e.target.value)}
        />
      )}
    </Field>
  );
}
