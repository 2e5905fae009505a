import type { Schemas } from "@/api/client";
import { weekdayDate } from "@/parts/words";
import { situation } from "@/screens/film/plays";

/** A player's sheet on one page. */
export function SheetPaper({ sheet: s }: { sheet: Schemas["Feedback"] }) {
  const plays = new Map(s.plays.map((p) => [p.id, p.play]));
  const said = (id: string) => {
    const p = plays.get(id);
    return p ? `${p.number} (${[situation(p), p.call].filter(Boolean).join(", ")})` : "";
  };
  const points = [
    ...(s.best ? [{ kind: "Done best", p: s.best }] : []),
    ...s.fixes.map((p, i) => ({ kind: s.fixes.length > 1 ? `To fix, ${i + 1}` : "To fix", p })),
  ];
  return (
    <div className="print-only" data-paper="feedback" style={{ fontSize: "12pt" }}>
      <p style={{ fontSize: "20pt", fontWeight: 800 }}>
        {s.player.jersey} {s.player.first_name} {s.player.last_name}
      </p>
      <p>
        {s.game.opponent}, {weekdayDate(s.game.date)}
      </p>
      <table style={{ marginTop: "6pt" }}>
        <tbody>
          {points.map(({ kind, p }) => (
            <tr key={`${p.technique} ${p.fault}`}>
              <th scope="row" style={{ width: "18%" }}>
                {kind}
                {p.safety && <div>SAFETY</div>}
              </th>
              <td>
                <div style={{ fontSize: "15pt", fontWeight: 700 }}>{p.title}</div>
                <div>
                  {p.technique_name}: {p.fault ? `${p.n} of ${p.of}` : `clean on ${p.n} of ${p.of}`}
                </div>
                {p.text && <div style={{ marginTop: "3pt" }}>{p.text}</div>}
                <div style={{ marginTop: "3pt" }}>
                  {p.plays.length > 0 && `Plays ${p.plays.map(said).join("; ")}.`}
                  {p.pair && ` Play ${said(p.pair.wrong)} beside ${said(p.pair.right)}.`}
                </div>
                {p.drill && (
                  <div style={{ marginTop: "3pt" }}>
                    Drill: {p.drill}
                    {p.self_check && `. ${p.self_check}`}
                  </div>
                )}
                {p.stage && <div>Ladder: {p.stage}</div>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {s.note && <p style={{ marginTop: "6pt" }}>{s.note}</p>}
    </div>
  );
}
