import { one, part, shapeOf } from "@/kit/form/shape";
import { Button } from "@/kit/Button";
import { useEffect, useState, type ReactNode } from "react";
import type { Schemas } from "@/api/client";
import { Draft } from "@/kit/form/Draft";
import { count } from "@/parts/words";
import { useDraft } from "@/sync/drafts";
import { words } from "./cell";
import type { CellMark } from "./useMarking";
import { Decided } from "./Decided";
import { lettersOf, shownKey, usualFirst } from "./letters";

/** What the coach asked to write. */
export type Asked = "note" | "measure" | "number" | "cause" | "coach";

interface Props {
  sheet: Schemas["MarkSheet"];
  player: Schemas["Player"];
  rep: number;
  cell?: CellMark;
  marks: number;
  noting: boolean;
  side?: "left" | "right";
  /** What is gone through: reps of a drill, or plays of a game. */
  by?: "rep" | "play";
  /** The key that goes back to the one before. */
  back?: string;
  /** What stands over the faults: what the rep is judged against. */
  above?: ReactNode;
  children?: ReactNode;
  /** What players usually show, by technique. */
  usual: Schemas["Usual"][];
  /** The call of the play, whose row of a table is said. */
  call?: string;
  onFault: (key: string) => void;
  onFacet: (facet: "assignment" | "technique" | "finish") => void;
  onGrade: (by: 1 | -1) => void;
  onState: (state: "unseen" | "unsettled") => void;
  onClean: () => void;
  onPraise: () => void;
  onMoveOn: () => void;
  onBack?: () => void;
  onUndo?: () => void;
  onRedo?: () => void;
  onSwap?: () => void;
  onFlag: () => void;
  onResult: () => void;
  onEffort: () => void;
  onExchange: () => void;
  onWrongCall: () => void;
  /** Whom an open question is put to, by name; absent where nobody can be asked. */
  asks?: string;
  onAsk: (what: Asked) => void;
  onNote: (note: string | undefined) => void;
}

/** The words of the current rep: its faults with their keys, what stands in it, and a button for all that a key does. */
export function Panel(props: Props) {
  const {
    sheet,
    player,
    rep,
    cell,
    marks,
    noting,
    side,
    by = "rep",
    above,
    children,
    usual,
    call,
    onFault,
    onNote,
  } = props;
  const name = (key: string) => sheet.faults.find((f) => f.key === key)?.name ?? key;
  const has = new Set(cell?.faults?.map((f) => f.key));
  return (
    <section className="sheet min-w-0 flex-1 basis-[330px] p-3" aria-label={`Current ${by}`}>
      <p className="flex flex-wrap items-baseline gap-x-3">
        <span className="text-2xl font-extrabold">
          <span className="sr-only">{by === "rep" ? "Rep" : "Play"} </span>
          {rep}
        </span>
        <span className="head">
          {player.jersey} {player.last_name}
        </span>
        {side && (
          <span className="border border-ink px-1 text-small font-semibold">
            {side === "left" ? "◀ left" : "right ▶"}
          </span>
        )}
        <span className="say" role="status" aria-label="What stands in it">
          {words(cell, name)}
          {cell?.note && ` · “${cell.note}”`}
        </span>
        <KeyCount marks={marks} />
      </p>
      {above}
      {noting ? (
        <Note
          key={`${player.id} ${rep}`}
          place={`note/${sheet.placement_id}/${player.id}/${rep}`}
          note={cell?.note ?? ""}
          onNote={onNote}
        />
      ) : (
        <ul className="mt-2 grid gap-x-6 gap-y-1 sm:grid-cols-[repeat(auto-fit,minmax(220px,1fr))]">
          {usualFirst(sheet.faults, usual, sheet.technique, player.id).map((f) => (
            <li key={f.key}>
              <Button
                kind="bare"
                className="flex w-full items-center gap-2 text-left"
                pressed={has.has(f.key)}
                leavesKeys
                onClick={() => onFault(f.key)}
              >
                <span className="kbd" aria-hidden>
                  {shownKey(lettersOf(sheet.faults).get(f.key))}
                </span>
                <span className={has.has(f.key) ? "say font-bold text-fault" : "say"}>{f.name}</span>
                {f.safety && <span className="text-label font-bold text-fault">SAFETY</span>}
                {f.penalty && <span className="text-label font-bold text-soft">FOUL</span>}
              </Button>
              {f.say && has.has(f.key) && <p className="say pl-8 text-small">“{f.say}”</p>}
              {f.behind && has.has(f.key) && (
                <p className="say pl-8 text-small text-soft">May come from another group: {f.behind}</p>
              )}
            </li>
          ))}
        </ul>
      )}
      <Decided list={sheet.decided} call={call} />
      {children}
      <Buttons {...props} />
      {sheet.watch && (
        <p className="say mt-2 text-soft">
          <span className="label">Watch</span> {sheet.watch}
        </p>
      )}
    </section>
  );
}

