import clsx from "clsx";
import {
  memo,
  useCallback,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  type RefObject,
} from "react";
import type { Schemas } from "@/api/client";
import { useThumb } from "@/kit/thumb";
import { words } from "@/screens/marks/cell";
import { cellLook, standingOf, standingWords, type Standing } from "@/screens/marks/lane";
import { LaneName } from "@/screens/marks/LaneName";
import { Shape, Tally } from "@/screens/marks/Score";
import { cellOf, type Graded } from "./grading";
import type { Grading } from "./useGrading";
import { drives, gained, situation } from "./plays";

interface Props {
  sheet: Schemas["GameSheet"];
  techniques: ReadonlyMap<string, Schemas["SheetTechnique"]>;
  grading: Grading;
  there: ReadonlySet<string>;
  at: number;
  row: number;
  onChoose: (row: number, at: number) => void;
}

// The whole game stays on one line of a desk, for keys walk it; a thumb needs a thumb's width.
const narrowest = { fine: 11, coarse: 44 };
const widest = 28;
const names = 150;
const tally = 44;

/**
 * The score of a game: a lane a player, a narrow column a play, the whole game on one line as long as there is
 * room. Drives are bracketed above, what was gained stands below.
 */
export function PlayScore({ sheet, techniques, grading, there, at, row, onChoose }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const here = useRef<HTMLDivElement>(null);
  const [room, setRoom] = useState(900);
  useLayoutEffect(() => {
    const el = box.current;
    if (!el) return;
    const see = new ResizeObserver(() => setRoom(el.clientWidth - names - tally));
    see.observe(el);
    return () => see.disconnect();
  }, []);
  const places = useRef(at);
  useEffect(() => {
    places.current = at;
  });
  const onName = useCallback((r: number) => onChoose(r, places.current), [onChoose]);
  const { cells, waiting, refused } = grading;
  const lanes = useMemo(
    () =>
      sheet.players.map((p) => {
        const marks = sheet.plays.map(({ id }) => cells.get(cellOf(p.id, id)));
        return { marks, states: marks.map((m) => standingOf(m?.mark.id, waiting, refused)) };
      }),
    [sheet.players, sheet.plays, cells, waiting, refused],
  );
  const count = sheet.plays.length;
  const least = useThumb() ? narrowest.coarse : narrowest.fine;
  const width = Math.max(least, Math.min(widest, Math.floor(room / Math.max(1, count))));
  useEffect(() => {
    const cell = here.current;
    if (!cell) return;
    if (box.current?.contains(document.activeElement)) cell.focus();
    cell.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [row, at, width]);
  return (
    <section className="sheet min-w-0 max-w-full p-2" aria-label="Score">
      <div className="relative overflow-x-auto" ref={box}>
        <div
          role="grid"
          aria-label="Players by plays"
          className="relative grid w-max"
          style={{ gridTemplateColumns: `${names}px ${width * count}px ${tally}px` }}
        >
          <span
            aria-hidden
            className="pointer-events-none absolute top-[34px] bottom-4 bg-flag/15"
            style={{ left: names + at * width, width }}
          />
          <Head plays={sheet.plays} at={at} width={width} />
          {sheet.players.map((p, r) => (
            <Lane
              key={p.id}
              player={p}
              plays={sheet.plays}
              row={r}
              at={r === row ? at : -1}
              away={!there.has(p.id)}
              marks={lanes[r]!.marks}
              states={lanes[r]!.states}
              here={r === row ? here : undefined}
              onName={onName}
              {...{ techniques, width, onChoose }}
            />
          ))}
          <Gains plays={sheet.plays} width={width} />
        </div>
      </div>
    </section>
  );
}

type Plays = Schemas["GameSheet"]["plays"];

/** The numbers of the plays, and the drives bracketed above them. */
const Head = memo(function Head({ plays, at, width }: { plays: Plays; at: number; width: number }) {
  return (
    <div role="row" className="contents">
      <span role="columnheader" className="label sticky left-0 z-10 self-end bg-sheet pb-1">
        Play
      </span>
      <span role="columnheader" className="relative block h-[34px]" style={{ width: width * plays.length }}>
        <span className="sr-only">
          Plays {plays[0]?.play.number} to {plays.at(-1)?.play.number}
        </span>
        {drives(plays).map((d) => (
          <span
            key={d.from}
            aria-hidden
            className="label absolute top-0 h-3 truncate border-x border-t border-rule pl-0.5 leading-3"
            style={{ left: d.from * width + 1, width: d.plays * width - 2 }}
          >
            {d.drive}
          </span>
        ))}
        {plays.map(({ id, play }, i) =>
          i === at || (i % (width < 20 ? 5 : 2) === 0 && i < plays.length - 2) ? (
            <span
              key={id}
              aria-hidden
              className={clsx(
                "absolute bottom-0 border-l pl-0.5 text-label leading-4",
                i === at ? "z-10 border-flag bg-sheet font-bold text-flag" : "border-ink",
              )}
              style={{ left: i * width }}
            >
              {play.number}
            </span>
          ) : null,
        )}
      </span>
      <span role="columnheader" className="label self-end pb-1 pl-1 text-right">
        Faulty
      </span>
    </div>
  );
});

const Gains = memo(function Gains({ plays, width }: { plays: Plays; width: number }) {
  return (
    <div aria-hidden className="contents">
      <span className="label sticky left-0 z-10 bg-sheet pt-0.5">Gain</span>
      <span className="flex pt-0.5">
        {plays.map(({ id, play }) => (
          <span
            key={id}
            style={{ width }}
            className={clsx(
              "overflow-hidden text-center text-[11px] leading-3 [font-stretch:75%]",
              (play.gain ?? 0) < 0 ? "text-fault" : "text-soft",
            )}
          >
            {width >= 16 ? gained(play.gain) : play.gain === undefined ? "" : Math.abs(play.gain)}
          </span>
        ))}
      </span>
      <span />
    </div>
  );
});

interface LaneProps {
  player: Schemas["Player"];
  plays: Plays;
  techniques: Props["techniques"];
  width: number;
  row: number;
  /** The play one is at, of the player one is at; -1 elsewhere. */
  at: number;
  away: boolean;
  marks: (Graded | undefined)[];
  states: Standing[];
  here?: RefObject<HTMLDivElement | null>;
  onName: (row: number) => void;
  onChoose: (row: number, at: number) => void;
}

const same = <T,>(a: readonly T[], b: readonly T[]) => a.length === b.length && a.every((x, i) => x === b[i]);

/** A player's marks. It is painted again only when one of them changes: a key must show at once, whatever the game's length. */
const Lane = memo(
  function Lane(l: LaneProps) {
    const { player: p, row, at } = l;
    return (
      <div role="row" className="contents">
        <LaneName
          player={p}
          row={row}
          current={at >= 0}
          away={l.away}
          className="h-7"
          onChoose={() => l.onName(row)}
        />
        <div
          role="presentation"
          className={clsx(
            "flex h-7 border-b border-hair contain-strict pointer-coarse:h-[46px]",
            at >= 0 && "bg-stripe",
          )}
        >
          {l.plays.map(({ id, play }, i) => (
            <Cell
              key={id}
              who={`${p.jersey} ${p.last_name}`}
              number={play.number}
              technique={l.marks[i] && l.techniques.get(l.marks[i].technique)}
              cell={l.marks[i]}
              width={l.width}
              current={i === at}
              row={row}
              at={i}
              state={l.states[i]!}
              here={i === at ? l.here : undefined}
              onChoose={l.onChoose}
            />
          ))}
        </div>
        <span
          role="gridcell"
          className="flex h-7 items-center justify-end border-b border-hair pl-1 pointer-coarse:h-[46px]"
        >
          <Tally reps={l.marks.map((m) => m?.mark)} />
        </span>
      </div>
    );
  },
  ({ marks, states, ...a }, { marks: marksB, states: statesB, ...b }) =>
    same(marks, marksB) &&
    same(states, statesB) &&
    (Object.keys(a) as (keyof typeof a)[]).every((k) => a[k] === b[k]),
);

interface CellProps {
  who: string;
  number: number;
  technique?: Schemas["SheetTechnique"];
  cell?: Graded;
  width: number;
  row: number;
  at: number;
  current: boolean;
  state: Standing;
  here?: RefObject<HTMLDivElement | null>;
  onChoose: (row: number, at: number) => void;
}

const noFaults = { faults: [] };

/** One play of one player. It is painted again only when something in it changes: a key must show at once. */
const Cell = memo(function Cell(p: CellProps) {
  const { who, number, technique, cell, width, row, at, current, state, here, onChoose } = p;
  const name = (key: string) => technique?.faults.find((f) => f.key === key)?.name ?? key;
  const what = cell ? words({ ...cell.mark, rep: 0 }, name) : "not marked";
  return (
    // The keys of the grid are the screen's, listed under "?".
    // eslint-disable-next-line jsx-a11y/click-events-have-key-events
    <div
      ref={here}
      role="gridcell"
      tabIndex={current ? 0 : -1}
      aria-label={`${who}, play ${number}: ${technique ? `${technique.name}, ` : ""}${what}${standingWords[state]}`}
      aria-selected={current}
      onClick={() => onChoose(row, at)}
      style={{ width }}
      className={clsx(cellLook(state, current, false), "overflow-hidden [font-stretch:75%]")}
    >
      <Shape cell={cell?.mark} sheet={technique ?? noFaults} />
    </div>
  );
});

/** Where a play began, what was called, and what became of it. */
export function PlayLine({ play }: { play: Schemas["PlayInput"] }) {
  const parts = [
    situation(play),
    play.quarter > 0 && `Q${play.quarter}${play.clock && ` ${play.clock}`}`,
    play.formation,
    play.call,
    play.front,
    play.coverage,
    play.result,
    play.gain !== undefined && `${gained(play.gain)} yd`,
    ...play.context,
  ].filter(Boolean);
  return <span className="say">{parts.join(" · ") || "nothing is written on this play yet"}</span>;
}
