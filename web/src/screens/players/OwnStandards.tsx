import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { v7 as uuid } from "uuid";
import { Problem, api, problemFrom, type Schemas } from "@/api/client";
import { Band, standardWords } from "@/parts/Standard";
import { Window } from "@/parts/Window";

type Standard = Schemas["PlayerStandard"];

/** What the player is measured by at a technique: the house standard, or a range of his own with its reason. */
export function OwnStandards({ sheet, technique }: { sheet: Schemas["PlayerSheet"]; technique?: string }) {
  const [open, setOpen] = useState<Standard>();
  const list = sheet.standards.filter((s) => s.technique === technique || s.own);
  if (list.length === 0) return null;
  return (
    <section className="sheet p-3" aria-labelledby="standards">
      <h2 id="standards" className="head">
        Measured by
      </h2>
      <ul className="mt-1 grid gap-2">
        {list.map((s) => (
          <li key={s.checkpoint} data-testid={`standard-${s.checkpoint}`}>
            <p className="flex items-baseline gap-2">
              <span className="name leading-tight">{s.name}</span>
              {sheet.editable && (
                <button
                  type="button"
                  className="label ml-auto whitespace-nowrap underline"
                  aria-label={`His own range at ${s.name}`}
                  onClick={() => setOpen(s)}
                >
                  {s.own ? "change" : "his own"}
                </button>
              )}
            </p>
            <Band measure={s.measure} />
            <p className="text-label leading-tight text-soft">{standardWords(s.measure)}</p>
            {s.own && (
              <p className="say text-small text-watch">
                His own, {s.own.by}, {s.own.on}: {s.own.reason}
              </p>
            )}
          </li>
        ))}
      </ul>
      {open && (
        <Exception
          key={open.checkpoint}
          player={sheet.player}
          standard={open}
          onClose={() => setOpen(undefined)}
        />
      )}
    </section>
  );
}

const rangeFields = [
  { name: "ok_low", label: "OK from" },
  { name: "ok_high", label: "to" },
  { name: "watch_low", label: "Watch from" },
  { name: "watch_high", label: "to" },
] as const;

function Exception({
  player,
  standard: s,
  onClose,
}: {
  player: Schemas["Player"];
  standard: Standard;
  onClose: () => void;
}) {
  const client = useQueryClient();
  const [range, setRange] = useState({
    ok_low: s.measure.ok_low,
    ok_high: s.measure.ok_high,
    watch_low: s.measure.watch_low,
    watch_high: s.measure.watch_high,
  });
  const [reason, setReason] = useState(s.own?.reason ?? "");
  const path = { id: player.id, checkpoint: s.checkpoint };
  const after = () => {
    void client.invalidateQueries({ queryKey: ["player"] });
    void client.invalidateQueries({ queryKey: ["marks"] });
    onClose();
  };
  const save = useMutation({
    mutationFn: async () => {
      const answer = await api.PUT("/players/{id}/ranges/{checkpoint}", {
        params: { path },
        body: { id: uuid(), ...range, reason },
      });
      if (!answer.response.ok) throw problemFrom(answer.error, answer.response.status);
    },
    onSuccess: after,
  });
  const drop = useMutation({
    mutationFn: async () => {
      const answer = await api.DELETE("/players/{id}/ranges/{checkpoint}", { params: { path } });
      if (!answer.response.ok) throw problemFrom(answer.error, answer.response.status);
    },
    onSuccess: after,
  });
  const error = save.error ?? drop.error;
  const wrong = error instanceof Problem ? error.field : undefined;
  const house = s.own?.house ?? s.measure;
  return (
    <Window open onOpenChange={(o) => !o && onClose()} title={`${player.last_name}: ${s.name.toLowerCase()}`}>
      <p className="say text-small text-soft">
        House: {standardWords(house)}. The hard limit holds for him too.
      </p>
      <form
        className="mt-2 grid gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          save.mutate();
        }}
      >
        <p className="flex flex-wrap gap-2">
          {rangeFields.map((f) => (
            <label key={f.name} className="inline-flex items-center gap-1 text-small">
              <span className="label">{f.label}</span>
              <input
                type="number"
                step="any"
                name={f.name}
                className="field w-20 text-right"
                aria-invalid={wrong === f.name}
                value={range[f.name]}
                onChange={(e) => setRange({ ...range, [f.name]: Number(e.target.value) })}
              />
            </label>
          ))}
        </p>
        <label className="label" htmlFor="reason">
          Because
        </label>
        <input
          id="reason"
          className="field"
          maxLength={500}
          required
          aria-invalid={wrong === "reason"}
          placeholder="longer legs, stiff ankle"
          value={reason}
          onChange={(e) => setReason(e.target.value)}
        />
        {error && (
          <p role="alert" className="say text-small text-fault">
            {error.message}
          </p>
        )}
        <p className="flex gap-2">
          <button type="submit" className="btn btn-main" disabled={save.isPending}>
            Judge him by this
          </button>
          {s.own && (
            <button type="button" className="btn btn-quiet" onClick={() => drop.mutate()}>
              House standard again
            </button>
          )}
        </p>
      </form>
    </Window>
  );
}
