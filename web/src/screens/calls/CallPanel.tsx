import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useWhere } from "@/app/where";
import { Button } from "@/kit/Button";
import { Field } from "@/kit/Field";
import { SelectField } from "@/kit/Select";
import { Typed, TypedNumber } from "@/kit/Typed";
import { weekdayDate } from "@/parts/words";
import { changed, sides, without, words, type Call } from "./calls";
import { Runners, Verdict } from "./Detail";
import { Needs } from "./Needs";
import type { Editing } from "./useCalls";

interface Props {
  id: string;
  /** It was made a moment ago: its name comes first. */
  fresh: boolean;
  calls: Schemas["Calls"];
  groups: Schemas["GroupRef"][];
  editing: Editing;
  ready?: Schemas["Readiness"];
  onOut: () => void;
}

/** A call: what it needs, whether it will be ready, and what would mend it. */
export function CallPanel({ id, fresh, calls, groups, editing, ready, onOut }: Props) {
  const { week } = useWhere();
  const call = editing.items.get(id);
  const box = useRef<HTMLElement>(null);
  useEffect(() => {
    if (fresh) box.current?.querySelector("input")?.select();
  }, [fresh]);
  const saved = calls.calls.some((c) => c.id === id);
  const detail = useQuery({ ...queries.callReadiness(id, week), enabled: saved });
  if (!call) return null;
  const may = calls.sides.includes(call.side);
  const change = (part: Partial<Call>) => editing.change(changed(editing.items, id, part));
  return (
    <section ref={box} className="sheet grid min-w-0 gap-3 p-3" aria-label="The chosen call">
      {may ? (
        <Typed label="Call" value={call.name} max={80} onSay={(name) => name && change({ name })} />
      ) : (
        <div>
          <h2 className="head">{call.name}</h2>
          <p className="say text-small text-soft">{told(call)}</p>
        </div>
      )}
      {detail.data && saved && (
        <Verdict
          detail={detail.data}
          call={call}
          asOf={ready?.as_of ?? ""}
          groups={groups}
          onInstall={may ? (install) => change({ install }) : undefined}
        />
      )}
      {may && (
        <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-2">
          <SelectField
            label="Side"
            value={call.side}
            options={sides.filter((s) => calls.sides.includes(s.value))}
            onChange={(side) => change({ side: side as Call["side"] })}
          />
          <Typed label="Kind" value={call.kind} max={80} onSay={(kind) => change({ kind })} />
          <Typed
            label="Also called"
            value={call.aliases.join(", ")}
            max={400}
            onSay={(text) => change({ aliases: words(text) })}
          />
          <Typed
            label="Tags"
            value={call.tags.join(", ")}
            max={400}
            onSay={(text) => change({ tags: words(text) })}
          />
          <TypedNumber
            label="Share of the snaps"
            unit="%"
            value={call.share}
            least={0}
            most={100}
            onSay={(share) => change({ share })}
            onNone={() => change({ share: 0 })}
          />
          <Field label="Installed on">
            {(control) => (
              <input
                {...control}
                type="date"
                className="field w-full min-w-0"
                value={call.install ?? ""}
                onChange={(e) => change({ install: e.target.value || undefined })}
              />
            )}
          </Field>
        </div>
      )}
      <Needs
        call={call}
        may={may}
        teachable={calls.teachable}
        groups={groups}
        onChange={(needs) => change({ needs })}
      />
      {detail.data && saved && <Runners detail={detail.data} groups={groups} />}
      {may && (
        <span>
          <Button
            kind="quiet"
            onClick={() => {
              onOut();
              editing.change(without(editing.items, id));
            }}
          >
            Take the call out
          </Button>
        </span>
      )}
    </section>
  );
}

/** A call in a line, for who may not change it. */
const told = (call: Call) =>
  [
    sides.find((s) => s.value === call.side)?.name,
    call.kind,
    call.aliases.length > 0 && `also called ${call.aliases.join(", ")}`,
    call.share > 0 && `${call.share} % of the snaps`,
    call.install && `installed on ${weekdayDate(call.install)}`,
  ]
    .filter(Boolean)
    .join(" · ");
