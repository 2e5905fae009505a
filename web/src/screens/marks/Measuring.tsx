import { useEffect, useRef, useState } from "react";
import type { Schemas } from "@/api/client";
import { Select } from "@/kit/Select";
import { asked, rowOf } from "./rows";
import { Band, holds, standardWords, unit } from "@/parts/Standard";

export interface Measured {
  input: { checkpoint: string; value: number };
  beyond: boolean;
}

interface Props {
  sheet: Schemas["MarkSheet"];
  player: Schemas["Player"];
  onDone: (measured: Measured | undefined) => void;
  /** The call of the play, whose row is chosen from the start. */
  call?: string;
  /** Its yards to go. */
  toGo?: number;
}

/** A number read off the rep, judged by the house standard or by the player's own range. */
export function Measuring({ sheet, player, onDone, call, toGo }: Props) {
  const [at, setAt] = useState(0);
  const [text, setText] = useState("");
  const [chosen, setChosen] = useState<string>();
  const field = useRef<HTMLInputElement>(null);
  // The coach asked for the field with a key; it must be ready for his next one.
  useEffect(() => field.current?.focus(), [at]);
  const standard = sheet.measures[at];
  if (!standard) return null;
  const own = sheet.own.find((o) => o.player_id === player.id && o.checkpoint === standard.checkpoint);
  const m = own?.measure ?? standard.measure;
  const rows = standard.rows ?? [];
  const row = rows.find((r) => r.call === chosen) ?? (chosen === undefined ? rowOf(rows, call) : undefined);
  // What was read is held against what the call asks; without a call it is the difference itself.
  const read = text.trim() === "" ? NaN : Number(text.replace(",", "."));
  const value = Math.round((read - (row ? asked(row, toGo) : 0)) * 1000) / 1000;
  const finish = () => {
    if (!Number.isFinite(value)) return;
    onDone({
      input: { checkpoint: standard.checkpoint, value },
      beyond: !holds(m.watch, value),
    });
  };
  return (
    <form
      className="mt-3 border-t border-hair pt-2"
      aria-label="Measuring"
      onSubmit={(e) => {
        e.preventDefault();
        finish();
      }}
    >
      <p className="flex items-center gap-2">
        <input
          className="field w-20 text-right"
          inputMode="decimal"
          aria-label={`${standard.name}, ${unit(m)}`}
          value={text}
          ref={field}
          onChange={(e) => setText(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === "Escape") onDone(undefined);
            if (e.key === "ArrowDown" || e.key === "ArrowUp") {
              e.preventDefault();
              const by = e.key === "ArrowDown" ? 1 : sheet.measures.length - 1;
              setAt((at + by) % sheet.measures.length);
              setChosen(undefined);
            }
          }}
        />
        <span className="text-small">{unit(m)}</span>
        <span className="name min-w-0 flex-1 truncate">{standard.name}</span>
        {sheet.measures.length > 1 && (
          <span className="label">
            <span className="kbd">↓</span> next
          </span>
        )}
      </p>
      {rows.length > 0 && (
        <p className="mt-1 flex flex-wrap items-center gap-2">
          <Select
            label="Call"
            slim
            value={row?.call ?? ""}
            options={[
              { value: "", name: "no call: the number is the difference" },
              ...rows.map((r) => ({ value: r.call, name: `${r.call}: ${asked(r, toGo)} ${unit(m)}` })),
            ]}
            onChange={(to) => {
              setChosen(to);
              field.current?.focus();
            }}
          />
          {row && Number.isFinite(value) && (
            <span className="label" role="status">
              {value > 0 ? "+" : ""}
              {value} {unit(m)} {value < 0 ? m.low : value > 0 ? m.high : ""}
            </span>
          )}
        </p>
      )}
      <div className="mt-1 max-w-sm">
        <Band measure={m} value={Number.isFinite(value) ? value : undefined} />
      </div>
      <p className="text-label text-soft">
        {standardWords(m)}
        {own && <b className="text-watch"> · his own range</b>}
      </p>
    </form>
  );
}
