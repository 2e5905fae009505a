import type { CellMark } from "@/screens/marks/useMarking";

type Said = Pick<CellMark, "state" | "assignment" | "technique" | "finish" | "faults" | "grade">;

/** A mark as it judges: one that is assumed says what one says that was looked at and clean. */
function judged({ state, assignment, technique, finish, faults = [], grade }: Said): string {
  if (state !== "assumed" && state !== "looked") return state;
  const wrong = technique ?? (faults.some((f) => !f.caused_by) ? 0 : 1);
  const named = faults.map((f) => `${f.key} ${f.caused_by ?? ""}`).sort();
  return JSON.stringify([assignment ?? 1, wrong, finish ?? null, grade ?? null, named]);
}

/** Whether two marks judge a rep alike. */
export const alike = (a: Said, b: Said) => judged(a) === judged(b);
