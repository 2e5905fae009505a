import type { CSSProperties } from "react";
import type { Schemas } from "@/api/client";
import { clock, weekdayDate } from "@/parts/words";
import { stretches, type Script } from "./periods";

interface Props {
  practice: Schemas["Practice"];
  groups: Schemas["GroupRef"][];
  script: Script;
}

const high = 172; // mm, of the minutes on a page on its side

/** How a kind of period is told apart in black on white. */
const looks: Record<string, CSSProperties> = {
  water: { borderStyle: "dashed" },
  team: { borderWidth: "2pt" },
  walk_through: { borderStyle: "dotted" },
};

/** The whole script for the wall, on one page: groups beside each other, minutes downwards. */
export function WallScript({ practice, groups, script }: Props) {
  const p = practice.practice;
  const lanes = groups.map((g) => g.key);
  const places = new Map(practice.settings.places.map((x) => [x.key, x.name]));
  const fives = Array.from({ length: Math.floor(p.minutes / 10) + 1 }, (_, i) => 10 * i);
  const top = (minute: number) => `${(high * minute) / p.minutes}mm`;
  return (
    <div className="print-only" data-paper="wall">
      <p style={{ display: "flex", justifyContent: "space-between", borderBottom: "1.5pt solid #000" }}>
        <b style={{ fontSize: "15pt" }}>
          {p.title}, {weekdayDate(p.date)}
        </b>
        <span>
          {[practice.theme, practice.place, `${clock(p.start_minute)}–${clock(p.start_minute + p.minutes)}`]
            .filter(Boolean)
            .join(" · ")}
        </span>
      </p>
      <div style={{ display: "flex", fontWeight: 700, paddingLeft: "14mm", fontSize: "11pt" }}>
        {groups.map((g) => (
          <span key={g.key} style={{ flex: 1, textAlign: "center" }}>
            {g.short}
          </span>
        ))}
      </div>
      <div style={{ position: "relative", height: `${high}mm`, marginLeft: "14mm", overflow: "hidden" }}>
        {fives.map((m) => (
          <div
            key={m}
            style={{ position: "absolute", top: top(m), left: 0, right: 0, borderTop: "0.3pt solid #888" }}
          />
        ))}
        {[...script].flatMap(([id, e]) =>
          stretches(e.groups, lanes).map((s) => {
            const tall = (high * e.minutes) / p.minutes;
            return (
              <div
                key={id + s.from}
                style={{
                  position: "absolute",
                  overflow: "hidden",
                  boxSizing: "border-box",
                  border: "0.8pt solid #000",
                  background: "#fff",
                  padding: "0 1mm",
                  lineHeight: 1.15,
                  fontSize: tall < 5 ? "6.5pt" : "8pt",
                  left: `${(100 * s.from) / lanes.length}%`,
                  width: `${(100 * s.rows) / lanes.length}%`,
                  top: top(e.start),
                  height: `${tall}mm`,
                  ...looks[e.kind],
                }}
              >
                <b>{e.name}</b> {clock(p.start_minute + e.start)}
                {tall >= 8 && (
                  <>
                    <br />
                    {[e.contact !== "air" && e.contact, e.place && (places.get(e.place) ?? e.place)]
                      .filter(Boolean)
                      .join(" · ")}
                  </>
                )}
              </div>
            );
          }),
        )}
      </div>
      <div style={{ position: "relative", height: 0 }}>
        {fives.map((m) => (
          <span
            key={m}
            style={{
              position: "absolute",
              left: 0,
              bottom: `calc(${high}mm - ${top(m)} - 3pt)`,
              fontSize: "8pt",
            }}
          >
            {clock(p.start_minute + m)}
          </span>
        ))}
      </div>
    </div>
  );
}
