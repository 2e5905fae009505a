import clsx from "clsx";
import {
  memo,
  useCallback,
  useEffect,
  useLayoutEffect,
  useRef,
  useState,
  useSyncExternalStore,
  type ReactNode,
} from "react";
import { KeyLayer, useKeys } from "@/keys/react";
import { Button } from "@/kit/Button";
import type { Deck } from "./deck";
import { alongside, sinceSnap } from "./frames";
import { Pen } from "./Pen";
import { Sketch } from "./Sketch";
import type { Drawings, Shape } from "./useDrawings";

interface Props {
  deck: Deck;
  drawings: Drawings;
  /** Fetches it again after it did not come. */
  onAgain: () => void;
}

const speeds = ["¼", "½", "1"];

/** A play on film: seen frame by frame, run, rocked and looped, by keys and by hand. */
export const Picture = memo(function Picture({ deck, drawings, onAgain }: Props) {
  const [tool, setTool] = useState<Shape["kind"]>();
  const [byKeys, setByKeys] = useState(false); // the pen is moved by keys
  const s = useSyncExternalStore(deck.listen, deck.calm);
  const { clip } = deck.shot;
  const hold = useHeld(deck);
  useKeys([
    { keys: "ArrowRight", does: "A frame on", run: () => deck.step(1) },
    { keys: "ArrowLeft", does: "A frame back", run: () => deck.step(-1) },
    { keys: "y", does: "Run the picture, or stop it", run: () => deck.toggle() },
    { keys: "b", does: "Back and forth, while it is held", run: hold },
    { keys: "Shift+ArrowDown", does: "Slower", run: () => deck.faster(-1) },
    { keys: "Shift+ArrowUp", does: "Faster", run: () => deck.faster(1) },
    ...(drawings.may
      ? [
          {
            keys: "Shift+d",
            does: "Draw on the picture: an arrow, a line, a circle, no longer",
            run: () => nextPen(),
          },
        ]
      : []),
    { keys: "Home", does: "To the snap", run: () => deck.snap() },
    { keys: "Shift+b", does: "Run it over and over, or no longer", run: () => deck.loop() },
    { keys: "{", does: "What is run over and over begins here", run: () => deck.mark("from") },
    { keys: "}", does: "What is run over and over ends here", run: () => deck.mark("to") },
    ...(deck.shots.length > 1
      ? [
          { keys: "v", does: "The other camera", run: () => deck.other() },
          { keys: "Shift+v", does: "Both cameras side by side", run: () => deck.beside() },
        ]
      : []),
  ]);
  const draw = (next: Shape["kind"] | "" | undefined) => {
    setTool(next || undefined);
    if (next) deck.to(deck.now().frame);
  };
  const nextPen = () => {
    draw(tools[tools.indexOf(tool ?? "") + 1]);
    setByKeys(true);
  };
  const stands = !s.running && !s.rocking;
  const drawn = drawings.frames(clip.id);
  const rubOut = stands ? drawings.rubOut(clip.id, s.frame) : undefined;
  const seen = deck.seen;
  return (
    <section
      aria-label="The picture"
      data-both={seen.length > 1 || undefined}
      className="min-w-0 self-start bg-rail text-rail-ink data-both:lg:col-span-2"
    >
      <div className={clsx("grid", seen.length > 1 && "grid-cols-2 gap-px")}>
        {seen.map((view) => (
          <Pane key={deck.shots[view]!.clip.id} deck={deck} view={view}>
            {stands && <Over {...{ deck, view, drawings, tool }} />}
            {stands && tool && byKeys && view === s.view && (
              <KeyLayer>
                <Pen
                  kind={tool}
                  width={deck.shot.film.width}
                  height={deck.shot.film.height}
                  onDraw={(shape) => drawings.add(clip.id, s.frame, shape)}
                  onNext={nextPen}
                  onAway={() => draw(undefined)}
                  onRubOut={rubOut}
                />
              </KeyLayer>
            )}
          </Pane>
        ))}
      </div>
      {s.trouble && (
        <p role="alert" className="say flex flex-wrap items-center gap-2 bg-fault-wash p-2 text-ink">
          The picture does not come: {s.trouble}. Marks can be made without it.
          <Button onClick={onAgain}>Try again</Button>
        </p>
      )}
      <Frames deck={deck} />
      <div className="flex flex-wrap items-center gap-1 px-2 pb-2">
        <Small word={s.running ? "Stop" : "Run"} kbd="y" onClick={() => deck.toggle()} />
        <Small word="←" says="A frame back" onClick={() => deck.step(-1)} />
        <Small word="→" says="A frame on" onClick={() => deck.step(1)} />
        <Button
          kind="film"
          pressed={s.rocking}
          // It goes on while the finger is on it.
          onPointerDown={(e) => {
            e.currentTarget.setPointerCapture(e.pointerId);
            deck.rock(true);
          }}
          onPointerUp={() => deck.rock(false)}
          onPointerCancel={() => deck.rock(false)}
          onKeyDown={(e) => e.key === "Enter" && !e.repeat && deck.rock(!s.rocking)}
        >
          Rock{" "}
          <kbd className="max-md:hidden" aria-hidden>
            b
          </kbd>
        </Button>
        <Small word="Snap" kbd="Home" onClick={() => deck.snap()} />
        <Small
          word={`${speeds[s.pace]}×`}
          says="as fast; the next speed"
          kbd="⇧↓"
          onClick={() => deck.cycle()}
        />
        <Small
          word={s.stretch ? "Stretch" : "Loop"}
          kbd="⇧b"
          pressed={s.looped || !!s.stretch}
          onClick={() => deck.loop()}
        />
        {deck.shots.length > 1 && (
          <>
            <Small word={clip.view} says="camera; the other one" kbd="v" onClick={() => deck.other()} />
            <Small word="Both" kbd="⇧v" pressed={s.both} onClick={() => deck.beside()} />
          </>
        )}
        {drawings.may && (
          <span className="flex gap-1" role="group" aria-label="Draw on the picture">
            {pens.map((p) => (
              <Small
                key={p.kind}
                word={p.word}
                says={`Draw: ${p.kind}`}
                pressed={tool === p.kind}
                onClick={() => {
                  setByKeys(false);
                  draw(tool === p.kind ? undefined : p.kind);
                }}
              />
            ))}
            {rubOut && <Small word="Rub out" onClick={rubOut} />}
          </span>
        )}
      </div>
      {drawn.length > 0 && (
        <p className="flex flex-wrap items-center gap-1 px-2 pb-2 text-small">
          Drawn on
          {drawn.map((f) => (
            <Small
              key={f}
              word={String(f - clip.first)}
              says="is a frame that is drawn on"
              pressed={f === s.frame}
              onClick={() => deck.to(f)}
            />
          ))}
        </p>
      )}
    </section>
  );
});

