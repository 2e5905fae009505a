import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { useParams } from "react-router";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useWhere } from "@/app/where";
import { count, filmTitle, weekdayDate } from "@/parts/words";
import { situation } from "../plays";

type Clip = Schemas["ClipInput"];
/** What a clip is of. */
export type Of = Pick<Clip, "play_id" | "placement_id" | "player_id" | "rep">;

/** One thing that is found in a video: a play, or a player's rep. */
export interface Part {
  id: string;
  /** Short, before what is said of it. */
  no: string;
  says: string;
  of: Of;
}

/** What videos are of: a game with its plays, or a placed drill with its reps. */
export interface Subject {
  id: string;
  kind: "game" | "drill";
  title: string;
  date: string;
  parts: Part[];
  /** "play" or "rep". */
  part: "play" | "rep";
  /** Where its videos are, and where it is marked. */
  videos: string;
  marks: string;
  /** Where the parts come from, when there are none yet. */
  missing: { says: string; word: string; to: string };
}

export const partOf = (c: Of) => c.play_id ?? `${c.player_id} ${c.rep}`;

/** What the address names; nothing while it is fetched. */
export function useSubject() {
  const { game = "", id = "", placement = "" } = useParams();
  const { base } = useWhere();
  const plays = useQuery({ ...queries.gamePlays(game), enabled: game !== "" });
  const sheet = useQuery({ ...queries.markSheet(placement), enabled: placement !== "" });
  const which = game !== "" ? plays : sheet;
  const subject = useMemo(() => {
    if (game !== "") return plays.data && ofGame(plays.data, `${base}/film/${game}`);
    return sheet.data && ofDrill(sheet.data, `${base}/practice/${id}/mark/${placement}`);
  }, [game, plays.data, sheet.data, base, id, placement]);
  return { subject, error: which.error, refetch: () => void which.refetch() };
}

function ofGame({ game, plays }: Schemas["GamePlays"], here: string): Subject {
  return {
    id: game.id,
    kind: "game",
    title: filmTitle(game),
    date: weekdayDate(game.date),
    part: "play",
    parts: plays.map(({ id, play: p }) => ({
      id,
      no: String(p.number),
      says: [situation(p), p.call].filter(Boolean).join(" · "),
      of: { play_id: id },
    })),
    videos: `${here}/videos`,
    marks: here,
    missing: {
      says: "No play is written down yet: write them, or read the list you have, and mark them here.",
      word: "Write its plays",
      to: `${here}/plays`,
    },
  };
}

/** Reps in the order in which they are run: the first of everybody, then the second. */
function ofDrill(s: Schemas["MarkSheet"], here: string): Subject {
  return {
    id: s.placement_id,
    kind: "drill",
    title: s.drill,
    date: weekdayDate(s.date),
    part: "rep",
    parts: Array.from({ length: s.planned_reps }, (_, i) => i + 1).flatMap((rep) =>
      s.players.map((p) => ({
        id: `${p.id} ${rep}`,
        no: p.jersey,
        says: `${p.last_name}, rep ${rep}`,
        of: { placement_id: s.placement_id, player_id: p.id, rep },
      })),
    ),
    videos: `${here}/videos`,
    marks: here,
    missing: {
      says: "Nobody of the group can take part in this drill.",
      word: "Back to the drill",
      to: here,
    },
  };
}

/** "No play is marked in it yet.", "12 reps marked in it." */
export const markedIn = (n: number, part: Subject["part"]) =>
  n === 0 ? `No ${part} is marked in it yet.` : `${count(n, part)} marked in it.`;
