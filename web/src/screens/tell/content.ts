import type { Schemas } from "@/api/client";

type Point = Schemas["Point"];

export const pointInput = (p: Point): Schemas["PointInput"] => ({
  technique: p.technique,
  fault: p.fault,
  text: p.text,
  plays: p.plays,
  pair: p.pair,
  drill: p.drill_key,
});

/** What is on a sheet as it is written. */
export const inputOf = (f: Schemas["Feedback"]): Schemas["FeedbackInput"] => ({
  best: f.best && pointInput(f.best),
  fixes: f.fixes.map(pointInput),
  note: f.note,
});

/** A sheet as it is shown while what is written on it waits to be saved. */
export function shown(f: Schemas["Feedback"], mine: Schemas["FeedbackInput"]): Schemas["Feedback"] {
  const known = [...(f.best ? [f.best] : []), ...f.fixes];
  const point = (p: Schemas["PointInput"]): Point => {
    const was = known.find((k) => k.technique === p.technique && k.fault === p.fault);
    return {
      ...(was ?? { technique_name: p.technique, title: p.fault ?? p.technique, n: 0, of: 0, safety: false }),
      technique: p.technique,
      fault: p.fault,
      text: p.text,
      plays: p.plays,
      pair: p.pair,
      ...(p.drill === undefined && { drill_key: undefined, drill: undefined, self_check: undefined }),
    };
  };
  return { ...f, best: mine.best && point(mine.best), fixes: mine.fixes.map(point), note: mine.note };
}
