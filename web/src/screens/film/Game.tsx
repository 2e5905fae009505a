import { useQuery } from "@tanstack/react-query";
import { memo, useCallback, useMemo, useState, type ReactNode } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useWhere } from "@/app/where";
import { useKeys, type Key } from "@/keys/react";
import { Button, ButtonLink } from "@/kit/Button";
import { Select } from "@/kit/Select";
import { Empty, Loading, Trouble, Refusal } from "@/kit/States";
import { Title } from "@/kit/Title";
import { count, filmTitle, weekdayDate } from "@/parts/words";
import { faulty } from "@/screens/marks/cell";
import { actsOf, markKeys } from "@/screens/marks/acts";
import { Asking } from "@/screens/marks/Asking";
import { rowOf } from "@/screens/marks/letters";
import { Panel, type Asked } from "@/screens/marks/Panel";
import type { CellMark } from "@/screens/marks/useMarking";
import { CutUp } from "./CutUp";
import { Finishing } from "./Finishing";
import { Labels } from "./Labels";
import { useAsked } from "./useAsked";
import { Besides } from "./Besides";
import { besidePicture, passing } from "./picture/beside";
import { FilmOf } from "./picture/FilmOf";
import { useFilm } from "./picture/useFilm";
import {
  cellOf,
  inOrder,
  leftOf,
  markedOn,
  nextOpen,
  onField,
  sheetOf,
  techniqueOn,
  totals,
  worthALook,
  type Changes,
} from "./grading";
import { PlayLine, PlayScore } from "./PlayScore";
import { useGrading, type Body, type Write } from "./useGrading";

/** What else there is of a game. */
const elsewhere = [
  ["plays", "Plays"],
  ["videos", "Videos"],
  ["sheets", "Sheets"],
  ["meeting", "Meeting"],
  ["two", "Two graders"],
  ["files", "Files"],
] as const;

const none: Schemas["Usual"][] = [];

/** The ways to it; a key that marks does not paint them. */
const Elsewhere = memo(function Elsewhere({ base }: { base: string }) {
  return (
    <nav aria-label="Of this game" className="flex flex-wrap gap-x-3 text-small sm:ml-auto">
      {elsewhere.map(([to, word]) => (
        <Link key={to} className="textual" to={`${base}/${to}`}>
          {word}
        </Link>
      ))}
    </nav>
  );
});

/** Grading a group on the plays of a game, by exception, from the keyboard. */
export function Game() {
  const { game = "" } = useParams();
  const { group, base, week } = useWhere();
  const [params] = useSearchParams();
  const blind = params.has("blind");
  const cut = params.get("cut") ?? "";
  const sheet = useQuery(queries.gameSheet(game, group, blind));
  const lineUp = useQuery(queries.lineUp(group, week));
  const footage = useQuery(queries.gameFootage(game));
  const plays = useQuery({ ...queries.cut(game, group, cut, blind), enabled: cut !== "" });
  const was = useQuery({ ...queries.watching(game), enabled: !blind });
  const read = sheet.data;
  const usual = useQuery(queries.usual(group));
  const players = useMemo(() => inOrder(read?.players ?? [], lineUp.data), [read?.players, lineUp.data]);
  const shown = useMemo(() => {
    const chosen = cut && plays.data ? new Set(plays.data.plays) : undefined;
    return (read?.plays ?? []).filter((p) => !chosen || chosen.has(p.id));
  }, [read?.plays, plays.data, cut]);
  const top = useMemo(
    () => new Set(lineUp.data?.spots.flatMap((x) => (x.players[0] ? [x.players[0].player_id] : []))),
    [lineUp.data],
  );
  const worth = useMemo(() => worthALook(read?.plays ?? []), [read?.plays]);
  if (sheet.error && !read) return <Trouble error={sheet.error} again={() => void sheet.refetch()} />;
  if (!read || lineUp.isPending || footage.isPending || was.isLoading || plays.isLoading || usual.isLoading)
    return <Loading what="the game" />;
  const s = { ...read, players, plays: shown };
  const cutUp = (
    <CutUp cut={cut} plays={shown.length} of={read.plays.length} wrong={plays.error?.message} worth={worth} />
  );
  const title = filmTitle(s);
  if (s.plays.length === 0 || s.players.length === 0)
    return (
      <>
        <Title page={title}>{title}</Title>
        {cut && <div className="mb-2 flex flex-wrap items-center gap-3">{cutUp}</div>}
        <Empty action={<ButtonLink to={`${base}/film/${game}/plays`}>Write its plays</ButtonLink>}>
          {s.plays.length > 0
            ? "Nobody of the group was there."
            : cut
              ? "No play of this game is in the cut-up."
              : "No play of this group's side is written down yet."}
        </Empty>
      </>
    );
  const place = blind ? undefined : was.data?.place;
  const left = footage.data?.clips.find((c) => c.id === place?.clip_id)?.play_id;
  return (
    <Sheet
      key={`${game}/${group}/${blind}/${cut}`}
      sheet={s}
      {...{ title, top, blind, place, left, cutUp }}
      usual={usual.data ?? none}
      cutting={cut !== ""}
      footage={footage.data}
    />
  );
}

