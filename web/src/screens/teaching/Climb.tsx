import { useMutation, useQueryClient } from "@tanstack/react-query";
import clsx from "clsx";
import { useState } from "react";
import { Link } from "react-router";
import { v7 as uuid } from "uuid";
import { api, data, type Schemas } from "@/api/client";
import { useWhere } from "@/app/where";
import { Ruler } from "@/parts/Ruler";
import { Window } from "@/parts/Window";
import { gateWords } from "./TechniqueView";

type Ladder = Schemas["BoardLadder"];
type Man = Schemas["BoardMan"];

/** What a man's standing asks for: a shape beside its word, and the sentence of the list. */
export const calls: { call: Man["call"]; shape: string; word: string; say?: string; tone: string }[] = [
  {
    call: "safety",
    shape: "▣",
    word: "safety fault lately, no more contact",
    say: "Safety first: no higher contact",
    tone: "text-fault",
  },
  { call: "step_back", shape: "▼", word: "step back", say: "Should go back a stage", tone: "text-fault" },
  {
    call: "move_up",
    shape: "▲",
    word: "passed, ready for this stage",
    say: "Ready to move up",
    tone: "text-good",
  },
  { call: "waiting", shape: "◷", word: "waits for his week", say: "Waits for the week", tone: "text-soft" },
  { call: "behind", shape: "△", word: "behind the group", say: "Behind the group", tone: "text-watch" },
  { call: "stay", shape: "■", word: "works at it", tone: "" },
  { call: "done", shape: "✓", word: "all stages passed", say: "Through", tone: "text-good" },
  { call: "unknown", shape: "□", word: "no rep yet", say: "No rep yet", tone: "text-soft" },
  { call: "absent", shape: "–", word: "takes no part", tone: "text-soft" },
];

/** One ladder along the ruler: a column a stage, every man in the column of his stage. */
export function Climb({ board, ladder }: { board: Schemas["Board"]; ladder: Ladder }) {
  const [man, setMan] = useState<string>();
  const n = ladder.stages.length + 1;
  const columns = { gridTemplateColumns: `repeat(${n}, minmax(0, 1fr))` };
  const chosen = ladder.men.find((m) => m.player_id === man);
  return (
    <section className="sheet overflow-x-auto p-3" aria-label="Who stands where">
      <div style={{ minWidth: n * 112 }}>
        <Ruler from={0} to={n} major={1} spans word={(i) => (i < n - 1 ? `stage ${i + 1}` : "through")} />
        <ol className="grid" style={columns}>
          {ladder.stages.map((s, i) => (
            <li
              key={s.key}
              className={clsx(
                "border-l border-hair px-2 pb-1.5 pt-1.5",
                i === ladder.group_stage && "bg-flag-wash",
              )}
            >
              <p className="name leading-tight">{s.name}</p>
              <p className="mt-0.5 text-label leading-tight text-soft">{gateWords(s)}</p>
            </li>
          ))}
          <li className="border-l border-hair px-2 pt-1.5 text-small text-soft">every stage passed</li>
        </ol>
        <div className="grid border-t border-hair" style={columns}>
          {Array.from({ length: n }, (_, i) => (
            <ul
              key={i}
              className={clsx(
                "grid min-h-24 content-start gap-1 border-l border-hair p-1.5",
                i === ladder.group_stage && "bg-flag-wash",
              )}
            >
              {ladder.men
                .filter((m) => m.at === i)
                .map((m) => (
                  <li key={m.player_id}>
                    <Chip
                      man={m}
                      player={board.men.find((p) => p.id === m.player_id)!}
                      onOpen={() => setMan(m.player_id)}
                    />
                  </li>
                ))}
            </ul>
          ))}
        </div>
      </div>
      <p className="label mt-2 normal-case tracking-normal">
        {calls
          .filter((c) => ladder.men.some((m) => m.call === c.call))
          .map((c) => `${c.shape} ${c.word}`)
          .join(" · ")}
        {ladder.men.some((m) => m.override) && " · ✎ passed on a coach's word"}. Returners need half the
        window. Press a man for his gate.
      </p>
      {chosen && (
        <ManWindow
          key={chosen.player_id}
          man={chosen}
          player={board.men.find((p) => p.id === chosen.player_id)!}
          ladder={ladder}
          editable={board.editable}
          onClose={() => setMan(undefined)}
        />
      )}
    </section>
  );
}

