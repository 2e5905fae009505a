import { useCallback, useMemo } from "react";
import { useLocation } from "react-router";
import type { Schemas } from "@/api/client";
import { fromServer } from "@/screens/marks/useMarking";
import { useSync } from "@/sync/context";
import { settledKey, standing } from "@/sync/kinds";
import { contentOf } from "@/sync/machine";
import { useRecords } from "@/sync/react";
import { settle } from "@/sync/settled";
import { alike } from "./settled";

type Apart = Schemas["Apart"];
type Content = Omit<Schemas["MarkInput"], "id" | "made_at" | "on">;

export interface Settling {
  of: (d: Apart) => { side?: "a" | "b"; settled: boolean; waiting: boolean; refused: boolean };
  /** Settles it as one of them said, or opens it again. */
  toggle: (d: Apart, as: "a" | "b") => void;
}

/** What the club settles where two coaches differ: a mark of its own that stands over both. */
export function useSettling(r: Schemas["Agreement"]): Settling {
  const { engine } = useSync();
  const records = useRecords();
  const { pathname } = useLocation();
  const game = r.game_id;
  const of = useCallback(
    (d: Apart) => {
      let now = d;
      let waiting = false;
      let refused = false;
      for (const { technique_key } of [d.a, d.b]) {
        const rec = records.get(settledKey(game, d.player_id, d.play.id, technique_key));
        if (rec?.trouble) refused = true;
        else if (rec) {
          waiting = true;
          const mark = standing(contentOf(rec) as Content, "");
          now = settle(now, { play_id: d.play.id, technique_key, mark });
        }
      }
      const { settled } = now;
      const side =
        settled &&
        (["a", "b"] as const).find(
          (s) => d[s].technique_key === settled.technique_key && alike(d[s].mark, settled.mark),
        );
      return { side, settled: settled !== undefined, waiting, refused };
    },
    [records, game],
  );
  const toggle = useCallback(
    (d: Apart, as: "a" | "b") => {
      const open = of(d).side === as;
      const p = r.players.find((x) => x.id === d.player_id);
      const keys = [...new Set([d[as].technique_key, d.a.technique_key, d.b.technique_key])];
      engine.edit(
        keys.map((technique) => {
          const said = { ...fromServer(d[as].mark), id: undefined, rep: undefined, grade_clean: undefined };
          const content: Content = {
            ...(open
              ? { player_id: d.player_id, state: "withdrawn" }
              : technique === d[as].technique_key
                ? said
                : { player_id: d.player_id, state: "not_gradable" }), // it was the other technique
            settled: true,
            play_id: d.play.id,
            technique_key: technique,
          };
          return {
            key: settledKey(game, d.player_id, d.play.id, technique),
            kind: "mark",
            content,
            base: d.settled?.technique_key === technique ? d.settled.mark.id : "",
            about: {
              says: `What is settled of ${p?.jersey} ${p?.last_name}, play ${d.play.play.number} against ${r.opponent}`,
              href: pathname,
            },
          };
        }),
      );
    },
    [engine, game, of, pathname, r.opponent, r.players],
  );
  return useMemo(() => ({ of, toggle }), [of, toggle]);
}
