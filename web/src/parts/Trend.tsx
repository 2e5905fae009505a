import clsx from "clsx";
import type { Schemas } from "@/api/client";

type Finding = { shape: string; word: string; tone: string };

/** What is said of an estimate: a shape beside its word. Only claimed findings speak up. */
export function TrendWord({ cell, short }: { cell: Schemas["Cell"]; short?: boolean }) {
  return <Said say={finding(cell)} short={short} />;
}

/** What is claimed of a player over all his techniques; nothing when nothing is. */
export function OverallWord({ overall }: { overall: Schemas["Overall"] }) {
  const say = overallFinding(overall);
  return say && <Said say={say} />;
}

function Said({ say, short }: { say: Finding; short?: boolean }) {
  return (
    <span className={clsx("text-small font-semibold", short && "whitespace-nowrap", say.tone)}>
      <span aria-hidden>{say.shape}</span> {short ? <span className="sr-only">{say.word}</span> : say.word}
    </span>
  );
}

/** Whether there are too few reps to lean on: a trend needs six recent ones and six older ones. */
export function weak(cell: Schemas["Cell"]): boolean {
  return cell.trend === "too_few" && cell.reps < 12;
}

const tones = {
  drops: { shape: "◤", tone: "text-fault" },
  better: { shape: "▲", tone: "text-good" },
  worse: { shape: "▼", tone: "text-fault" },
};

/** A cell is set beside itself: "than before". That nothing is claimed does not say that nothing changed. */
export function finding(cell: Schemas["Cell"]): Finding {
  if (cell.carry === "not_carrying" && cell.carry_claimed)
    return { ...tones.drops, word: "drops in games more than others" };
  if (cell.trend === "improving" && cell.trend_claimed)
    return { ...tones.better, word: "better than before" };
  if (cell.trend === "slipping" && cell.trend_claimed) return { ...tones.worse, word: "worse than before" };
  if (cell.trend === "too_few")
    return { shape: "□", word: weak(cell) ? "too few reps" : "too few lately", tone: "text-soft" };
  if (cell.trend === "improving") return { shape: "△", word: "maybe better", tone: "text-soft" };
  if (cell.trend === "slipping") return { shape: "▽", word: "maybe worse", tone: "text-soft" };
  return { shape: "·", word: "no claim", tone: "text-soft" };
}

/** A player over all his techniques is set beside the others: "more than the others". */
export function overallFinding(o: Schemas["Overall"]): Finding | undefined {
  if (o.carry === "not_carrying" && o.carry_claimed)
    return { ...tones.drops, word: "drops in games more than the others" };
  if (o.trend === "improving" && o.trend_claimed)
    return { ...tones.better, word: "improved more than the others" };
  if (o.trend === "slipping" && o.trend_claimed)
    return { ...tones.worse, word: "slipped more than the others" };
}

/** How far a claim may be trusted. It stands wherever claims do. */
export function ClaimNote() {
  return (
    <p className="say mt-2 text-small text-soft">
      Of the claims of one kind on one day about one in ten is false, and who looks every week meets more.
      That nothing is claimed does not mean that nothing changed.
    </p>
  );
}
