import { Button } from "@/kit/Button";
import { Scroller } from "@/kit/Scroller";
import clsx from "clsx";
import { useState } from "react";
import { Link, useLocation } from "react-router";
import { v7 as uuid } from "uuid";
import type { Schemas } from "@/api/client";
import { useWhere } from "@/app/where";
import { Ruler } from "@/parts/Ruler";
import { count } from "@/parts/words";
import { Dialog } from "@/kit/Dialog";
import { Form, useFormOf } from "@/kit/form/Form";
import { TextField } from "@/kit/form/fields";
import type { Body } from "@/kit/form/shape";
import { useDraft } from "@/sync/drafts";
import type { OverrideContent } from "@/sync/kinds";
import { useSave } from "@/sync/react";
import { gateWords } from "./TechniqueView";

type Ladder = Schemas["BoardLadder"];
type Standing = Schemas["BoardPlayer"];

/** What a player's standing asks for: a shape beside its word, and the sentence of the list. */
export const advices: {
  advice: Standing["advice"];
  shape: string;
  word: string;
  say?: string;
  tone: string;
}[] = [
  {
    advice: "safety",
    shape: "▣",
    word: "safety fault lately, no more contact",
    say: "Safety first: no higher contact",
    tone: "text-fault",
  },
  { advice: "step_back", shape: "▼", word: "step back", say: "Should go back a stage", tone: "text-fault" },
  {
    advice: "move_up",
    shape: "▲",
    word: "passed, ready for this stage",
    say: "Ready to move up",
    tone: "text-good",
  },
  { advice: "waiting", shape: "◷", word: "waits for his week", say: "Waits for the week", tone: "text-soft" },
  { advice: "behind", shape: "△", word: "behind the group", say: "Behind the group", tone: "text-watch" },
  { advice: "stay", shape: "■", word: "works at it", tone: "" },
  { advice: "done", shape: "✓", word: "all stages passed", say: "Through", tone: "text-good" },
  { advice: "unknown", shape: "□", word: "no rep yet", say: "No rep yet", tone: "text-soft" },
  { advice: "absent", shape: "–", word: "takes no part", tone: "text-soft" },
  { advice: "not_his", shape: "·", word: "not of his place", tone: "text-soft" },
];

/** One ladder along the ruler: a column a stage, every player in the column of his stage. */
export function OnLadder({ board, ladder }: { board: Schemas["Board"]; ladder: Ladder }) {
  const [open, setOpen] = useState<string>();
  const n = ladder.stages.length + 1;
  const columns = { gridTemplateColumns: `repeat(${n}, minmax(0, 1fr))` };
  const chosen = ladder.players.find((m) => m.player_id === open);
  const others = ladder.players.filter((m) => m.advice === "not_his").length;
  return (
    <section className="sheet min-w-0 p-3" aria-label="Who stands where">
      <Scroller label="The ladder">
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
                {ladder.players
                  .filter((m) => m.at === i && m.advice !== "not_his")
                  .map((m) => (
                    <li key={m.player_id}>
                      <Chip
                        standing={m}
                        player={board.players.find((p) => p.id === m.player_id)!}
                        onOpen={() => setOpen(m.player_id)}
                      />
                    </li>
                  ))}
              </ul>
            ))}
          </div>
        </div>
      </Scroller>
      <p className="label mt-2 normal-case tracking-normal">
        {advices
          .filter((c) => c.advice !== "not_his" && ladder.players.some((m) => m.advice === c.advice))
          .map((c) => `${c.shape} ${c.word}`)
          .join(" · ")}
        {others > 0 &&
          ` · ${count(others, "other")} of the group ${others === 1 ? "has" : "have"} another place`}
        {ladder.players.some((m) => m.override) && " · ✎ passed on a coach's word"}. Returners need half the
        window. Press a player for his gate.
      </p>
      {chosen && (
        <StandingWindow
          key={chosen.player_id}
          standing={chosen}
          player={board.players.find((p) => p.id === chosen.player_id)!}
          ladder={ladder}
          editable={board.editable}
          onClose={() => setOpen(undefined)}
        />
      )}
    </section>
  );
}