/** Where it is, frame by frame: the only part that is painted with every one. */
function Frames({ deck }: { deck: Deck }) {
  const s = useSyncExternalStore(deck.listen, deck.now);
  const { clip } = deck.shot;
  const seconds = sinceSnap(s.frame, deck.shot);
  const where = `${clip.view} · ${s.running || s.rocking ? `${speeds[s.pace]}×` : "stands"} · frame ${s.frame - clip.first}${seconds ? `, ${seconds}` : ""}`;
  return (
    <div className="relative px-2 pt-1">
      <span className="absolute top-0 right-4 z-10 bg-rail px-1 text-label tabular-nums" aria-hidden>
        {s.frame - clip.first}
        {seconds && ` · ${seconds}`}
      </span>
      <Ticks deck={deck} />
      <input
        type="range"
        aria-label="Frame"
        aria-valuetext={where}
        className="frames w-full"
        min={clip.first}
        max={clip.last}
        value={s.frame}
        onChange={(e) => deck.to(Number(e.target.value))}
        // The keys go on working after the hand was here.
        onPointerUp={(e) => e.currentTarget.blur()}
      />
    </div>
  );
}

const tools = ["", "arrow", "line", "circle"] as const;
const pens = [
  { kind: "arrow", word: "↗" },
  { kind: "line", word: "╱" },
  { kind: "circle", word: "◯" },
] as const;

