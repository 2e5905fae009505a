import type { Schemas } from "@/api/client";
import { sizeOf } from "@/parts/paper";

/** The teaching card: cues only, black on white, one page for the wall of the meeting room. */
export function Card({
  technique,
  library,
}: {
  technique: Schemas["Technique"];
  library: Schemas["Library"];
}) {
  const safety = technique.faults.filter((f) => f.safety);
  const size = sizeOf(technique.checkpoints.length, 400, 1.65, 27, 12);
  const ladder = library.ladders.find((l) => l.technique === technique.key);
  return (
    <div className="print-only" aria-label="Cue card" role="region">
      <p style={{ fontSize: "34pt", fontWeight: 800, borderBottom: "2.5pt solid #000", lineHeight: 1.15 }}>
        {technique.name}
      </p>
      <ol style={{ marginTop: "2pt" }}>
        {technique.checkpoints.map((c) => (
          <li
            key={c.key}
            style={{
              display: "grid",
              gridTemplateColumns: "170pt 1fr",
              alignItems: "baseline",
              borderBottom: "0.6pt solid #000",
              padding: "0.22em 0",
              fontSize: `${size}pt`,
            }}
          >
            <span style={{ fontSize: "0.52em", textTransform: "uppercase", letterSpacing: "0.06em" }}>
              {c.phase}
            </span>
            <b style={{ lineHeight: 1.15 }}>{c.cue}</b>
          </li>
        ))}
      </ol>
      {safety.length > 0 && (
        <p style={{ border: "1.5pt solid #000", padding: "4pt 6pt", marginTop: "9pt" }}>
          <b>Safety first.</b> Stop the rep: {safety.map((f) => f.name.toLowerCase()).join("; ")}.
        </p>
      )}
      {ladder && (
        <p style={{ marginTop: "8pt" }}>
          <b>We climb:</b> {ladder.stages.map((s) => s.name).join(" → ")}
        </p>
      )}
    </div>
  );
}
