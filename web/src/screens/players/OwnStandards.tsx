import { Button } from "@/kit/Button";
import { useState } from "react";
import { useLocation } from "react-router";
import type { Schemas } from "@/api/client";
import { Form, useFormOf } from "@/kit/form/Form";
import { NumberField, TextField } from "@/kit/form/fields";
import type { Body } from "@/kit/form/shape";
import { Band, endless, standardWords } from "@/parts/Standard";
import { Dialog } from "@/kit/Dialog";
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
                <Button kind="text" className="ml-auto whitespace-nowrap" onClick={() => setOpen(s)}>
                  {s.own ? "change" : "his own"}
                  <span className="sr-only"> range at {s.name}</span>
                </Button>
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

/** The ends of a range of his own; where the standard is open there is none. */
const sides = ["ok_low", "ok_high", "watch_low", "watch_high"] as const;

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
  const [start] = useState({
    ok_low: s.measure.ok[0] ?? -endless,
    ok_high: s.measure.ok[1] ?? endless,
    watch_low: s.measure.watch[0] ?? -endless,
    watch_high: s.measure.watch[1] ?? endless,
    reason: s.own?.reason ?? "",
  });
  const draft = useDraft<Body<"putOwnRange">>(`range/${player.id}/${s.checkpoint}`, JSON.stringify(start));
  // The id of a change is made when it is sent.
  const of = useFormOf("putOwnRange", { ...start, id: "" }, draft);
  const saving = useSave<RangeContent>("range", `range/${player.id}/${s.checkpoint}`);
  const about = { says: `${player.last_name}: ${s.name.toLowerCase()}`, href: pathname + search };
  const put = async (content: RangeContent) => {
    if ((await saving.save(content, 0, about)).is !== "saved") return;
    draft.drop();
    onClose();
  };
  const house = s.own?.house ?? s.measure;
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} title={`${player.last_name}: ${s.name.toLowerCase()}`}>
      <p className="say text-small text-soft">
        House: {standardWords(house)}. The hard limit holds for him too.
      </p>
      <Form
        of={of}
        draft={draft}
        refused={saving.refused}
        className="mt-2 grid gap-2"
        onSave={({ ok_low, ok_high, watch_low, watch_high, reason }) =>
          void put({ ok_low, ok_high, watch_low, watch_high, reason })
        }
      >
        <p className="flex flex-wrap gap-2">
          {sides.map(
            (name) =>
              Math.abs(start[name]) < endless && <NumberField key={name} name={name} className="w-20" />,
          )}
        </p>
        <TextField name="reason" placeholder="longer legs, stiff ankle" />
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
      </Form>
    </Dialog>
  );
}
