import { useQueries } from "@tanstack/react-query";
import { useEffect } from "react";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { RotationTable } from "@/parts/RotationTable";
import { clock, menWords, weekdayDate } from "@/parts/words";
import { Drawing } from "@/screens/teaching/Drawing";
import { inPack } from "./arrange";

interface Props {
  practice: Schemas["Practice"];
  library: Schemas["Library"];
  name: string;
  /** All of it is there: it can go to paper. */
  onReady: () => void;
}

/** The own period on one page: every drill with its drawing and who works when. */
export function DrawnPaper({ practice, library, name, onReady }: Props) {
  const p = practice.practice;
  const drills = new Map(library.drills.map((d) => [d.key, d]));
  const own = practice.periods
    .filter((x) => x.own)
    .flatMap((x) =>
      x.placements.map((d) => ({ ...d, version: x.version, at: p.start_minute + x.start + d.start })),
    );
  const rotations = useQueries({ queries: own.map((d) => queries.rotation(p.id, d.id, d.version)) });
  const ready = rotations.every((r) => r.data ?? r.error);
  useEffect(() => {
    if (ready) onReady();
  }, [ready, onReady]);
  const columns = Math.max(1, Math.min(own.length, own.length <= 4 ? 2 : own.length <= 6 ? 3 : 4));
  const rows = Math.max(1, Math.ceil(own.length / columns));
  const high = 172 / rows;
  return (
    <div
      className="print-only"
      data-paper="drawn"
      data-ready={ready || undefined}
      style={{ fontSize: "8pt" }}
    >
      <p style={{ display: "flex", justifyContent: "space-between", borderBottom: "1.5pt solid #000" }}>
        <b>
          {name}: {p.title}, {weekdayDate(p.date)}
        </b>
        <span>{practice.players} players</span>
      </p>
      <div
        style={{ display: "grid", gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))`, gap: "0 3mm" }}
      >
        {own.map((d, i) => {
          const drill = drills.get(d.drill);
          const table = rotations[i]?.data;
          return (
            <section
              key={d.id}
              style={{
                height: `${high}mm`,
                overflow: "hidden",
                borderBottom: "0.6pt solid #000",
                breakInside: "avoid",
              }}
            >
              <p>
                <b>
                  {clock(d.at)} {d.name}
                </b>
                , {d.minutes} min, {d.lanes} lanes, {d.reps.min} reps
              </p>
              {drill && <HowItRuns drill={drill} order={d.cards} reps={d.reps.max} />}
              <div style={{ display: "grid", gridTemplateColumns: rows > 1 ? "42% 1fr" : "1fr", gap: "2mm" }}>
                <div
                  style={{ maxHeight: `${high * (rows > 1 ? 0.85 : 0.45)}mm`, overflow: "hidden", zoom: 0.6 }}
                >
                  {drill && <Drawing drill={drill} />}
                </div>
                <div className="paper-rotation">
                  {table && table.rows.length > 0 && <RotationTable rotation={table} />}
                </div>
              </div>
            </section>
          );
        })}
      </div>
      {own.length === 0 && <p>No drills placed yet.</p>}
    </div>
  );
}

/** Who starts it, who goes where, what ends it, where the coach stands, and the cards of the reps, in small print. */
function HowItRuns({ drill, order, reps }: { drill: Schemas["DrillEntry"]; order?: string[]; reps: number }) {
  const { coach } = drill;
  const stands =
    coach?.at ??
    [coach?.side, coach?.yards && `${coach.yards} yd`, coach?.level && `level with ${coach.level}`]
      .filter(Boolean)
      .join(", ");
  const says = [
    ["Starts", drill.start],
    ["Then", drill.rotation],
    ["Ends", drill.ends],
    ["From, in turn:", drill.from_each?.join(", ")],
    ["Coach", stands],
    ["Stop when:", drill.stop_when],
  ].filter(([, text]) => text);
  const cards = inPack(drill, order).slice(0, Math.max(reps, 1));
  return (
    <p style={{ fontSize: "6.4pt", lineHeight: 1.15 }}>
      {says.map(([word, text]) => (
        <span key={word}>
          <b>{word}</b> {text}.{" "}
        </span>
      ))}
      {cards.length > 0 && <b>Cards </b>}
      {cards.map((c, i) => (
        <span key={c.key}>
          {i + 1} {c.look}
          {c.men && ` (${menWords(c.men)})`} → {c.right};{" "}
        </span>
      ))}
    </p>
  );
}
