import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { availability, clock, weekdayDate } from "@/parts/words";
import { sizeFor } from "./fit";

interface Props {
  practice: Schemas["Practice"];
  library: Schemas["Library"];
  group: string;
}

const contact = (c: string) => (c === "air" ? "" : c);

/** How many periods stand under each other; more stand beside them. */
const perPart = 22;

/** A list in parts of at most so many, as alike in length as may be. */
function inParts<T>(list: T[], most: number): T[][] {
  const parts = Math.max(1, Math.ceil(list.length / most));
  const each = Math.ceil(list.length / parts);
  return Array.from({ length: parts }, (_, i) => list.slice(i * each, (i + 1) * each));
}

/** The practice on one page of paper, black on white: the group's script, its drills and their reps. */
export function PrintSheet({ practice, library, group }: Props) {
  const frame = useQuery(queries.frame());
  const p = practice.practice;
  const drills = new Map(library.drills.map((d) => [d.key, d]));
  const mine = practice.periods.filter((x) => x.groups.includes(group));
  const name = frame.data?.groups.find((g) => g.key === group)?.name ?? group;
  const own = practice.periods.filter((x) => x.own);
  const script = inParts(mine, perPart);
  const share = Math.min(54, 14 + 20 * script.length) / 100;
  const cautions = [...new Set(own.flatMap((x) => x.placements.map((d) => drills.get(d.drill)?.cautions)))]
    .filter(Boolean)
    .join(" ");
  const held = practice.held.map((h) => `${h.jersey} ${h.name} (${availability[h.status]})`).join(", ");
  const size = sizeFor([
    ...script.map((list) => ({
      share: share / script.length,
      fixed: 112,
      rows: list.map((x) => [{ length: x.name.length, share: 1 }]),
    })),
    {
      share: 1 - share,
      fixed: 170,
      rows: own.flatMap((x) =>
        x.placements.map((d) => {
          const words = drills.get(d.drill);
          return [
            { length: d.name.length, share: 0.3 },
            { length: (words?.watch.length ?? 0) + (words?.self_check?.text?.length ?? 0), share: 0.7 },
          ];
        }),
      ),
      under: cautions.length + held.length + 140,
    },
  ]);
  return (
    <div className="print-only" style={{ fontSize: `${size}pt` }}>
      <p
        style={{
          display: "flex",
          justifyContent: "space-between",
          borderBottom: "1.5pt solid #000",
          paddingBottom: "2pt",
        }}
      >
        <b>
          {name}: {p.title}, {weekdayDate(p.date)}
        </b>
        <span>
          {[practice.theme, practice.place, frame.data?.club].filter(Boolean).join(" · ")} ·{" "}
          {practice.players} players
        </span>
      </p>
      <div
        style={{
          display: "grid",
          gridTemplateColumns: `${100 * share}% minmax(0, 1fr)`,
          gap: "8pt",
          marginTop: "5pt",
          alignItems: "start",
        }}
      >
        <div style={{ display: "flex", gap: "6pt", alignItems: "start" }}>
          {script.map((part, i) => (
            <Script key={i} practice={practice} periods={part} />
          ))}
        </div>
        <div>
          <table>
            <thead>
              <tr>
                <th>Time</th>
                <th>Min</th>
                <th>Drill</th>
                <th>Lanes</th>
                <th>Reps</th>
                <th>Watch · self-check</th>
              </tr>
            </thead>
            <tbody>
              {own.flatMap((x) =>
                x.placements.map((d) => (
                  <tr key={d.id}>
                    <td>{clock(p.start_minute + x.start + d.start)}</td>
                    <td>{d.minutes}</td>
                    <td>
                      <b>{d.name}</b>
                    </td>
                    <td>{d.lanes}</td>
                    <td>
                      <b>{d.reps.min}</b>
                      {d.reps.sides === 2 && ` (${d.reps.per_side_min} a side)`}
                    </td>
                    <td>
                      {drills.get(d.drill)?.watch}. <i>{drills.get(d.drill)?.self_check?.text}.</i>
                    </td>
                  </tr>
                )),
              )}
              {own.every((x) => x.placements.length === 0) && (
                <tr>
                  <td colSpan={6}>No drills placed yet.</td>
                </tr>
              )}
            </tbody>
          </table>
          {practice.held.length > 0 && (
            <p style={{ marginTop: "5pt" }}>
              <b>Not at full strength:</b> {held}
            </p>
          )}
          <p style={{ marginTop: "5pt" }}>
            <b>Cautions:</b> {cautions} Your league&apos;s rules and licensed medical staff come first.
          </p>
        </div>
      </div>
    </div>
  );
}

function Script({ practice, periods }: { practice: Schemas["Practice"]; periods: Schemas["Period"][] }) {
  return (
    <table>
      <thead>
        <tr>
          <th>Time</th>
          <th>Min</th>
          <th>Period</th>
          <th>Contact</th>
        </tr>
      </thead>
      <tbody>
        {periods.map((x) => (
          <tr key={x.id}>
            <td>{clock(practice.practice.start_minute + x.start)}</td>
            <td>{x.minutes}</td>
            <td>{x.own ? <b>{x.name}</b> : x.name}</td>
            <td>{contact(x.contact)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
