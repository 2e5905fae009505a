import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useLocation } from "react-router";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useWhere } from "@/app/where";
import { Button } from "@/kit/Button";
import { dayMonth } from "@/parts/words";
import { situation } from "@/screens/film/plays";
import { useSync } from "@/sync/context";
import { playMarkKey } from "@/sync/kinds";
import { useRecords } from "@/sync/react";

/** So many are shown at first: Today is for what comes next, not for a list. */
const shown = 3;

type Question = Schemas["OpenQuestion"];

/** What other coaches ask whoever looks: each is answered here or at the play, and charges nobody until then. */
export function Asked() {
  const list = useQuery(queries.questions()).data ?? [];
  const [all, setAll] = useState(false);
  const { engine } = useSync();
  const records = useRecords();
  const { pathname } = useLocation();
  const { group: mine, week } = useWhere();
  const keyOf = (q: Question) => playMarkKey(q.game_id, q.mark.player_id, q.play_id, q.technique_key);
  const open = list.filter((q) => !records.get(keyOf(q)) || records.get(keyOf(q))?.trouble);
  if (open.length === 0) return null;
  const answer = (q: Question, assignment: 0 | 1) =>
    engine.edit([
      {
        key: keyOf(q),
        kind: "mark",
        content: {
          player_id: q.mark.player_id,
          state: "looked",
          assignment,
          faults: [],
          note: q.mark.note,
          tallies: q.mark.tallies,
          play_id: q.play_id,
          technique_key: q.technique_key,
        },
        base: q.mark.id,
        about: {
          says: `Your answer on ${q.jersey} ${q.player}, play ${q.play.number} against ${q.opponent}`,
          href: pathname,
        },
      },
    ]);
  return (
    <section className="sheet p-3" aria-labelledby="asked">
      <h2 id="asked" className="label">
        You are asked
      </h2>
      <ul className="divide-y divide-hair">
        {open.slice(0, all ? undefined : shown).map((q) => (
          <li key={q.mark.id} className="py-2" aria-label={`${q.jersey} ${q.player}, play ${q.play.number}`}>
            <p>
              <Link
                className="name text-head underline"
                to={`/g/${q.group ?? mine}/w/${week}/film/${q.game_id}?cut=${encodeURIComponent(`play ${q.play.number}`)}`}
              >
                {q.jersey} {q.player}, play {q.play.number}
              </Link>{" "}
              <span className="say text-small text-soft">
                against {q.opponent}, {dayMonth(q.date)}
              </span>
            </p>
            <p className="say text-small">
              {[q.technique_name, situation(q.play), q.play.call].filter(Boolean).join(" · ")}
            </p>
            <p className="say">
              {q.mark.note ? `“${q.mark.note}”` : "Was it his?"}{" "}
              {q.mark.by && <span className="text-soft">asked by {q.mark.by}</span>}
            </p>
            <span className="mt-1 flex flex-wrap gap-1.5">
              <Button onClick={() => answer(q, 1)}>He was right</Button>
              <Button onClick={() => answer(q, 0)}>Wrong assignment</Button>
            </span>
          </li>
        ))}
      </ul>
      {open.length > shown && !all && (
        <Button kind="text" onClick={() => setAll(true)}>
          {open.length - shown} more
        </Button>
      )}
      <p className="say mt-1 text-small text-soft">Until it is answered it charges nobody.</p>
    </section>
  );
}
