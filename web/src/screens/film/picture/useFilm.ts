import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { api, data, type Schemas } from "@/api/client";
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
export function useFilm(game: string, play: string, onPlay: (play: string) => void): Film {
  const footage = useQuery(queries.gameFootage(game)).data;
  const client = useQueryClient();
  const [turn, setTurn] = useState(0);
  const place = usePlace(game, footage, onPlay);
  const [habits] = useState(usual);
  const deck = useMemo(() => {
    const shots = shotsOf(footage, (c) => c.play_id === play);
    return shots.length > 0 ? new Deck(shots, habits, place.was) : undefined;
    // Asked for again it is made anew.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [footage, play, place.was, habits, turn]);
  useEffect(
    () =>
      deck?.listen(() => {
        const { running, rocking, frame } = deck.now();
        if (!running && !rocking) place.tell({ clip_id: deck.shot.clip.id, frame });
      }),
    [deck, place],
  );
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

/** Where one was, asked for once, and told when the hand rests. It is a help: while the line is down nothing is told. */
function usePlace(game: string, footage: Schemas["Footage"] | undefined, onPlay: (play: string) => void) {
  const [was, setWas] = useState<Schemas["Place"]>();
  const found = useRef(onPlay);
  useEffect(() => {
    found.current = onPlay;
  });
  const asked = useRef(false);
  useEffect(() => {
    if (!footage || footage.clips.length === 0 || asked.current) return;
    asked.current = true;
    data(api.POST("/watching/{id}", { params: { path: { id: game } }, body: {} }))
      .then(({ place }) => {
        const clip = footage.clips.find((c) => c.id === place?.clip_id);
        if (!place || !clip?.play_id) return;
        setWas(place);
        found.current(clip.play_id);
      })
      .catch(() => undefined);
  }, [game, footage]);
  const told = useRef<{ timer?: number; key?: string }>({});
  const [tell] = useState(() => (place: Schemas["Place"]) => {
    const key = `${place.clip_id} ${place.frame}`;
    if (told.current.key === key) return;
    told.current.key = key;
    window.clearTimeout(told.current.timer);
    told.current.timer = window.setTimeout(
      () =>
        void api
          .POST("/watching/{id}", { params: { path: { id: game } }, body: { place } })
          .catch(() => undefined),
      rests,
    );
  });
  return useMemo(() => ({ was, tell }), [was, tell]);
}
