import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { api, type Schemas } from "@/api/client";
import { Deck, usual } from "./deck";
import { playable } from "./files";
import { shotsOf } from "./frames";
import { useDrawings, type Drawings } from "./useDrawings";

export interface Film {
  /** Whether anything of the game is on film. */
  any: boolean;
  /** Of the play one is at; not given where it is not on film. */
  deck?: Deck;
  drawings: Drawings;
  again: () => void;
}

/** A place is told once the hand has rested so long. In ms. */
const rests = 700;

interface Watched {
  /** The game, or the placed drill. */
  subject: string;
  footage?: Schemas["Footage"];
  /** Of the clips, those of what one is at. */
  of: (c: Schemas["Clip"]) => boolean;
  /** Names what one is at. */
  at: string;
  was?: Schemas["Place"];
  /** Where one is is not told: of what is only looked into. */
  silent?: boolean;
}

/**
 * The film of a game at a play, or of a drill at a player's rep. Which camera is seen and how it runs stays from one
 * to the next, and where one was is gone on from, on another device too.
 */
export function useFilm({ subject, footage, of, at, was, silent }: Watched): Film {
  const client = useQueryClient();
  const [turn, setTurn] = useState(0);
  const tell = usePlace(subject);
  const [habits] = useState(usual);
  const deck = useMemo(() => {
    const shots = shotsOf(footage, of);
    return shots.length > 0 ? new Deck(shots, habits, was) : undefined;
    // What one is at has a name; asked for again it is made anew.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [footage?.clips, at, was, habits, turn]);
  useEffect(() => {
    if (!deck || silent) return undefined;
    const here = () => {
      const { running, rocking, frame } = deck.now();
      if (!running && !rocking) tell({ clip_id: deck.shot.clip.id, frame });
    };
    here();
    return deck.listen(here);
  }, [deck, tell, silent]);
  useNext(footage, deck);
  const again = useCallback(() => {
    void client.invalidateQueries({ queryKey: ["footage", subject] });
    setTurn((n) => n + 1);
  }, [client, subject]);
  return {
    any: (footage?.clips.length ?? 0) > 0,
    deck,
    drawings: useDrawings(footage),
    again,
  };
}

/** The film of the next play is fetched while this one is watched. */
function useNext(footage: Schemas["Footage"] | undefined, deck: Deck | undefined) {
  useEffect(() => {
    if (!footage || !deck) return;
    const order = [...new Set(footage.clips.map((c) => c.film_id))];
    const last = Math.max(...deck.shots.map((s) => order.indexOf(s.film.id)));
    for (const id of order.slice(last + 1, last + 1 + deck.shots.length)) {
      const next = footage.films.find((f) => f.id === id);
      if (next) void playable(next).catch(() => undefined);
    }
  }, [footage, deck]);
}

/** Tells where one is when the hand rests, and when the page is left. It is a help: while the line is down nothing is told. */
function usePlace(subject: string) {
  const told = useRef<{ timer?: number; key?: string; due?: Schemas["Place"] }>({});
  const [send] = useState(() => () => {
    const { due, timer } = told.current;
    window.clearTimeout(timer);
    told.current.due = undefined;
    if (!due) return;
    void api
      .POST("/watching/{id}", { params: { path: { id: subject } }, body: { place: due }, keepalive: true })
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
