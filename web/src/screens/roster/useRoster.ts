import { useMutation, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { v7 as uuid } from "uuid";
import { api, data, type Problem, type Schemas } from "@/api/client";

export type Player = Schemas["RosterPlayer"];
export type Input = Schemas["PlayerInput"];

/** Everything that names players or counts who takes part is read again. */
export function rosterChanged(client: QueryClient) {
  for (const key of [
    "roster",
    "availability",
    "players",
    "player",
    "practice",
    "today",
    "board",
    "marks",
    "drill",
  ])
    void client.invalidateQueries({ queryKey: [key] });
}

/** What a player is, as it is sent. */
export const inputOf = (p: Player): Input => ({
  version: p.version,
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
  version: 0,
  jersey: "",
  first_name: "",
  last_name: "",
  groups: [group],
  position: "",
  returning: false,
  archived: false,
});

/** Saves a player; the id of a new one is made once, so that sending it again doubles nobody. */
export function useSavePlayer() {
  const client = useQueryClient();
  return useMutation<Player, Problem, { id?: string; input: Input }>({
    mutationFn: ({ id, input }) =>
      data(api.PUT("/roster/players/{id}", { params: { path: { id: id ?? uuid() } }, body: input })),
    retry: (n, e) => e.passing && n < 5,
    onSuccess: () => rosterChanged(client),
  });
}

/** The player as he now stands, out of a refused change. */
export function standing(problem: Problem | null): Player | undefined {
  if (problem?.status !== 409) return undefined;
  return (problem.body as { current?: Player } | undefined)?.current;
}