function Chip({
  standing: m,
  player: p,
  onOpen,
}: {
  standing: Standing;
  player: Schemas["Player"];
  onOpen: () => void;
}) {
  const c = advices.find((x) => x.advice === m.advice)!;
  return (
    <Button
      kind="bare"
      onClick={onOpen}
      className={clsx(
        "flex w-full items-baseline gap-1 border px-1 py-0.5 text-left pointer-coarse:items-center text-small hover:border-ink",
        m.advice === "absent" || m.advice === "unknown"
          ? "border-dashed border-rule text-soft"
          : "border-rule bg-sheet",
      )}
    >
      <span aria-hidden className={c.tone}>
        {c.shape}
      </span>
      <span className="sr-only">{c.word}:</span>
      <span className="name truncate">
        {p.jersey} {p.last_name}
      </span>
      <span className="ml-auto whitespace-nowrap text-label text-soft">
        {m.override && "✎ "}
        {m.recent_reps > 0 && `${m.recent_clean}/${m.recent_reps}`}
      </span>
    </Button>
  );
}

interface StandingProps {
  standing: Standing;
  player: Schemas["Player"];
  ladder: Ladder;
  editable: boolean;
  onClose: () => void;
}

/** One player on one ladder: his gate, and the coach's word that may override it. */
function StandingWindow({ standing: m, player: p, ladder, editable, onClose }: StandingProps) {
  const { base } = useWhere();
  const { pathname, search } = useLocation();
  const [id] = useState(() => uuid());
  const stage = ladder.stages[m.at];
  const draft = useDraft<Body<"addOverride">>(`override/${p.id}/${ladder.key}`, stage?.key ?? "");
  const of = useFormOf(
    "addOverride",
    { id, ladder: ladder.key, stage: stage?.key ?? "none", reason: "" },
    draft,
  );
  const word = useSave<OverrideContent>("override", `override/${p.id}/${id}`);
  const old = useSave<OverrideContent>("override", `override/${p.id}/${m.override?.id ?? "none"}`);
  const about = { says: `A coach's word for ${p.jersey} ${p.last_name}`, href: pathname + search };
  const pass = async (reason: string) => {
    const done = await word.save({ ladder: ladder.key, stage: stage?.key ?? "", reason }, 0, about);
    if (done.is !== "saved") return;
    draft.drop();
    onClose();
  };
  const takeBack = async () => {
    if ((await old.save(null, 0, about)).is === "saved") onClose();
  };
  const advice = advices.find((c) => c.advice === m.advice)!;
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={`${p.jersey} ${p.first_name} ${p.last_name}`}
    >
      <p className="say">
        <span className={clsx("font-semibold", advice.tone)}>
          <span aria-hidden>{advice.shape}</span> {advice.word[0]?.toUpperCase() + advice.word.slice(1)}.
        </span>{" "}
        {stage
          ? `At “${stage.name}” ${m.recent_clean} of his last ${m.recent_reps} are clean; his gate is ${m.clean} of ${m.window}.`
          : "He has passed every stage."}{" "}
        {m.advice === "waiting" && m.needs.length === 0 && `The stage opens in week ${m.from_week}.`}
      </p>
      {m.needs.length > 0 && (
        <p className="say mt-2 text-watch">Not open before he has passed {m.needs.join(" and ")}.</p>
      )}
      {m.head_left > 0 && (
        <p className="say mt-2 text-fault">
          {count(m.head_left, "more rep")} at this stage with his head right, whatever else is clean.
        </p>
      )}
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
            <Button kind="quiet" className="mt-1" off={old.busy} onClick={() => void takeBack()}>
              Take the word back
            </Button>
          )}
          {old.refused && (
            <p role="alert" className="say mt-1 text-small text-fault">
              {old.refused.message}
            </p>
          )}
        </div>
      )}
      {editable && stage && m.advice !== "absent" && (
        <Form
          of={of}
          draft={draft}
          refused={word.refused}
          className="mt-4 grid justify-items-start gap-2"
          onSave={(body) => void pass(body.reason)}
        >
          <TextField
            name="reason"
            label={`Let him pass “${stage.name}” because`}
            place="w-full"
            className="w-full"
            placeholder="The reason stays visible beside his name"
          />
          <Button type="submit" kind="main" off={word.busy}>
            Let him pass
          </Button>
        </Form>
      )}
      <p className="mt-3">
        <Link className="underline" to={`${base}/players/${p.id}?technique=${ladder.technique}`}>
          His sheet
        </Link>
      </p>
    </Dialog>
  );
}
