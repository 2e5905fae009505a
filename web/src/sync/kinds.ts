import type { QueryClient } from "@tanstack/react-query";
import { v7 as uuid } from "uuid";
import { api, type Schemas } from "@/api/client";
import { queries, type Kind as EntryKind } from "@/api/queries";
import type { operations } from "@/api/schema.gen";
import { each, parts, versionOf, type Kind } from "./kind";
import { planned } from "./planned";
import { filmed } from "./filmed";
import { settle } from "./settled";
import type { Outcome, Outgoing } from "./ports";
import { carries, on, outcome, outcomeOfMarks, soon } from "./send";

type Marked = Omit<Schemas["MarkInput"], "id" | "made_at" | "on">;
export type EntryContent = { fields?: Record<string, unknown>; retired?: boolean; note?: string };
export type SpellContent = {
  status: "limited" | "out" | "head_hold";
  from: string;
  to?: string;
  reason: string;
} | null;
export type OverrideContent = { ladder: string; stage: string; reason: string } | null;
export type RangeContent = {
  ok_low: number;
  ok_high: number;
  watch_low: number;
  watch_high: number;
  reason: string;
} | null;

/** How the club, or one of its groups, judges a rep. */
export type SchemeBody = operations["putScheme"]["requestBody"]["content"]["application/json"];

/** Acts that are done once: their key is their own id. */
export type ActContent =
  | { act: "fix"; group: string; fault: string }
  | { act: "move"; group: string; ladder: string }
  | { act: "merge"; gone: string; into: string }
  | { act: "restore"; version: number }
  | { act: "scheme"; version: number; body: SchemeBody }
  | { act: "importRoster"; upload: string; choice: Schemas["RosterChoice"] }
  | { act: "proposal"; proposal: string; take: boolean };

const actBy: Record<ActContent["act"], keyof operations> = {
  fix: "putFix",
  move: "moveLadder",
  merge: "mergePlayers",
  restore: "restoreHouse",
  scheme: "putScheme",
  importRoster: "importRoster",
  proposal: "decideProposal",
};

function sendAct(c: Outgoing): Promise<Outcome> {
  const a = c.content as ActContent;
  const header = carries(c);
  const signal = soon();
  switch (a.act) {
    case "fix":
      return outcome(
        api.POST("/groups/{group}/fixes", {
          params: { path: { group: a.group }, header },
          body: { id: c.id, fault: a.fault },
          signal,
        }),
      );
    case "move":
      return outcome(
        api.POST("/groups/{group}/ladders/{ladder}/move", {
          params: { path: { group: a.group, ladder: a.ladder }, header },
          body: { id: c.id },
          signal,
        }),
      );
    case "merge":
      return outcome(
        api.POST("/roster/players/{id}/merge", {
          params: { path: { id: a.gone }, header },
          body: { into: a.into },
          signal,
        }),
      );
    case "restore":
      return outcome(
        api.POST("/library/versions/{version}/restore", {
          params: { path: { version: a.version }, header },
          body: { id: c.id },
          signal,
        }),
      );
    case "scheme":
      return outcome(
        api.PUT("/scheme", {
          params: { header: { ...header, "If-Match": `"${a.version}"` } },
          body: a.body,
          signal,
        }),
      );
    case "importRoster":
      return outcome(
        api.POST("/roster/uploads/{id}/import", {
          params: { path: { id: a.upload }, header },
          body: a.choice,
          signal,
        }),
      );
    case "proposal":
      return outcome(
        api.POST("/roster/proposals/{id}", {
          params: { path: { id: a.proposal }, header },
          body: { take: a.take },
          signal,
        }),
      );
  }
}

