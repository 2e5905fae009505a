import { useLocation } from "react-router";
import { v7 as uuid } from "uuid";
import type { Schemas } from "@/api/client";
import { Button } from "@/kit/Button";
import { count } from "@/parts/words";
import { useSync } from "@/sync/context";

/** Who comes back after a long absence, on which of his first days, and what they allow. */
export function Returning({ practice }: { practice: Schemas["Practice"] }) {
  const { engine } = useSync();
  const { pathname } = useLocation();
  if (practice.returning.length === 0) return null;
  const { date } = practice.practice;
  const limit = (p: Schemas["ReturningPlayer"]) =>
    void engine.submit({
      key: `spell/${p.player_id}/${uuid()}`,
      kind: "spell",
      content: {
        status: "limited",
        from: date,
        to: date,
        reason: `Day ${p.day} of ${p.of} after ${count(p.away, "day")} away: no contact.`,
      },
      base: "0",
      about: { says: `${p.jersey} ${p.name}, limited`, href: pathname },
    });
  return (
    <section className="sheet mb-3 grid gap-1 p-3" aria-label="On the way back">
      <h2 className="head">On the way back</h2>
      <ul className="grid gap-1.5">
        {practice.returning.map((p) => (
          <li key={p.player_id} className="flex flex-wrap items-center gap-x-3 gap-y-1 text-small">
            <span>
              <b>
                {p.jersey} {p.name}
              </b>{" "}
              day {p.day} of {p.of} after {count(p.away, "day")} away: nothing above {p.contact}
              {p.gear && `, ${p.gear}`}
            </span>
            {practice.editable && p.limit && (
              <Button className="text-small" onClick={() => limit(p)}>
                No contact for {p.name} that day
              </Button>
            )}
          </li>
        ))}
      </ul>
      <p className="say text-small text-soft">
        The days are the club&apos;s own setting: check your league&apos;s rule, and follow licensed staff.
      </p>
    </section>
  );
}
