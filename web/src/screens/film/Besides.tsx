import { Link, useLocation, useSearchParams } from "react-router";
import type { Schemas } from "@/api/client";
import { faulty } from "@/screens/marks/cell";
import { count } from "@/parts/words";
import type { Cells } from "./grading";

/** What stands beside the grades, counted: process against result, and what is tallied apart. Each is a cut-up. */
export function Besides({ cells, techniques }: { cells: Cells; techniques: Schemas["SheetTechnique"][] }) {
  const fouls = new Set(techniques.flatMap((t) => t.faults.filter((f) => f.penalty).map((f) => f.key)));
  const { pathname } = useLocation();
  const [params] = useSearchParams();
  const n = {
    won: 0,
    lost: 0,
    rightLost: 0,
    wrongWon: 0,
    effort: 0,
    none: 0,
    echoed: 0,
    calls: 0,
    ours: 0,
    fouls: 0,
    flags: 0,
  };
  for (const { mark } of cells.values()) {
    const has = (t: string) => !!mark.tallies?.some((x) => x === t);
    if (mark.result === 1) n.won++;
    if (mark.result === 0) n.lost++;
    if (mark.result === 0 && !faulty(mark)) n.rightLost++;
    if (mark.result === 1 && faulty(mark)) n.wrongWon++;
    if (has("effort")) n.effort++;
    if (has("no_effort")) n.none++;
    if (has("call_echoed")) n.echoed++;
    if (has("call_echoed") || has("call_not_echoed") || has("call_missing")) n.calls++;
    if (has("wrong_call")) n.ours++;
    if (mark.faults?.some((f) => fouls.has(f.key))) n.fouls++;
    if (mark.faults?.some((f) => f.penalty)) n.flags++;
  }
  const list: [number, string, string][] = [
    [n.rightLost, `right but lost: ${n.rightLost}`, "right but lost"],
    [n.wrongWon, `wrong but won: ${n.wrongWon}`, "wrong but won"],
    [
      n.effort + n.none,
      `effort away from the ball: ${n.effort}${n.none > 0 ? `, none ${n.none}` : ""}`,
      "effort",
    ],
    [n.calls, `exchange calls echoed: ${n.echoed} of ${n.calls}`, "call echoed"],
    [n.ours, `our own wrong calls: ${n.ours}`, "wrong call"],
  ];
  const shown = list.filter(([k]) => k > 0);
  if (n.won + n.lost + n.fouls + n.flags === 0 && shown.length === 0) return null;
  const to = (cut: string) => {
    const next = new URLSearchParams(params);
    next.set("cut", cut);
    return { pathname, search: next.toString() };
  };
  return (
    <p
      className="say mt-1 flex flex-wrap gap-x-4 gap-y-1 text-small text-soft"
      aria-label="Beside the grades"
      role="group"
    >
      {n.won + n.lost > 0 && (
        <span>
          {n.won} won, {n.lost} lost
        </span>
      )}
      {shown.map(([, says, cut]) => (
        <Link key={cut} className="textual" to={to(cut)}>
          {says}
        </Link>
      ))}
      {n.fouls > 0 && <span>{count(n.fouls, "foul")} by the rules</span>}
      {n.flags > 0 && <span>{count(n.flags, "flag")}</span>}
    </p>
  );
}
