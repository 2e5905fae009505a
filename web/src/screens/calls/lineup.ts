import type { Schemas } from "@/api/client";
import { changed } from "@/kit/reorder";
import type { Of } from "@/sync/sheet";

export type Spot = Schemas["LineUpSpot"];
export type Spots = readonly Spot[];

/** A group's line-up from a week on: one record. */
export const lineUpOf = (group: string, week: number, name: string): Of<Spots> => ({
  idOf: (key) => (key === `lineUp/${group}/${week}` ? group : undefined),
  keyOf: () => `lineUp/${group}/${week}`,
  read: (_key, content) => (content as Schemas["LineUpInput"]).spots,
  write: (_id, spots) => ({ spots }),
  alike: (a, b) => JSON.stringify(a) === JSON.stringify(b),
  says: () => `Line-up of ${name}`,
});

/** The per cent of the snaps that are still open at a spot. */
export const openAt = (s: Spot) => 100 - s.players.reduce((sum, p) => sum + p.share, 0);

/** The per cent of the snaps that a player is on the field, over all spots. */
export const shareOf = (spots: Spots, player: string) =>
  spots.reduce((sum, s) => sum + (s.players.find((p) => p.player_id === player)?.share ?? 0), 0);

/** The most a player may be given at a spot: what is open there and of his own snaps. */
export function mostAt(spots: Spots, at: number, player: string) {
  const s = spots[at];
  const has = s?.players.find((p) => p.player_id === player)?.share ?? 0;
  return s ? has + Math.min(openAt(s), 100 - shareOf(spots, player)) : 0;
}

const replaced = (spots: Spots, at: number, players: Spot["players"]): Spots =>
  changed(spots, at, { players });

/**
 * Puts a player at a place of a spot. From another spot he brings his share along, as far as it is open; from the
 * bench he gets what is open when nobody is before him. At a spot where he stands already he is moved.
 */
export function put(
  spots: Spots,
  player: string,
  from: number | undefined,
  to: number,
  place: number,
): Spots {
  const target = spots[to];
  if (!target) return spots;
  const before = target.players.findIndex((p) => p.player_id === player);
  const had = from === undefined ? undefined : spots[from]?.players.find((p) => p.player_id === player);
  if (before >= 0 && from !== to) return spots; // he is there already
  const left = from === undefined ? spots : out(spots, player, from);
  const share = had?.share ?? (left[to]!.players.length === 0 ? 100 : 0);
  const given = Math.max(0, Math.min(share, openAt(left[to]!), 100 - shareOf(left, player)));
  const players = [...left[to]!.players];
  const at = Math.max(0, Math.min(place, players.length));
  players.splice(at, 0, { player_id: player, share: given });
  return replaced(left, to, players);
}

/** Takes a player away from a spot. */
export const out = (spots: Spots, player: string, at: number): Spots =>
  replaced(spots, at, spots[at]?.players.filter((p) => p.player_id !== player) ?? []);

/** Gives a player a share at a spot. */
export const given = (spots: Spots, player: string, at: number, share: number): Spots =>
  replaced(spots, at, spots[at]?.players.map((p) => (p.player_id === player ? { ...p, share } : p)) ?? []);

/** With one more spot, whose name no other has. */
export function withSpot(spots: Spots): Spots {
  const names = new Set(spots.map((s) => s.name.toLowerCase()));
  let n = spots.length + 1;
  while (names.has(`spot ${n}`)) n++;
  return [...spots, { name: `Spot ${n}`, players: [] }];
}

/** A line-up to begin with: a spot for each position, its players in the order of their numbers. */
export const begin = (lineUp: Schemas["LineUp"]): Spots =>
  lineUp.positions.slice(0, 20).map((position) => ({
    name: position.slice(0, 30),
    players: lineUp.players
      .filter((p) => p.position === position)
      .slice(0, 12)
      .map((p, i) => ({ player_id: p.id, share: i === 0 ? 100 : 0 })),
  }));
