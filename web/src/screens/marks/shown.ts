import type { Schemas } from "@/api/client";
import type { CellMark } from "./useMarking";

type Sheet = Schemas["MarkSheet"];
type Body = Omit<CellMark, "id">;

/** What has the turn at a rep: in their order, and then again from the first. */
const inTurn = <T>(list: T[] | undefined, rep: number): T | undefined =>
  list?.length ? list[(rep - 1) % list.length] : undefined;

/** The card of a rep. */
export const cardAt = (sheet: Sheet, rep: number): Schemas["SheetCard"] | undefined =>
  inTurn(sheet.cards, rep);

/** Where a rep is done from. */
export const fromAt = (sheet: Sheet, rep: number): string | undefined => inTurn(sheet.from_each, rep);

/** The place that a player has on a card: the one chosen for him, else his own position, else the first. */
export function placeOf(
  card: Schemas["SheetCard"],
  player: Schemas["Player"],
  chosen: ReadonlyMap<string, string>,
): string | undefined {
  const places = card.places?.map((p) => p.place);
  if (!places?.length) return undefined;
  const wanted = [chosen.get(player.id), player.position.toLowerCase()];
  return wanted.find((p) => p !== undefined && places.includes(p)) ?? places[0];
}

/** The technique that a card asks of a place; what the drill is marked as where there is no card. */
export const askedOf = (sheet: Sheet, card?: Schemas["SheetCard"], place?: string): string =>
  card?.asks ?? card?.places?.find((p) => p.place === place)?.technique ?? sheet.technique;

const known = new WeakMap<Sheet, Map<string, Sheet>>();

/** A sheet that is made of another is made once, so that what hangs on it is not worked out at every key. */
function made(sheet: Sheet, key: string, parts: () => Partial<Sheet>): Sheet {
  const of = known.get(sheet) ?? new Map<string, Sheet>();
  known.set(sheet, of);
  const it = of.get(key) ?? { ...sheet, ...parts() };
  of.set(key, it);
  return it;
}

/** The sheet as it is of one of the techniques that the drill shows: its faults and what can be measured. */
export function sheetOf(sheet: Sheet, technique: string): Sheet {
  const t = sheet.techniques?.find((x) => x.key === technique);
  if (!t || technique === sheet.technique) return sheet;
  const { faults, measures, decided } = t;
  return made(sheet, technique, () => ({ technique, technique_name: t.name, faults, measures, decided }));
}

/** The sheet whose faults are those of all techniques that one rep shows; the sheet itself where it shows one. */
export function wholeOf(sheet: Sheet): Sheet {
  const { shows, techniques } = sheet;
  if (shows !== "each" || !techniques) return sheet;
  return made(sheet, "", () => {
    const faults = new Map(techniques.flatMap((t) => t.faults).map((f) => [f.key, f]));
    const measures = new Map(techniques.flatMap((t) => t.measures).map((m) => [m.checkpoint, m]));
    return { faults: [...faults.values()], measures: [...measures.values()] };
  });
}

/** What a rep that shows several techniques says of each: a fault and a measure go to the technique they belong to. */
export function split(sheet: Sheet, m: Body): Body[] {
  if (sheet.shows !== "each" || !sheet.techniques) return [m];
  return sheet.techniques.map((t) => {
    const its = new Set(t.faults.map((f) => f.key));
    const reads = new Set(t.measures.map((x) => x.checkpoint));
    const first = t.key === sheet.technique;
    return {
      ...(first ? m : { player_id: m.player_id, rep: m.rep, state: m.state, side: m.side }),
      faults: m.faults?.filter((f) => its.has(f.key)),
      measures: m.measures?.filter((x) => reads.has(x.checkpoint)),
      technique_key: t.key,
    };
  });
}

/** The cell of a rep from what stands of each technique in it. */
export function join(sheet: Sheet, marks: CellMark[]): CellMark | undefined {
  const first = marks.find((m) => (m.technique_key ?? sheet.technique) === sheet.technique) ?? marks[0];
  if (!first || marks.length === 1) return first;
  const faults = new Map(marks.flatMap((m) => m.faults ?? []).map((f) => [f.key, f]));
  const measures = marks.flatMap((m) => m.measures ?? []);
  return {
    ...first,
    faults: first.faults || faults.size > 0 ? [...faults.values()] : undefined,
    measures: measures.length > 0 ? measures : undefined,
  };
}

/** The first rep of a drill that is on film, and the row of the first player of it; undefined when none is. */
export function firstFilmed(
  sheet: Pick<Sheet, "players">,
  clips: Schemas["Clip"][],
): { rep: number; row: number } | undefined {
  const rows = new Map(sheet.players.map((p, row) => [p.id, row]));
  const of = clips.flatMap(({ rep, player_id }) => {
    const row = player_id === undefined ? undefined : rows.get(player_id);
    return rep === undefined || row === undefined ? [] : [{ rep, row }];
  });
  return of.sort((a, b) => a.rep - b.rep || a.row - b.row)[0];
}
