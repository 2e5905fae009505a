import { Button } from "@/kit/Button";
import { useState } from "react";
import { useLocation } from "react-router";
import type { Schemas } from "@/api/client";
import { Draft } from "@/parts/Draft";
import { Band, standardWords } from "@/parts/Standard";
import { Window } from "@/kit/Window";
import { useDraft } from "@/sync/drafts";
import type { RangeContent } from "@/sync/kinds";
import { useSave } from "@/sync/react";

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
          <li key={s.checkpoint} aria-label={s.name}>
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
  const { pathname, search } = useLocation();
  const start = {
    ok_low: String(s.measure.ok_low),
    ok_high: String(s.measure.ok_high),
    watch_low: String(s.measure.watch_low),
    watch_high: String(s.measure.watch_high),
    reason: s.own?.reason ?? "",
  };
  const [typed, setTyped] = useState(start);
  const draft = useDraft<typeof start>(`range/${player.id}/${s.checkpoint}`, JSON.stringify(start));
  const saving = useSave<RangeContent>("range", `range/${player.id}/${s.checkpoint}`);
  const about = { says: `${player.last_name}: ${s.name.toLowerCase()}`, href: pathname + search };
  const set = (part: Partial<typeof start>) => {
    const next = { ...typed, ...part };
    setTyped(next);
    draft.keep(next);
  };
  const put = async (content: RangeContent) => {
    if ((await saving.save(content, 0, about)).is !== "saved") return;
    draft.drop();
    onClose();
  };
  const save = () =>
    put({
      ok_low: Number(typed.ok_low),
      ok_high: Number(typed.ok_high),
      watch_low: Number(typed.watch_low),
      watch_high: Number(typed.watch_high),
      reason: typed.reason,
    });
  const error = saving.refused;
  const wrong = error?.field;
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
          void save();
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
                value={typed[f.name]}
                onChange={(e) => set({ [f.name]: e.target.value })}
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
          value={typed.reason}
          onChange={(e) => set({ reason: e.target.value })}
        />
        <Draft draft={draft} onTake={set} />
        {error && (
          <p role="alert" className="say text-small text-fault">
            {error.message}
          </p>
        )}
        <p className="flex gap-2">
          <Button type="submit" kind="main" off={saving.busy}>
            Judge him by this
          </Button>
          {s.own && (
            <Button kind="quiet" off={saving.busy} onClick={() => void put(null)}>
              House standard again
            </Button>
          )}
        </p>
      </form>
    </Window>
  );
}
