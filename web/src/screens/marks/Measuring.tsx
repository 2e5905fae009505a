import { useState } from "react";
import type { Schemas } from "@/api/client";
import { Band, holds, standardWords, unit } from "@/parts/Standard";

export interface Measured {
  input: { checkpoint: string; value: number };
  beyond: boolean;
}

interface Props {
  sheet: Schemas["MarkSheet"];
  player: Schemas["Player"];
  onDone: (measured: Measured | undefined) => void;
}

/** A number read off the rep, judged by the house standard or by the player's own range. */
export function Measuring({ sheet, player, onDone }: Props) {
  const [at, setAt] = useState(0);
  const [text, setText] = useState("");
  const standard = sheet.measures[at];
  if (!standard) return null;
  const own = sheet.own.find((o) => o.player_id === player.id && o.checkpoint === standard.checkpoint);
  const m = own?.measure ?? standard.measure;
  const value = text.trim() === "" ? NaN : Number(text.replace(",", "."));
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
          // The coach asked for the field with a key; it must be ready for his next one.
          ref={(el) => el?.focus()}
          onChange={(e) => setText(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === "Escape") onDone(undefined);
            if (e.key === "ArrowDown" || e.key === "ArrowUp") {
              e.preventDefault();
              const by = e.key === "ArrowDown" ? 1 : sheet.measures.length - 1;
              setAt((at + by) % sheet.measures.length);
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
