import { useLocation } from "react-router";
import type { Schemas } from "@/api/client";
import { useSync } from "@/sync/context";
import type { Settled } from "@/sync/awaited";

export type Player = Schemas["RosterPlayer"];
export type Input = Schemas["PlayerInput"];

/** What a player is, as it is sent. */
export const inputOf = (p: Player): Input => ({
  jersey: p.jersey,
  first_name: p.first_name,
  last_name: p.last_name,
  groups: p.groups,
  position: p.position,
  height_in: p.height_in,
  weight_lb: p.weight_lb,
  returning: p.returning,
  archived: p.archived,
});

/** A player who is not there yet, in the group at hand. */
export const blank = (group: string): Input => ({
  jersey: "",
  first_name: "",
  last_name: "",
  groups: [group],
  position: "",
  returning: false,
  archived: false,
});

export const named = (p: Pick<Player, "jersey" | "first_name" | "last_name">) =>
  `${p.jersey} ${p.first_name} ${p.last_name}`.trim();

/** Saves what a player shall be, made on a version of him; 0 for a new one. */
export function useSavePlayer() {
  const { engine } = useSync();
  const { pathname } = useLocation();
  return (id: string, version: number, input: Input): Promise<Settled> =>
    engine.submit({
      key: `player/${id}`,
      kind: "player",
      content: input,
      base: String(version),
      about: { says: `Player ${named(input)}`, href: pathname },
    });
}