/** How a rep is graded: by facets, by plus and minus, or by points. */
function graded({ sheet: { judged }, cell, onFacet, onGrade }: Props) {
  if (judged.kind === "plus_minus")
    return [
      {
        word: "Minus",
        kbd: "t",
        on: () => onGrade(cell?.grade === 0 ? 1 : -1),
        pressed: cell?.grade === 0,
      },
    ];
  if (judged.kind === "points")
    return [
      { word: "A point less", kbd: "t", on: () => onGrade(-1) },
      { word: "A point more", kbd: "⇧T", on: () => onGrade(1) },
    ];
  return [
    {
      word: "Wrong assignment",
      kbd: "a",
      on: () => onFacet("assignment"),
      pressed: cell?.assignment === 0,
    },
    { word: "Wrong technique", kbd: "t", on: () => onFacet("technique"), pressed: cell?.technique === 0 },
    { word: "No finish", kbd: "f", on: () => onFacet("finish"), pressed: cell?.finish === 0 },
  ];
}

/** Whatever a key does on this screen, done by hand. */
function Buttons(p: Props) {
  const cell = p.cell;
  const last = cell?.faults?.at(-1);
  const faults = last !== undefined;
  const tallied = (...list: string[]) => !!cell?.tallies?.some((t) => list.includes(t));
  const list: { word: string; kbd: string; on?: () => void; pressed?: boolean; main?: boolean }[] = [
    { word: `Next ${p.by ?? "rep"}`, kbd: "Space", on: p.onMoveOn, main: true },
    { word: p.by === "play" ? "Play before" : "Rep before", kbd: p.back ?? "←", on: p.onBack },
    { word: "Clean", kbd: ".", on: p.onClean },
    { word: "Unseen", kbd: "u", on: () => p.onState("unseen"), pressed: cell?.state === "unseen" },
    {
      word: "Open question",
      kbd: "q",
      on: () => p.onState("unsettled"),
      pressed: cell?.state === "unsettled",
    },
    ...graded(p),
    { word: "Praise", kbd: "p", on: p.onPraise, pressed: !!cell?.praise },
    { word: "Caused by", kbd: ",", on: faults ? () => p.onAsk("cause") : undefined },
    { word: "Drew a flag", kbd: ";", on: faults ? p.onFlag : undefined, pressed: last?.penalty },
    {
      word: cell?.result === undefined ? "Won or lost" : cell.result === 1 ? "Won" : "Lost",
      kbd: "⇧W",
      on: p.onResult,
      pressed: cell?.result !== undefined,
    },
    { word: "Effort", kbd: "⇧E", on: p.onEffort, pressed: tallied("effort", "no_effort") },
    {
      word: "Exchange call",
      kbd: "⇧X",
      on: p.onExchange,
      pressed: tallied("call_echoed", "call_not_echoed", "call_missing"),
    },
    { word: "Our wrong call", kbd: "⇧O", on: p.onWrongCall, pressed: tallied("wrong_call") },
    ...(p.asks !== undefined
      ? [{ word: `Ask ${p.asks || "a coach"}`, kbd: "⇧Q", on: () => p.onAsk("coach") }]
      : []),
    { word: "Note", kbd: "n", on: () => p.onAsk("note") },
    ...(p.sheet.measures.length > 0 ? [{ word: "Measure", kbd: "m", on: () => p.onAsk("measure") }] : []),
    ...(p.onSwap ? [{ word: "Other side", kbd: "x", on: p.onSwap }] : []),
    { word: "Number", kbd: "i", on: () => p.onAsk("number") },
    { word: "Undo", kbd: "z", on: p.onUndo },
    { word: "Redo", kbd: "⇧ z", on: p.onRedo },
  ];
  return (
    <div className="mt-3 flex flex-wrap gap-1.5" role="group" aria-label={`This ${p.by ?? "rep"}`}>
      {list.map((b) => (
        <Button
          key={b.word}
          kind={b.main ? undefined : "quiet"}
          pressed={b.pressed}
          leavesKeys
          off={!b.on}
          onClick={b.on}
        >
          {b.word}{" "}
          <span className="kbd max-md:hidden" aria-hidden>
            {b.kbd}
          </span>
        </Button>
      ))}
    </div>
  );
}

interface NoteProps {
  place: string;
  note: string;
  onNote: (note: string | undefined) => void;
}

function Note({ place, note, onNote }: NoteProps) {
  const [text, setText] = useState(note);
  const draft = useDraft<string>(place, note);
  return (
    <form
      className="mt-2 flex flex-wrap gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        draft.drop();
        onNote(text.trim());
      }}
    >
      <input
        className="field min-w-0 flex-1"
        maxLength={part(one(shapeOf("postMarks"), "marks"), "note").maxLength}
        value={text}
        aria-label="Note"
        // The coach asked for the field; it must be ready for his next key.
        autoFocus // eslint-disable-line jsx-a11y/no-autofocus
        onChange={(e) => {
          setText(e.target.value);
          draft.keep(e.target.value);
        }}
        onKeyDown={(e) => {
          if (e.key !== "Escape") return;
          draft.drop();
          onNote(undefined);
        }}
      />
      <Button type="submit">Keep the note</Button>
      <Draft
        draft={draft}
        onTake={(kept) => {
          setText(kept);
          draft.keep(kept);
        }}
      />
    </form>
  );
}

/** How many keys the marks have cost. It counts by itself, so that a key does not paint the score twice. */
function KeyCount({ marks }: { marks: number }) {
  const [keys, setKeys] = useState(0);
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (!["Shift", "Control", "Alt", "Meta"].includes(e.key)) setKeys((n) => n + 1);
    };
    window.addEventListener("keydown", onKey, true);
    return () => window.removeEventListener("keydown", onKey, true);
  }, []);
  return (
    <span className="label ml-auto">
      {count(keys, "key")} for {count(marks, "mark")}
    </span>
  );
}
