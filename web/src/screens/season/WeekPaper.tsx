import { useShorts } from "@/parts/shorts";
import type { Schemas } from "@/api/client";
import { clock, count, weekdayDate } from "@/parts/words";
import { after, on, type Calendar } from "./days";
import type { Install } from "./ready";

interface Props {
  season: Schemas["Season"];
  week: number;
  club: string;
  calendar: Calendar;
  installs: ReadonlyMap<string, Install[]>;
}

/** A week on one page: what is on each day, and what is installed. */
export function WeekPaper({ season, week, club, calendar, installs }: Props) {
  const short = useShorts();
  const days = Array.from({ length: 7 }, (_, d) => after(season.start, 7 * (week - 1) + d));
  const contact = season.contact.find((c) => c.week === week)?.groups ?? [];
  return (
    <div className="print-only" data-paper="week" style={{ fontSize: "10pt" }}>
      <p style={{ display: "flex", justifyContent: "space-between", borderBottom: "1.5pt solid #000" }}>
        <b style={{ fontSize: "15pt" }}>Week {week}</b>
        <span>
          {club} · {weekdayDate(days[0]!)} to {weekdayDate(days[6]!)}
        </span>
      </p>
      <table style={{ marginTop: "4mm" }}>
        <tbody>
          {days.map((date) => (
            <tr key={date}>
              <th style={{ width: "26mm" }}>{weekdayDate(date)}</th>
              <td>
                {on(calendar, date).map(([id, e]) => (
                  <p key={id}>
                    {e.is === "game" ? (
                      <b>
                        Game against {e.of.opponent}, {e.of.home ? "at home" : "away"}
                      </b>
                    ) : (
                      <>
                        <b>{e.of.title}</b>
                        {e.of.theme && `, ${e.of.theme}`}, {clock(e.of.start_minute)}–
                        {clock(e.of.start_minute + e.of.minutes)}
                        {e.of.place && `, ${e.of.place}`}
                        {facts(season, id)}
                      </>
                    )}
                    {e.of.cancelled && <b> Called off: {e.of.cancelled}</b>}
                  </p>
                ))}
              </td>
              <td style={{ width: "62mm" }}>
                {(installs.get(date) ?? []).map((i) => (
                  <p key={i.id}>Install: {i.name}</p>
                ))}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p style={{ marginTop: "4mm" }}>
        <b>Contact, minutes of thud and live:</b>{" "}
        {contact.map((c) => `${short(c.group)} ${c.minutes}`).join(", ")}
        {season.contact_week !== undefined && `; the club's limit is ${season.contact_week} a week`}. Check
        your league&apos;s rule.
      </p>
    </div>
  );
}

function facts(season: Schemas["Season"], id: string) {
  const known = season.practices.find((p) => p.id === id);
  return known && known.periods > 0
    ? ` · ${count(known.periods, "period")}, ${known.contact} minutes of contact`
    : "";
}