function Chip({ man: m, player: p, onOpen }: { man: Man; player: Schemas["Player"]; onOpen: () => void }) {
  const c = calls.find((x) => x.call === m.call)!;
  return (
    <button
      type="button"
      onClick={onOpen}
      className={clsx(
        "flex w-full items-baseline gap-1 border px-1 py-0.5 text-left text-small hover:border-ink",
        m.call === "absent" || m.call === "unknown"
          ? "border-dashed border-rule text-soft"
          : "border-rule bg-sheet",
      )}
      aria-label={`${p.jersey} ${p.last_name}: ${c.word}`}
    >
      <span aria-hidden className={c.tone}>
        {c.shape}
      </span>
      <span className="name truncate">
        {p.jersey} {p.last_name}
      </span>
      <span className="ml-auto whitespace-nowrap text-label text-soft">
        {m.override && "✎ "}
        {m.recent_reps > 0 && `${m.recent_clean}/${m.recent_reps}`}
      </span>
    </button>
  );
}

interface ManProps {
  man: Man;
  player: Schemas["Player"];
  ladder: Ladder;
  editable: boolean;
  onClose: () => void;
}

/** One man on one ladder: his gate, and the coach's word that may override it. */
function ManWindow({ man: m, player: p, ladder, editable, onClose }: ManProps) {
  const { base } = useWhere();
  const client = useQueryClient();
  const [reason, setReason] = useState("");
  const [id] = useState(() => uuid());
  const stage = ladder.stages[m.at];
  const after = () => {
    void client.invalidateQueries({ queryKey: ["board"] });
    void client.invalidateQueries({ queryKey: ["player"] });
    onClose();
  };
  const pass = useMutation({
    mutationFn: async () => {
      const answer = await api.POST("/players/{id}/overrides", {
        params: { path: { id: p.id } },
        body: { id, ladder: ladder.key, stage: stage?.key ?? "", reason },
      });
      if (!answer.response.ok) await data(Promise.resolve(answer as never));
    },
    onSuccess: after,
  });
  const takeBack = useMutation({
    mutationFn: async () => {
      await api.DELETE("/overrides/{id}", { params: { path: { id: m.override!.id } } });
    },
    onSuccess: after,
  });
  const call = calls.find((c) => c.call === m.call)!;
  return (
    <Window
      open
      onOpenChange={(open) => !open && onClose()}
      title={`${p.jersey} ${p.first_name} ${p.last_name}`}
    >
      <p className="say">
        <span className={clsx("font-semibold", call.tone)}>
          <span aria-hidden>{call.shape}</span> {call.word[0]?.toUpperCase() + call.word.slice(1)}.
        </span>{" "}
        {stage
          ? `At “${stage.name}” ${m.recent_clean} of his last ${m.recent_reps} are clean; his gate is ${m.clean} of ${m.window}.`
          : "He has passed every stage."}{" "}
        {m.call === "waiting" && `The stage opens in week ${m.from_week}.`}
      </p>
      {m.overexposed.length > 0 && (
        <p className="say mt-2 text-watch">Too many days on {m.overexposed.join(", ").toLowerCase()}.</p>
      )}
      {m.override && (
        <div className="mt-3 border-l-2 border-watch pl-2">
          <p className="say">
            <b>
              Passed “{m.override.stage_name}” on {m.override.by}&apos;s word
            </b>
            , {m.override.on}: “{m.override.reason}”
          </p>
          {editable && (
            <button
              type="button"
              className="btn btn-quiet mt-1"
              disabled={takeBack.isPending}
              onClick={() => takeBack.mutate()}
            >
              Take the word back
            </button>
          )}
        </div>
      )}
      {editable && stage && m.call !== "absent" && (
        <form
          className="mt-4"
          onSubmit={(e) => {
            e.preventDefault();
            pass.mutate();
          }}
        >
          <label className="label" htmlFor="why">
            Let him pass “{stage.name}” because
          </label>
          <input
            id="why"
            className="field mt-1 w-full"
            maxLength={500}
            required
            value={reason}
            aria-invalid={!!pass.error}
            onChange={(e) => setReason(e.target.value)}
            placeholder="The reason stays visible beside his name"
          />
          {pass.error && (
            <p role="alert" className="say mt-1 text-small text-fault">
              {pass.error.message}
            </p>
          )}
          <button
            type="submit"
            className="btn btn-main mt-2"
            disabled={pass.isPending || reason.trim() === ""}
          >
            Let him pass
          </button>
        </form>
      )}
      <p className="mt-3">
        <Link className="underline" to={`${base}/players/${p.id}?technique=${ladder.technique}`}>
          His sheet
        </Link>
      </p>
    </Window>
  );
}
