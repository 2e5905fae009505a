import type { ReactNode } from "react";
import type { Schemas } from "@/api/client";
import { availability, clock, weekdayDate } from "@/parts/words";

interface Props {
  practice: Schemas["Practice"];
  library: Schemas["Library"];
  group: string;
  name: string;
  needs: Schemas["Need"][];
}

/** A panel is a quarter of the page: so many points are its own. */
const panel = { width: 385, height: 250 };

/** The largest type at which so many lines, of so many letters at most, go into a panel. */
export function typeFor(lines: number, letters: number): number {
  const byHeight = panel.height / (Math.max(1, lines) * 1.3);
  const byWidth = panel.width / (Math.max(1, letters) * 0.5);
  return Math.max(5, Math.min(12, byHeight, byWidth));
}

/** The card for the waistband: one page, folded twice, a panel on each quarter. */
export function PocketCard({ practice, library, group, name, needs }: Props) {
  const p = practice.practice;
  const mine = practice.periods.filter((x) => x.groups.includes(group));
  const drills = new Map(library.drills.map((d) => [d.key, d]));
  const own = practice.periods
    .filter((x) => x.own)
    .flatMap((x) => x.placements.map((d) => ({ ...d, at: p.start_minute + x.start + d.start })));
  const held = practice.held.map((h) => `${h.jersey} ${h.name}: ${availability[h.status]}`);
  const cautions = [...new Set(own.map((d) => drills.get(d.drill)?.cautions))].filter(Boolean).slice(0, 4);
  const type = typeFor(mine.length + 1, Math.max(30, ...mine.map((x) => x.name.length + 18)));
  return (
    <div className="print-only" data-paper="pocket" style={{ fontSize: "8pt" }}>
      <div
        style={{
          display: "grid",
          gridTemplateColumns: "1fr 1fr",
          gridTemplateRows: "91mm 91mm",
          height: "182mm",
        }}
      >
        <Panel title={`${name}: ${p.title}, ${weekdayDate(p.date)}`} size={type}>
          {mine.map((x) => (
            <div key={x.id} style={{ display: "flex", gap: "3mm" }}>
              <span>{clock(p.start_minute + x.start)}</span>
              <b style={{ flex: 1 }}>{x.name}</b>
              <span>
                {x.minutes} {x.contact !== "air" && x.contact}
              </span>
            </div>
          ))}
        </Panel>
        <Panel title="Drills" size={typeFor(3 * own.length + 1, 60)}>
          {own.length === 0 && <p>No drills placed yet.</p>}
          {own.map((d) => (
            <div key={d.id}>
              {clock(d.at)} <b>{d.name}</b>, {d.minutes} min, {d.lanes} lanes, <b>{d.reps.min} reps</b>
              {d.reps.sides === 2 && ` (${d.reps.per_side_min} a side)`}
              <br />
              <i>{drills.get(d.drill)?.watch}</i>
            </div>
          ))}
        </Panel>
        <Panel
          title="Not at full strength · cautions"
          size={typeFor(held.length + 3 * cautions.length + 3, 60)}
        >
          {held.length === 0 && <p>Everybody is at full strength.</p>}
          {held.map((h) => (
            <p key={h}>{h}</p>
          ))}
          {cautions.map((c) => (
            <p key={c}>△ {c}</p>
          ))}
          <p>Your league&apos;s rules and licensed medical staff come first.</p>
        </Panel>
        <Panel title="What hurts most · notes" size={10}>
          {needs.slice(0, 5).map((n) => (
            <p key={n.fault}>
              {n.safety && <b>SAFETY </b>}
              {n.name}: {n.faulty} of {n.n}
            </p>
          ))}
          {[1, 2, 3, 4].map((n) => (
            <div key={n} style={{ borderBottom: "0.4pt solid #000", height: "8mm" }} />
          ))}
        </Panel>
      </div>
    </div>
  );
}

function Panel({ title, size, children }: { title: string; size: number; children: ReactNode }) {
  return (
    <section
      style={{
        overflow: "hidden",
        padding: "2mm 3mm",
        outline: "0.4pt dashed #000",
        fontSize: `${size}pt`,
        lineHeight: 1.25,
      }}
    >
      <p style={{ borderBottom: "1pt solid #000", fontSize: "9pt", fontWeight: 700 }}>{title}</p>
      {children}
    </section>
  );
}