/** Every kind of record that can be changed. All saving goes through here. */
export const kinds = {
  mark: {
    name: "Mark",
    batch: 200,
    operation: () => "postMarks",
    send: (changes) =>
      outcomeOfMarks(
        api.POST("/marks", {
          // The request is a change of its own; each mark in it goes by its own id.
          params: { header: { ...carries(changes[0]!), "Change-Id": uuid() } },
          body: {
            marks: changes.map((c) => ({
              ...(c.content as Marked),
              id: c.id,
              made_at: c.madeAt,
              on: c.base || undefined,
            })),
          },
          signal: soon(),
        }),
        changes,
      ),
    saved: (client, _key, content, answer) => markSaved(client, content as Marked, answer as string),
  },
  ...planned,
  ...filmed,
  entry: {
    name: "Library",
    operation: () => "putEntry",
    send: each((c) =>
      outcome(
        api.PUT("/library/entries/{kind}/{key}", {
          params: {
            path: { kind: parts(c)[0] as EntryKind, key: parts(c)[1] },
            header: { ...carries(c), ...on(c) },
          },
          body: { id: c.id, ...(c.content as EntryContent) },
          signal: soon(),
        }),
        versionOf,
      ),
    ),
    saved: (client, key, _content, answer) => {
      const [kind, name] = parts({ key });
      client.setQueryData(queries.entry(kind as EntryKind, name).queryKey, answer as Schemas["Entry"]);
    },
  },
  player: {
    name: "Player",
    operation: () => "putPlayer",
    send: each((c) =>
      outcome(
        api.PUT("/roster/players/{id}", {
          params: { path: { id: parts(c)[0] }, header: { ...carries(c), ...on(c) } },
          body: c.content as Schemas["PlayerInput"],
          signal: soon(),
        }),
        versionOf,
      ),
    ),
    saved: (client, _key, _content, answer) => {
      const saved = answer as Schemas["RosterPlayer"];
      client.setQueryData(
        queries.roster().queryKey,
        (old) =>
          old && {
            ...old,
            players: old.players.some((p) => p.id === saved.id)
              ? old.players.map((p) => (p.id === saved.id ? saved : p))
              : [...old.players, saved],
          },
      );
    },
  },
  spell: {
    name: "Availability",
    operation: (content) => (content === null ? "withdrawSpell" : "putSpell"),
    send: each((c) => {
      const [id, spell] = parts(c);
      const path = { id, spell };
      if (c.content === null)
        return outcome(
          api.DELETE("/roster/players/{id}/availability/{spell}", {
            params: { path, header: carries(c) },
            signal: soon(),
          }),
        );
      return outcome(
        api.PUT("/roster/players/{id}/availability/{spell}", {
          params: { path, header: { ...carries(c), ...on(c) } },
          body: c.content as NonNullable<SpellContent>,
          signal: soon(),
        }),
        versionOf,
      );
    }),
  },
  clearance: {
    name: "Clearance",
    operation: () => "recordClearance",
    send: each((c) => {
      const [id, spell] = parts(c);
      return outcome(
        api.PUT("/roster/players/{id}/availability/{spell}/clearance", {
          params: { path: { id, spell }, header: carries(c) },
          body: c.content as { by: string; on: string; document: string },
          signal: soon(),
        }),
      );
    }),
  },
  override: {
    name: "Coach's word",
    operation: (content) => (content === null ? "withdrawOverride" : "addOverride"),
    send: each((c) => {
      const [player, id] = parts(c);
      if (c.content === null)
        return outcome(
          api.DELETE("/overrides/{id}", { params: { path: { id }, header: carries(c) }, signal: soon() }),
        );
      return outcome(
        api.POST("/players/{id}/overrides", {
          params: { path: { id: player }, header: carries(c) },
          body: { id, ...(c.content as NonNullable<OverrideContent>) },
          signal: soon(),
        }),
      );
    }),
  },
  range: {
    name: "Own range",
    operation: (content) => (content === null ? "withdrawOwnRange" : "putOwnRange"),
    send: each((c) => {
      const [id, checkpoint] = parts(c);
      const path = { id, checkpoint };
      if (c.content === null)
        return outcome(
          api.DELETE("/players/{id}/ranges/{checkpoint}", {
            params: { path, header: carries(c) },
            signal: soon(),
          }),
        );
      return outcome(
        api.PUT("/players/{id}/ranges/{checkpoint}", {
          params: { path, header: carries(c) },
          body: { id: c.id, ...(c.content as NonNullable<RangeContent>) },
          signal: soon(),
        }),
      );
    }),
  },
  act: {
    name: "Act",
    operation: (content) => actBy[(content as ActContent).act],
    send: each(sendAct),
  },
} satisfies Record<string, Kind>;

