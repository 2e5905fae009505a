import { part, shapeOf } from "@/kit/form/shape";
import { Button } from "@/kit/Button";
import { useState } from "react";
import type { Schemas } from "@/api/client";

interface Props {
  label?: string;
  players: Schemas["Player"][];
  onDone: (row: number | undefined) => void;
}

/** Choosing a player by the number on his back: as soon as only he has it, he is chosen. */
export function ByNumber({ label = "His number", players, onDone }: Props) {
  const [typed, setTyped] = useState("");
  const fits = players.filter((p) => p.jersey.startsWith(typed));
  const take = (number: string) => {
    const all = players.filter((p) => p.jersey.startsWith(number));
    if (number && all.length === 1) onDone(players.indexOf(all[0]!));
    else setTyped(number);
  };
  return (
    <form
      className="mt-3 flex flex-wrap items-center gap-2 border-t border-hair pt-2"
      onSubmit={(e) => {
        e.preventDefault();
        const exact = players.findIndex((p) => p.jersey === typed);
        onDone(exact >= 0 ? exact : undefined);
      }}
    >
      <label className="flex items-center gap-2">
        <span className="label">{label}</span>
        <input
          className="field w-16"
          inputMode="numeric"
          maxLength={part(shapeOf("putPlayer"), "jersey").maxLength}
          value={typed}
          // The coach asked for the field; it must be ready for his next key.
          ref={(el) => el?.focus()}
          onChange={(e) => take(e.target.value.trim())}
          onKeyDown={(e) => e.key === "Escape" && onDone(undefined)}
        />
      </label>
      <span role="status" className="say text-small text-soft">
        {typed &&
          (fits.length === 0 ? "Nobody has it." : fits.map((p) => `${p.jersey} ${p.last_name}`).join(", "))}
      </span>
      <Button type="submit">Choose</Button>
    </form>
  );
}
