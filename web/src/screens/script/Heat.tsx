import { useState } from "react";
import { useLocation } from "react-router";
import { v7 as uuid } from "uuid";
import type { Schemas } from "@/api/client";
import { Button } from "@/kit/Button";
import { Field } from "@/kit/Field";
import { numberOf } from "@/kit/form/fields";
import { Popover } from "@/kit/Popover";
import { bandAt, inBand } from "@/parts/conditions";
import { time } from "@/parts/words";
import { useSync } from "@/sync/context";

/** The heat index as the staff measured it, and what it asks for. Whoever is there enters it. */
export function Heat({ practice }: { practice: Schemas["Practice"] }) {
  const { engine } = useSync();
  const { pathname } = useLocation();
  const [typed, setTyped] = useState("");
  const last = practice.heat[0];
  const band = last?.index === undefined ? undefined : bandAt(practice.settings.limits, last.index);
  const value = numberOf(typed);
  const wrong = typed.trim() !== "" && (value === null || Math.abs(value) > 200);
  const enter = (index?: number) => {
    void engine.submit({
      key: `heat/${practice.practice.id}/${uuid()}`,
      kind: "heat",
      content: { index },
      base: "0",
      about: { says: index === undefined ? "No heat index" : `Heat index ${index}`, href: pathname },
    });
    setTyped("");
  };
  const now = last?.index === undefined ? "Heat index" : `Heat index ${last.index}`;
  return (
    <Popover
      label="Heat index"
      className="grid max-w-sm gap-2 p-3"
      trigger={
        <Button className={band ? "border-watch" : undefined}>
          {band && (
            <span aria-hidden className="text-watch">
              △{" "}
            </span>
          )}
          {now}
        </Button>
      }
    >
      {last?.index !== undefined && (
        <p className="say text-small">
          <b>{last.index}</b>, entered by {last.by} at {time(last.at)}
          {band ? `: ${inBand(band)}.` : ": below the first band of your limits."}
        </p>
      )}
      <form
        className="flex items-end gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          if (value !== null && !wrong) enter(value);
        }}
      >
        <Field label="As measured" error={wrong ? "a number between -200 and 200" : undefined}>
          {(control) => (
            <input
              {...control}
              inputMode="decimal"
              maxLength={6}
              className="field w-24 text-right"
              value={typed}
              onChange={(e) => setTyped(e.target.value)}
            />
          )}
        </Field>
        <Button kind="main" type="submit" off={value === null || wrong}>
          Enter
        </Button>
        {last?.index !== undefined && (
          <Button kind="quiet" onClick={() => enter()}>
            None now
          </Button>
        )}
      </form>
      <p className="say text-small text-soft">
        The index your staff measures at the field, in the scale of your rule. The bands are the club&apos;s
        own setting: check your league&apos;s rule, and follow licensed staff.
      </p>
    </Popover>
  );
}