export type KindName = keyof typeof kinds;

export const kindOf = (name: string): Kind | undefined => (kinds as Record<string, Kind>)[name];

/** The key of a player's rep of a placed drill. */
export const markKey = (placement: string, player: string, rep: number) =>
  `mark/${placement}/${player}/${rep}`;

/** The key of a player's technique on a play of a game. */
export const playMarkKey = (game: string, player: string, play: string, technique: string) =>
  `mark/${game}/${player}/${play}/${technique}`;

/** The key of what the club settles of that. */
export const settledKey = (game: string, player: string, play: string, technique: string) =>
  `${playMarkKey(game, player, play, technique)}/settled`;

/** A mark as it stands in a sheet. Of what the server adds, no cell shows anything before it is read anew. */
export const standing = (m: Marked, id: string): Schemas["Mark"] => ({
  id,
  player_id: m.player_id,
  rep: m.rep ?? 0,
  state: m.state,
  assignment: m.assignment,
  technique: m.technique,
  finish: m.finish,
  side: m.side,
  faults: m.faults ?? [],
  measures: (m.measures ?? []).map((x) => ({ ...x, verdict: "right" })),
  praise: m.praise ?? false,
  note: m.note ?? "",
  result: m.result,
  tallies: m.tallies,
  asked: m.asked,
  grade: m.grade,
});

/** Puts what was settled to what two coaches said, so that it does not turn back until it is read anew. */
function settledSaved(client: QueryClient, mark: Schemas["GameMark"]) {
  client.setQueriesData<Schemas["Agreement"]>({ queryKey: ["agreement"] }, (old) => {
    const about = (d: Schemas["Apart"]) =>
      d.player_id === mark.mark.player_id &&
      d.play.id === mark.play_id &&
      [d.a, d.b].some((x) => x.technique_key === mark.technique_key);
    return old && { ...old, apart: old.apart.map((d) => (about(d) ? settle(d, mark) : d)) };
  });
}

/** Puts a saved mark into its sheet, or into those of its game. */
function markSaved(client: QueryClient, m: Marked, id: string) {
  const { placement_id: placement, play_id: play, technique_key: technique } = m;
  if (placement)
    client.setQueryData(queries.markSheet(placement).queryKey, (old) => {
      if (!old) return old;
      const others = old.marks.filter((x) => x.player_id !== m.player_id || x.rep !== m.rep);
      return { ...old, marks: m.state === "withdrawn" ? others : [...others, standing(m, id)] };
    });
  if (!play || !technique) return;
  const mark = { play_id: play, technique_key: technique, mark: standing(m, id) };
  client.setQueryData(queries.questions().queryKey, (old) =>
    old?.filter(
      (q) => q.play_id !== play || q.technique_key !== technique || q.mark.player_id !== m.player_id,
    ),
  );
  if (m.settled) settledSaved(client, mark);
  else
    client.setQueriesData<Schemas["GameSheet"]>({ queryKey: ["game-sheet"] }, (old) => {
      if (!old?.plays.some((p) => p.id === play)) return old;
      const others = old.marks.filter(
        (x) => x.play_id !== play || x.technique_key !== technique || x.mark.player_id !== m.player_id,
      );
      return { ...old, marks: m.state === "withdrawn" ? others : [...others, mark] };
    });
}