function Sheet({
  sheet,
  title,
  top,
  blind,
  place,
  left,
  usual,
  footage,
  cutUp,
  cutting,
}: {
  sheet: Schemas["GameSheet"];
  title: string;
  top: ReadonlySet<string>;
  blind: boolean;
  /** Where one was in its film, and on which play. */
  place?: Schemas["Place"];
  left?: string;
  usual: Schemas["Usual"][];
  footage?: Schemas["Footage"];
  cutUp: ReactNode;
  cutting: boolean;
}) {
  const { base } = useWhere();
  const navigate = useNavigate();
  const grading = useGrading(sheet);
  const { cells } = grading;
  const [before] = useState(cells.size); // keys are counted against what they made
  const [at, setAt] = useState(() => {
    const begun = sheet.plays.findIndex((p) => p.id === left);
    if (begun >= 0) return begun;
    if (cutting) return 0;
    const open = nextOpen(sheet, cells, 0);
    return open >= 0 ? open : sheet.plays.length - 1; // the last when all are marked
  });
  const [row, setRow] = useState(0);
  const [finishing, setFinishing] = useState(false);
  const [asking, setAsking] = useState<Asked>();
  const [labelling, setLabelling] = useState(false);
  const [changes, setChanges] = useState<Changes>(new Map());
  const [chosen, setChosen] = useState<ReadonlyMap<string, string>>(new Map()); // techniques chosen where nothing is marked
  const techniques = useMemo(() => new Map(sheet.techniques.map((t) => [t.key, t])), [sheet.techniques]);
  const first = useMemo(
    () => (top.size > 0 ? top : new Set(sheet.players.map((p) => p.id))),
    [top, sheet.players],
  );
  const there = onField(sheet, cells, changes, first, at);
  const play = sheet.plays[at]!;
  const player = sheet.players[row]!;
  const doneBy = (id: string, i: number) =>
    cells.get(cellOf(id, sheet.plays[i]!.id))?.technique ??
    chosen.get(cellOf(id, sheet.plays[i]!.id)) ??
    techniqueOn(sheet, cells, id, i);
  const technique = techniques.get(doneBy(player.id, at) ?? "") ?? sheet.techniques[0]!;
  const graded = cells.get(cellOf(player.id, play.id));
  const cell: CellMark | undefined = graded && { ...graded.mark, rep: 0 };
  const pseudo = useMemo(() => sheetOf(sheet, technique), [sheet, technique]);
  const choose = useCallback((r: number, i: number) => {
    setRow(r);
    setAt(i);
  }, []);
  const to = (i: number) => setAt(Math.max(0, Math.min(i, sheet.plays.length - 1)));

  const put = (body: Body) => grading.write([{ play: play.id, technique: technique.key, body }]);
  // Whoever is on the field and was not spoken of is clean once the coach moves on.
  const settle = () =>
    grading.write(
      sheet.players
        .filter((p) => there.has(p.id) && !cells.has(cellOf(p.id, play.id)) && p.status !== "head_hold")
        .flatMap((p): Write[] => {
          const key = doneBy(p.id, at);
          const body: Body = { player_id: p.id, state: "assumed" };
          return key ? [{ play: play.id, technique: key, body }] : [];
        }),
    );
  const moveOn = () => {
    settle();
    to(at + 1);
  };
  const leave = () => void navigate(`${base}/today`);
  const finish = () => {
    // A play of which nothing was said was not looked at: it stays open.
    const begun = markedOn(sheet, cells, play.id);
    if (begun) settle();
    const left = leftOf(sheet, cells);
    if (left.unmarked.length > 0 || left.open.length > 0 || left.unseen.length > 0) setFinishing(true);
    else leave();
  };
  const swap = () => {
    const inside = !there.has(player.id);
    setChanges(new Map(changes).set(at, new Map(changes.get(at)).set(player.id, inside)));
    if (!inside && cell)
      grading.write([
        { play: play.id, technique: technique.key, body: { player_id: player.id, state: "withdrawn" } },
      ]);
  };
  const mean = (key: string) => {
    if (key === technique.key) return;
    // What was said of another technique is not said of this one, but that it is clean or was not seen.
    const body: Body | undefined = cell && {
      player_id: player.id,
      state: cell.faults?.length || cell.measures?.length ? "looked" : cell.state,
      note: cell.note,
      praise: cell.praise,
      assignment: cell.state === "looked" ? cell.assignment : undefined,
      finish: cell.state === "looked" ? cell.finish : undefined,
    };
    if (body) grading.write([{ play: play.id, technique: key, body }]);
    else setChosen(new Map(chosen).set(cellOf(player.id, play.id), key));
  };
  const step = (by: number) => {
    const i = sheet.techniques.findIndex((t) => t.key === technique.key);
    mean(sheet.techniques[(i + by + sheet.techniques.length) % sheet.techniques.length]!.key);
  };
  const down = (by: number) => setRow((row + by + sheet.players.length) % sheet.players.length);
  const seek = (by: 1 | -1, wanted: (m: Omit<CellMark, "rep">) => boolean) => {
    for (let i = at + by; i >= 0 && i < sheet.plays.length; i += by) {
      const m = cells.get(cellOf(player.id, sheet.plays[i]!.id))?.mark;
      if (m && wanted(m)) return setAt(i);
    }
  };
  const follow = (w: Write | undefined) => {
    if (!w) return;
    to(sheet.plays.findIndex((p) => p.id === w.play));
    const r = sheet.players.findIndex((p) => p.id === w.body.player_id);
    if (r >= 0) setRow(r);
  };
  const undo = () => follow(grading.undo());
  const redo = () => follow(grading.redo());

  const film = useFilm({
    subject: sheet.game_id,
    footage,
    of: (c) => c.play_id === play.id,
    at: play.id,
    was: place,
    silent: blind,
  });
  const pass = passing(film.any);
  const whom = useAsked();
  const acts = actsOf({
    cell,
    player: player.id,
    rep: 0,
    put,
    ask: setAsking,
    whom: whom.usual,
    judged: sheet.judged,
  });
  const may = sheet.editable;
  const marking: Key[] = !may
    ? []
    : [
        ...markKeys(acts, technique, cell, sheet.judged),
        ...(whom.coaches.length > 0
          ? [{ keys: "Shift+q", does: "Whom an open question is put to", run: () => setAsking("coach") }]
          : []),
        { keys: "[", does: "What it is a mark of: the one before", run: () => step(-1) },
        { keys: "]", does: "What it is a mark of: the next", run: () => step(1) },
        { keys: "-", does: "The player comes in, or goes out, from here on", run: swap },
        { keys: "z Ctrl+z Backspace", does: "Undo", run: undo },
        { keys: "Shift+z Ctrl+Shift+z Ctrl+y", does: "Do it again", run: redo },
        { keys: "Enter", does: "Done: the rest of a begun play is clean; what is left is said", run: finish },
      ];
  useKeys([
    {
      keys: "1 2 3 4 5 6 7 8 9 0",
      does: "Choose the player of that row",
      run: (e) => setRow(Math.min(rowOf(e), sheet.players.length - 1)),
    },
    { keys: "i", does: "Choose a player by his number", run: () => setAsking("number") },
    {
      keys: pass.on,
      does: may ? "Move on: whoever is on the field is clean" : "Next play",
      run: may ? moveOn : () => to(at + 1),
    },
    { keys: pass.back, does: "Play before", run: () => to(at - 1) },
    { keys: "ArrowDown", does: "Next player", run: () => down(1) },
    { keys: "ArrowUp", does: "Player before", run: () => down(-1) },
    ...([1, -1] as const).flatMap((by): Key[] => {
      const way = by > 0 ? "Right" : "Left";
      const which = by > 0 ? "Next play" : "Play before";
      return [
        { keys: `Shift+Arrow${way}`, does: `${which} of this player`, run: () => seek(by, () => true) },
        {
          keys: `Ctrl+Arrow${way}`,
          does: `${which} with a fault of this player`,
          run: () => seek(by, faulty),
        },
      ];
    }),
    {
      keys: "PageDown",
      does: "Next play that is not marked",
      run: () => {
        const next = nextOpen(sheet, cells, at + 1);
        if (next >= 0) to(next);
      },
    },
    { keys: "Shift+l", does: "The labels of the play: correct them", run: () => setLabelling(true) },
    ...marking,
  ]);
  const sum = useMemo(() => totals(sheet, cells), [sheet, cells]);
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-4">
        <p className="label min-w-0">
          {weekdayDate(sheet.date)} · {sum.graded} of {count(sum.plays, "play")} marked
          {sum.open > 0 && ` · ${count(sum.open, "open question")}`}
          {sum.unseen > 0 && ` · ${sum.unseen} unseen`}
        </p>
        <Elsewhere base={`${base}/film/${sheet.game_id}`} />
      </div>
      <div className="mb-2 flex flex-wrap items-end gap-3">
        <span className="flex flex-wrap items-baseline gap-x-4">
          <Title page={`Grading: ${title}`}>{title}</Title>
          <span role="status" aria-label="The play">
            <b className="text-head">Play {play.play.number}</b> <PlayLine play={play.play} />
          </span>
        </span>
        <span className="ml-auto flex flex-wrap items-center gap-1.5">
          {cutUp}
          <Button kind="quiet" onClick={() => setLabelling(true)}>
            Labels{" "}
            <span className="kbd max-md:hidden" aria-hidden>
              ⇧L
            </span>
          </Button>
          {may && (
            <Button kind="main" onClick={finish}>
              Done <span className="kbd">Enter</span>
            </Button>
          )}
        </span>
      </div>
      {blind && (
        <p className="say mb-2 border border-rule bg-paper p-2">
          You grade blind: only your own marks are here. What others said of these plays is under{" "}
          <Link className="textual" to={`${base}/film/${sheet.game_id}/two`}>
            Two graders
          </Link>
          .
        </p>
      )}
      {grading.refused.size > 0 && (
        <Refusal className="mb-2">
          {count(grading.refused.size, "mark")} could not be saved. They stand struck through; press “not
          saved” above to see why, or mark them anew.
        </Refusal>
      )}
      <div className={film.any ? besidePicture : "flex flex-col gap-3"}>
        {film.any && <FilmOf film={film} />}
        <div className={film.any ? "min-w-0 lg:col-span-2 lg:row-start-2" : "min-w-0"}>
          <PlayScore {...{ sheet, techniques, grading, there, at, row }} onChoose={choose} />
          <Besides cells={cells} techniques={sheet.techniques} />
        </div>
        {may ? (
          <Panel
            sheet={pseudo}
            by="play"
            call={play.play.call}
            player={player}
            rep={play.play.number}
            cell={cell}
            noting={asking === "note"}
            usual={usual}
            back={pass.backName}
            marks={Math.max(0, cells.size - before)}
            {...acts}
            asks={whom.coaches.length > 0 ? whom.named(cell?.asked ?? whom.usual) : undefined}
            onMoveOn={moveOn}
            onBack={at > 0 ? () => to(at - 1) : undefined}
            onUndo={grading.canUndo ? undo : undefined}
            onRedo={grading.canRedo ? redo : undefined}
          >
            <div className="mt-3 flex flex-wrap items-center gap-2">
              <span className="label">Mark of</span>
              <Select
                label="What it is a mark of"
                value={technique.key}
                options={sheet.techniques.map((t) => ({ value: t.key, name: t.name }))}
                onChange={mean}
              />
              <span className="kbd max-md:hidden">[</span>
              <span className="kbd max-md:hidden">]</span>
              <Button kind="quiet" pressed={there.has(player.id)} onClick={swap}>
                On the field{" "}
                <span className="kbd max-md:hidden" aria-hidden>
                  -
                </span>
              </Button>
            </div>
            <Asking
              {...{ asking, player, cell, put }}
              sheet={pseudo}
              rep={0}
              call={play.play.call}
              toGo={play.play.distance}
              onAsk={setAsking}
              onChoose={setRow}
              coaches={whom.coaches}
              onAsked={(coach) => {
                whom.keep(coach);
                acts.onAsked(coach);
              }}
            />
          </Panel>
        ) : (
          <p className="say text-soft">The group&apos;s coaches grade it.</p>
        )}
      </div>
      <Labels game={sheet.game_id} play={play.id} open={labelling} onClose={() => setLabelling(false)} />
      <Finishing
        {...{ sheet, cells }}
        assumed={sum.assumed}
        open={finishing}
        onClose={() => setFinishing(false)}
        onGo={({ at: i, row: r }) => {
          setFinishing(false);
          choose(r ?? row, i);
        }}
        onDone={leave}
      />
    </>
  );
}
