import type { CellMark } from "./useMarking";

type Body = Omit<CellMark, "id">;

const blank = (player_id: string, rep: number): Body => ({ player_id, rep, state: "looked", faults: [] });

/** A rep that is clean because the coach moved on. */
export const assumed = (player_id: string, rep: number): Body => ({ player_id, rep, state: "assumed" });

/** The cell with a fault put in, or taken out if it stands there. */
export function toggleFault(now: CellMark | undefined, player: string, rep: number, key: string): Body {
  const faults = now?.faults ?? [];
  const has = faults.some((f) => f.key === key);
  return {
    ...looked(now, player, rep),
    faults: has ? faults.filter((f) => f.key !== key) : [...faults, { key }],
    technique: undefined, // follows from the faults
  };
}

/** The cell with its last fault changed; what the technique is follows from the faults. */
function withLast(
  now: CellMark | undefined,
  player: string,
  rep: number,
  change: (f: NonNullable<CellMark["faults"]>[number]) => NonNullable<CellMark["faults"]>[number],
): Body {
  const faults = now?.faults ?? [];
  return {
    ...looked(now, player, rep),
    faults: faults.map((f, i) => (i === faults.length - 1 ? change(f) : f)),
    technique: undefined,
  };
}

/** The cell with its last fault charged to the teammate who caused it; charged to him already, to the player again. */
export const charge = (now: CellMark | undefined, player: string, rep: number, teammate: string): Body =>
  withLast(now, player, rep, (f) => ({
    ...f,
    caused_by: f.caused_by === teammate ? undefined : teammate,
  }));

/** The cell with its last fault as one that drew a flag, or as one that did not. */
export const drewFlag = (now: CellMark | undefined, player: string, rep: number): Body =>
  withLast(now, player, rep, (f) => ({ ...f, penalty: f.penalty ? undefined : true }));

/** Whether something of a mark is charged to the player himself. */
export const faulty = (m: Pick<CellMark, "faults" | "technique" | "assignment">): boolean =>
  (m.faults ?? []).some((f) => !f.caused_by) || m.technique === 0 || m.assignment === 0;

/** The cell with a facet changed from right to wrong or back. */
export function toggleFacet(
  now: CellMark | undefined,
  player: string,
  rep: number,
  facet: "assignment" | "technique" | "finish",
): Body {
  const wrong = now?.[facet] === 0;
  return { ...looked(now, player, rep), [facet]: wrong ? 1 : 0 };
}

/** The cell as not gradable for a reason, or looked at and clean if that is what it says already. */
export function toggleState(
  now: CellMark | undefined,
  player: string,
  rep: number,
  state: "unseen" | "unsettled",
): Body {
  if (now?.state === state) return blank(player, rep);
  return { player_id: player, rep, state, note: now?.note, side: now?.side };
}

/** The cell as one that was looked at, with what it said. */
export function looked(now: CellMark | undefined, player: string, rep: number): Body {
  if (!now || now.state !== "looked")
    return { ...blank(player, rep), note: now?.note, praise: now?.praise, side: now?.side };
  const {
    player_id,
    rep: r,
    state,
    assignment,
    technique,
    finish,
    faults,
    measures,
    praise,
    note,
    side,
  } = now;
  return { player_id, rep: r, state, assignment, technique, finish, faults, measures, praise, note, side };
}

/** The side a rep is done on when nothing else is said: left and right in turn. */
export const sideOf = (rep: number, swapped: boolean): "left" | "right" =>
  (rep % 2 === 1) !== swapped ? "left" : "right";

/** What a cell says in words, for the panel and for screen readers. */
export function words(cell: CellMark | undefined, name: (fault: string) => string): string {
  if (!cell) return "not marked";
  if (cell.state === "assumed") return "assumed clean";
  if (cell.state === "unseen") return "unseen";
  if (cell.state === "unsettled") return "open question";
  if (cell.state === "not_gradable") return "not gradable";
  const parts = (cell.faults ?? []).map((f) =>
    [name(f.key), f.caused_by && "caused by a teammate", f.penalty && "drew a flag"]
      .filter(Boolean)
      .join(", "),
  );
  if (cell.assignment === 0) parts.push("wrong assignment");
  if (cell.technique === 0 && parts.length === 0) parts.push("technique wrong");
  if (cell.finish === 0) parts.push("no finish");
  for (const m of cell.measures ?? []) parts.push(`measured ${m.value}`);
  if (cell.praise) parts.push("praised");
  return parts.length > 0 ? parts.join(", ") : "looked at, clean";
}