function Small({
  word,
  kbd,
  says,
  pressed,
  onClick,
}: {
  word: string;
  kbd?: string;
  /** What is heard in place of a sign, or after the word. */
  says?: string;
  pressed?: boolean;
  onClick: () => void;
}) {
  const sign = !/[a-z0-9]/i.test(word);
  return (
    <Button kind="film" pressed={pressed} onClick={onClick}>
      <span aria-hidden={sign || undefined}>{word}</span>
      {says && <span className="sr-only"> {says}</span>}{" "}
      {kbd && (
        <kbd className="max-md:hidden" aria-hidden>
          {kbd}
        </kbd>
      )}
    </Button>
  );
}

/** Rocks while a key is held, whichever it is bound to: letting go is heard wherever the keyboard is. */
function useHeld(deck: Deck) {
  const held = useRef("");
  useEffect(() => {
    const stop = () => {
      held.current = "";
      deck.rock(false);
    };
    const up = (e: KeyboardEvent) => e.code === held.current && stop();
    window.addEventListener("keyup", up);
    window.addEventListener("blur", stop);
    return () => {
      window.removeEventListener("keyup", up);
      window.removeEventListener("blur", stop);
    };
  }, [deck]);
  return useCallback(
    (e: KeyboardEvent) => {
      if (e.repeat) return;
      held.current = e.code;
      deck.rock(true);
    },
    [deck],
  );
}

/** What is drawn on the frame that a view shows. */
function Over({
  deck,
  view,
  drawings,
  tool,
}: {
  deck: Deck;
  view: number;
  drawings: Drawings;
  tool?: Shape["kind"];
}) {
  const s = useSyncExternalStore(deck.listen, deck.now);
  const shot = deck.shots[view]!;
  const frame = view === s.view ? s.frame : alongside(s.frame, deck.shot, shot);
  return (
    <Sketch
      shapes={drawings.on(shot.clip.id, frame).flatMap((d) => d.shapes)}
      width={shot.film.width}
      height={shot.film.height}
      tool={tool}
      onDraw={(shape) => drawings.add(shot.clip.id, frame, shape)}
    />
  );
}

function Pane({ deck, view, children }: { deck: Deck; view: number; children?: ReactNode }) {
  const video = useRef<HTMLVideoElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  useLayoutEffect(() => deck.attach(view, { video: video.current!, canvas: canvas.current! }), [deck, view]);
  const { film, clip } = deck.shots[view]!;
  return (
    <div
      className="relative min-w-0 overflow-hidden"
      style={{ aspectRatio: `${film.width} / ${film.height}` }}
    >
      <video
        ref={video}
        muted
        playsInline
        tabIndex={-1}
        aria-hidden
        className="absolute inset-0 h-full w-full object-contain"
      />
      <canvas
        ref={canvas}
        role="img"
        aria-label={`The play from the ${clip.view} camera`}
        className="absolute inset-0 h-full w-full object-contain"
      />
      {children}
    </div>
  );
}

/** The frames as a ruler, the snap marked on it, and the stretch that is run over and over. */
const Ticks = memo(function Ticks({ deck }: { deck: Deck }) {
  const s = useSyncExternalStore(deck.listen, deck.calm);
  const { clip, film } = deck.shot;
  const long = Math.max(1, clip.last - clip.first);
  const at = (f: number) => `${((f - clip.first) / long) * 100}%`;
  // Half seconds, and of a long video fewer: no more than the eye can tell apart.
  const half = Math.max(1, Math.round(film.fps_num / film.fps_den / 2));
  const every = half * Math.max(1, Math.ceil(long / half / 150));
  const ticks = Array.from({ length: Math.floor(long / every) + 1 }, (_, i) => clip.first + i * every);
  return (
    <div className="relative mx-2 h-3" aria-hidden>
      {s.stretch && (
        <span
          className="absolute inset-y-0 bg-flag/40"
          style={{ left: at(s.stretch.from), right: `calc(100% - ${at(s.stretch.to)})` }}
        />
      )}
      {ticks.map((f, i) => (
        <span
          key={f}
          className={clsx("absolute bottom-0 w-px bg-rail-soft", i % 2 === 0 ? "h-2" : "h-1")}
          style={{ left: at(f) }}
        />
      ))}
      {clip.snap !== undefined && (
        <span className="absolute inset-y-0 w-0.5 bg-flag" style={{ left: at(clip.snap) }} />
      )}
    </div>
  );
});
