import clsx from "clsx";
import type { Schemas } from "@/api/client";

/** What is said of an estimate: a shape beside its word. Only claimed findings speak up. */
export function TrendWord({ cell, short }: { cell: Schemas["Cell"]; short?: boolean }) {
  const say = finding(cell);
  return (
    <span className={clsx("whitespace-nowrap text-small font-semibold", say.tone)}>
      <span aria-hidden>{say.shape}</span> {short ? <span className="sr-only">{say.word}</span> : say.word}
    </span>
  );
}

/** Whether there are too few reps to lean on: a trend needs six recent ones and six older ones. */
export function weak(cell: Schemas["Cell"]): boolean {
  return cell.trend === "too_few" && cell.reps < 12;
}

export function finding(cell: Schemas["Cell"]): { shape: string; word: string; tone: string } {
  if (cell.carry === "not_carrying" && cell.carry_claimed)
    return { shape: "◤", word: "drops in games", tone: "text-fault" };
  if (cell.trend === "improving" && cell.trend_claimed)
    return { shape: "▲", word: "improving", tone: "text-good" };
  if (cell.trend === "slipping" && cell.trend_claimed)
    return { shape: "▼", word: "slipping", tone: "text-fault" };
  if (cell.trend === "too_few")
    return { shape: "□", word: weak(cell) ? "too few reps" : "too few lately", tone: "text-soft" };
  if (cell.trend === "improving") return { shape: "△", word: "maybe improving", tone: "text-soft" };
  if (cell.trend === "slipping") return { shape: "▽", word: "maybe slipping", tone: "text-soft" };
  return { shape: "■", word: "steady", tone: "text-soft" };
}
