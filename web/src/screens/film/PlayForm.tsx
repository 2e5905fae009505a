import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { Button } from "@/kit/Button";
import { SelectField } from "@/kit/Select";
import { Typed, TypedNumber } from "@/kit/Typed";
import { count } from "@/parts/words";
import { known, labels, words } from "./plays";

type Play = Schemas["PlayInput"];

interface Props {
  play: Play;
  all: ReadonlyMap<string, Play>;
  units: Play["unit"][];
  marks: number;
  /** It was just begun: the keyboard goes to its first field. */
  fresh: boolean;
  onChange: (part: Partial<Play>) => void;
  onNext: () => void;
  /** What going on is called; the next play where it does not say. */
  done?: string;
  onRemove?: () => void;
}

const unitNames = { offense: "Offense", defense: "Defense", units: "Kicking" };
/** The labels of one play. What is left is saved; Ctrl+Enter goes on to the next play. */
export function PlayForm({ play: p, all, units, marks, fresh, done, onChange, onNext, onRemove }: Props) {
  const box = useRef<HTMLElement>(null);
  useEffect(() => {
    if (fresh) box.current?.querySelector<HTMLElement>("input")?.focus();
  }, [fresh]);
  const next = useRef(onNext);
  useEffect(() => {
    next.current = onNext;
  });
  const editable = units.includes(p.unit);
  const none = (n: number) => (n === 0 ? undefined : n);
  const numberField = (label: string, of: "drive" | "quarter" | "down", most: number) => (
    <TypedNumber
      label={label}
      value={none(p[of])}
      least={of === "drive" ? 1 : 1}
      most={most}
      off={!editable}
      onSay={(n) => onChange({ [of]: n })}
      onNone={() => onChange({ [of]: 0 })}
    />
  );
  return (
    // The shortcut is one of the form's own fields.
    // eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions
    <section
      ref={box}
      className="sheet grid min-w-0 gap-2 p-3"
      aria-label={`Play ${p.number}`}
      onKeyDown={(e) => {
        if (e.key !== "Enter" || !(e.ctrlKey || e.metaKey) || !editable) return;
        e.preventDefault();
        if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
        // What was typed is said as it is left; the next play follows from that.
        setTimeout(() => next.current());
      }}
    >
      <h2 className="head">
        Play {p.number}
        {marks > 0 && <span className="label ml-2">{count(marks, "mark")}</span>}
      </h2>
      <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_minmax(0,1fr)] gap-2">
        {numberField("Down", "down", 4)}
        <TypedNumber
          label="Distance"
          value={p.distance}
          least={0}
          most={99}
          off={!editable}
          onSay={(distance) => onChange({ distance })}
          onNone={() => onChange({ distance: undefined })}
        />
        <Typed
          label="Spot"
          value={p.spot}
          max={12}
          off={!editable}
          placeholder="-35, +20"
          onSay={(spot) => onChange({ spot })}
        />
        {numberField("Quarter", "quarter", 8)}
        <Typed
          label="Clock"
          value={p.clock}
          max={8}
          off={!editable}
          placeholder="12:05"
          onSay={(clock) => onChange({ clock })}
        />
        {numberField("Drive", "drive", 60)}
        <TypedNumber
          label="Number"
          value={p.number}
          least={1}
          most={999}
          off={!editable}
          onSay={(number) => onChange({ number })}
        />
        <SelectField
          label="Unit"
          value={p.unit}
          disabled={!editable}
          options={units.map((u) => ({ value: u, name: unitNames[u] }))}
          onChange={(unit) => onChange({ unit: unit as Play["unit"] })}
        />
        <SelectField
          label="Hash"
          value={p.hash}
          disabled={!editable}
          options={["", "left", "middle", "right"].map((h) => ({ value: h, name: h || "not said" }))}
          onChange={(hash) => onChange({ hash: hash as Play["hash"] })}
        />
      </div>
      <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-2">
        {words.map((w) => (
          <Said key={w} of={w} play={p} all={all} off={!editable} onChange={onChange} />
        ))}
        <TypedNumber
          label="Gain"
          unit="yards"
          value={p.gain}
          least={-99}
          most={99}
          off={!editable}
          onSay={(gain) => onChange({ gain })}
          onNone={() => onChange({ gain: undefined })}
        />
      </div>
      <Typed
        label="Context"
        value={p.context.join(", ")}
        max={400}
        off={!editable}
        placeholder="second group, scout look, end of game"
        onSay={(said) =>
          onChange({
            context: said
              .split(",")
              .map((w) => w.trim())
              .filter(Boolean)
              .slice(0, 8),
          })
        }
      />
      {editable && (
        <span className="flex flex-wrap gap-1.5">
          <Button kind="main" onClick={onNext}>
            {done ?? "Next play"} <span className="kbd">Ctrl+Enter</span>
          </Button>
          {onRemove && (
            <Button kind="quiet" off={marks > 0} onClick={onRemove}>
              Take it out
            </Button>
          )}
        </span>
      )}
    </section>
  );
}

interface SaidProps {
  of: (typeof words)[number];
  play: Play;
  all: ReadonlyMap<string, Play>;
  off: boolean;
  onChange: (part: Partial<Play>) => void;
}

/** A word of the staff, with those that stand in the column to choose from: of this game, then of the season. */
function Said({ of, play, all, off, onChange }: SaidProps) {
  const list = `${of}-said`;
  const season = useQuery(queries.labelWords()).data;
  const here = known(all.values(), of);
  const label = labels[of];
  const used = season?.used.find((u) => u.label === label)?.words.filter((w) => !here.includes(w)) ?? [];
  return (
    <>
      <Typed
        label={label}
        value={play[of]}
        max={60}
        off={off}
        list={list}
        onSay={(said) => onChange({ [of]: said })}
      />
      <datalist id={list}>
        {[...here, ...used].map((w) => (
          <option key={w} value={w} />
        ))}
        {season?.aliases
          .filter((a) => a.label === label)
          .map((a) => (
            <option key={a.id} value={a.means} label={`${a.means}: ${a.said}`} />
          ))}
      </datalist>
    </>
  );
}
