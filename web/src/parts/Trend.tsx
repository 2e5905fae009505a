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

/** How a claim looks, of a cell, a player or in a sentence. */
export const claims = {
  not_carrying: { shape: "◤", tone: "text-fault" },
  improving: { shape: "▲", tone: "text-good" },
  slipping: { shape: "▼", tone: "text-fault" },
} as const;

/** What is claimed; a drop in games is said before a trend. */
function claimed(of: Pick<Schemas["Overall"], "carry" | "carry_claimed" | "trend" | "trend_claimed">) {
  if (of.carry === "not_carrying" && of.carry_claimed) return "not_carrying";
  if (of.trend_claimed && (of.trend === "improving" || of.trend === "slipping")) return of.trend;
}

const thanBefore = {
  not_carrying: "drops in games more than others",
  improving: "better than before",
  slipping: "worse than before",
};

/** A cell is set beside itself: "than before". That nothing is claimed does not say that nothing changed. */
export function finding(cell: Schemas["Cell"]): Finding {
  const claim = claimed(cell);
  if (claim) return { ...claims[claim], word: thanBefore[claim] };
  if (cell.trend === "too_few")
    return { shape: "□", word: weak(cell) ? "too few reps" : "too few lately", tone: "text-soft" };
  if (cell.trend === "improving") return { shape: "△", word: "maybe better", tone: "text-soft" };
  if (cell.trend === "slipping") return { shape: "▽", word: "maybe worse", tone: "text-soft" };
  return { shape: "·", word: "no claim", tone: "text-soft" };
}

const thanOthers = {
  not_carrying: "drops in games more than the others",
  improving: "improved more than the others",
  slipping: "slipped more than the others",
};

/** A player over all his techniques is set beside the others: "more than the others". */
export function overallFinding(o: Schemas["Overall"]): Finding | undefined {
  const claim = claimed(o);
  return claim && { ...claims[claim], word: thanOthers[claim] };
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
