import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { api, type Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { Deck, usual } from "./deck";
import { playable } from "./files";
import { shotsOf } from "./frames";

export interface Film {
  /** Whether anything of the game is on film. */
  any: boolean;
  /** Of the play one is at; not given where it is not on film. */
  deck?: Deck;
  again: () => void;
}

/** A place is told once the hand has rested so long. In ms. */
const rests = 700;

/**
 * The film of a game at a play. Which camera is seen and how it runs stays from play to play, and where one was is
 * gone on from, on another device too.
 */
export function useFilm(game: string, play: string, was: Schemas["Place"] | undefined, told = true): Film {
  const footage = useQuery(queries.gameFootage(game)).data;
  const client = useQueryClient();
  const [turn, setTurn] = useState(0);
  const tell = usePlace(game);
  const [habits] = useState(usual);
  const deck = useMemo(() => {
    const shots = shotsOf(footage, (c) => c.play_id === play);
    return shots.length > 0 ? new Deck(shots, habits, was) : undefined;
    // Asked for again it is made anew.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [footage, play, was, habits, turn]);
  useEffect(() => {
    if (!deck || !told) return undefined;
    const here = () => {
      const { running, rocking, frame } = deck.now();
      if (!running && !rocking) tell({ clip_id: deck.shot.clip.id, frame });
    };
    here();
    return deck.listen(here);
  }, [deck, tell, told]);
  useNext(footage, play);
  return {
    any: (footage?.clips.length ?? 0) > 0,
    deck,
    again: () => {
      void client.invalidateQueries({ queryKey: ["footage", game] });
      setTurn(turn + 1);
    },
  };
}

/** The next play on film is fetched while this one is watched. */
function useNext(footage: Schemas["Footage"] | undefined, play: string) {
  useEffect(() => {
    if (!footage) return;
    const plays = [...new Set(footage.clips.map((c) => c.film_id))];
    const films = new Map(footage.films.map((f) => [f.id, f]));
    const here = footage.clips.filter((c) => c.play_id === play).map((c) => plays.indexOf(c.film_id));
    const next = films.get(plays[Math.max(...here, -1) + 1] ?? "");
    if (here.length > 0 && next) void playable(next).catch(() => undefined);
  }, [footage, play]);
}

/** Tells where one is when the hand rests, and when the page is left. It is a help: while the line is down nothing is told. */
function usePlace(game: string) {
  const told = useRef<{ timer?: number; key?: string; due?: Schemas["Place"] }>({});
  const [send] = useState(() => () => {
    const { due, timer } = told.current;
    window.clearTimeout(timer);
    told.current.due = undefined;
    if (!due) return;
    void api
      .POST("/watching/{id}", { params: { path: { id: game } }, body: { place: due }, keepalive: true })
      .catch(() => undefined);
  });
  const [tell] = useState(() => (place: Schemas["Place"]) => {
    const key = `${place.clip_id} ${place.frame}`;
    if (told.current.key === key) return;
    window.clearTimeout(told.current.timer);
    told.current = { key, due: place, timer: window.setTimeout(send, rests) };
  });
  useEffect(() => {
    window.addEventListener("pagehide", send);
    return () => {
      window.removeEventListener("pagehide", send);
      send();
    };
  }, [send]);
  return tell;
}
