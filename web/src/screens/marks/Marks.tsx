import { Button, ButtonLink } from "@/kit/Button";
import { useQuery } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { useNavigate, useParams } from "react-router";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useKeys } from "@/keys/react";
import { Title } from "@/kit/Title";
import { useWhere } from "@/app/where";
import { Empty, Loading, Trouble, Refusal } from "@/kit/States";
import { count, weekdayDate } from "@/parts/words";
import { actsOf, markKeys } from "./acts";
import { Asking } from "./Asking";
import { rowOf } from "./letters";
import { Panel, type Asked } from "./Panel";
import { Score } from "./Score";
import { assumed, sideOf } from "./cell";
import { Card } from "./Card";
import { askedOf, cardAt, firstFilmed, fromAt, placeOf, sheetOf, wholeOf } from "./shown";
import { besidePicture, passing } from "@/screens/film/picture/beside";
import { FilmOf } from "@/screens/film/picture/FilmOf";
import { useFilm } from "@/screens/film/picture/useFilm";
import { cellKey, useMarking, type CellMark } from "./useMarking";

/** Marking the reps of one drill, by exception, from the keyboard. */
export function Marks() {
  const { placement = "", id = "" } = useParams();
  const { base, group } = useWhere();
  const sheet = useQuery(queries.markSheet(placement));
  const usual = useQuery(queries.usual(group));
  const footage = useQuery(queries.drillFootage(placement));
  if (sheet.error) return <Trouble error={sheet.error} again={() => void sheet.refetch()} />;
  if (!sheet.data || footage.isPending || usual.isLoading) return <Loading what="the mark sheet" />;
  if (sheet.data.players.length === 0)
    return (
      <Empty action={<ButtonLink to={`${base}/practice/${id}`}>Back to the practice</ButtonLink>}>
        Nobody of the group can take part in this drill.
      </Empty>
    );
  return <Sheet key={placement} sheet={sheet.data} footage={footage.data} usual={usual.data ?? []} />;
}

interface SheetProps {
  sheet: Schemas["MarkSheet"];
  footage?: Schemas["Footage"];
  usual: Schemas["Usual"][];
}

function Sheet({ sheet: whole, footage, usual }: SheetProps) {
  const { base } = useWhere();
  const navigate = useNavigate();
  const marking = useMarking(whole);
  const [places, setPlaces] = useState<ReadonlyMap<string, string>>(new Map());
  const filmed = (footage?.clips.length ?? 0) > 0;
  // With a picture one begins where it begins.
  const [begins] = useState(() => firstFilmed(whole, footage?.clips ?? []));
  const [rep, setRep] = useState(() => begins?.rep ?? firstOpen(whole, marking.cells));
  const [row, setRow] = useState(begins?.row ?? 0);
  const [asking, setAsking] = useState<Asked>();
  const [swapped, setSwapped] = useState(false);
  const columns = Math.max(whole.planned_reps, rep, 1);
  const player = whole.players[row]!;
  const cell = marking.cells.get(cellKey(player.id, rep));
  const card = cardAt(whole, rep);
  const from = fromAt(whole, rep);
  const asked = (p: Schemas["Player"]) => askedOf(whole, card, card && placeOf(card, p, places));
  // What was marked stays a mark of what it was made of; what is made now is of what the card asks.
  const technique = (cell?.state !== "withdrawn" && cell?.technique_key) || asked(player);
  const sheet = card ? sheetOf(whole, technique) : wholeOf(whole);
  const choose = useCallback((r: number, c: number) => {
    setRow(r);
    setRep(c);
  }, []);
  const back = `${base}/practice/${sheet.practice_id}`;

  const side = sheet.sides === 2 ? (cell?.side ?? sideOf(rep, swapped, whole.cards?.length)) : undefined;
  const put = (body: Omit<CellMark, "id">) =>
    marking.write([{ ...body, side: body.side ?? side, technique_key: card ? technique : undefined }]);
  // Everything the coach did not speak of in this rep is clean once he moves on.
  const moveOn = () => {
    marking.write(
      sheet.players
        .filter((p) => !marking.cells.has(cellKey(p.id, rep)) && p.status !== "head_hold")
        .map((p) => ({
          ...assumed(p.id, rep),
          technique_key: card ? asked(p) : undefined,
          side: sheet.sides === 2 ? sideOf(rep, swapped, whole.cards?.length) : undefined,
        })),
    );
    if (rep < 200) setRep(rep + 1);
  };
  const finish = () => {
    if (rep <= sheet.planned_reps) moveOn();
    void navigate(back);
  };
  const down = (by: number) => setRow((row + by + sheet.players.length) % sheet.players.length);
  const follow = (first: { rep: number; player_id: string } | undefined) => {
    if (!first) return;
    setRep(first.rep);
    const at = sheet.players.findIndex((p) => p.id === first.player_id);
    if (at >= 0) setRow(at);
  };
  const undo = () => follow(marking.undo());
  const redo = () => follow(marking.redo());

  const film = useFilm({
    subject: sheet.placement_id,
    footage,
    of: (c) => c.player_id === player.id && c.rep === rep,
    at: `${player.id} ${rep}`,
    silent: true,
  });
  const pass = passing(filmed);
  const acts = actsOf({ cell, player: player.id, rep, put, ask: setAsking, judged: sheet.judged });
  useKeys([
    {
      keys: "1 2 3 4 5 6 7 8 9 0",
      does: "Choose the player of that row",
      run: (e) => setRow(Math.min(rowOf(e), sheet.players.length - 1)),
    },
    { keys: "i", does: "Choose a player by his number", run: () => setAsking("number") },
    {
      keys: pass.on,
      does: "Move on: the rest of this rep is clean",
      run: moveOn,
    },
    {
      keys: pass.back,
      does: "Rep before",
      run: () => setRep(Math.max(1, rep - 1)),
    },
    { keys: "ArrowDown", does: "Next player", run: () => down(1) },
    { keys: "ArrowUp", does: "Player before", run: () => down(-1) },
    ...markKeys(acts, sheet, cell, sheet.judged),
    ...(sheet.sides === 2
      ? [{ keys: "x", does: "The other side, from here on", run: () => setSwapped(!swapped) }]
      : []),
    { keys: "z Ctrl+z Backspace", does: "Undo", run: undo },
    { keys: "Shift+z Ctrl+Shift+z Ctrl+y", does: "Do it again", run: redo },
    { keys: "Enter", does: "Done: the rest of this rep is clean, back to the practice", run: finish },
  ]);
  return (
    <>
      <div className="mb-2 flex flex-wrap items-end gap-3">
        <div>
          <p className="label">
            {weekdayDate(sheet.date)} ·{" "}
            {whole.cards
              ? count(whole.cards.length, "card")
              : whole.shows === "each" && whole.techniques
                ? whole.techniques.map((t) => t.name).join(", ")
                : sheet.technique_name}{" "}
            · {count(sheet.planned_reps, "rep")} planned
          </p>
          <Title page={`Marks: ${sheet.drill}`}>{sheet.drill}</Title>
        </div>
        <span className="ml-auto flex flex-wrap gap-1.5">
          <ButtonLink kind="quiet" to={`${back}/mark/${sheet.placement_id}/videos`}>
            Videos
          </ButtonLink>
          <Button kind="main" onClick={finish}>
            Done <span className="kbd">Enter</span>
          </Button>
        </span>
      </div>
      {marking.refused.size > 0 && (
        <Refusal className="mb-2">
          {count(marking.refused.size, "mark")} could not be saved. They stand struck through; press “not
          saved” above to see why, or mark them anew.
        </Refusal>
      )}
      <div className={filmed ? `${besidePicture} items-start` : "flex flex-wrap items-start gap-3"}>
        {filmed && <FilmOf film={film} nothing="This rep is not on film." />}
        <Score
          sheet={wholeOf(whole)}
          {...{ rep, row, columns }}
          cells={marking.cells}
          waiting={marking.waiting}
          refused={marking.refused}
          onChoose={choose}
        />
        <div className={filmed ? "flex min-w-0 lg:col-span-2" : "contents"}>
          <Panel
            usual={usual}
            {...{ sheet, player, rep, cell, side }}
            back={pass.backName}
            noting={asking === "note"}
            marks={marking.cells.size}
            {...acts}
            onMoveOn={moveOn}
            onUndo={marking.canUndo ? undo : undefined}
            onRedo={marking.canRedo ? redo : undefined}
            onBack={rep > 1 ? () => setRep(rep - 1) : undefined}
            onSwap={sheet.sides === 2 ? () => setSwapped(!swapped) : undefined}
            above={
              <>
                {from && (
                  <p className="my-2 border-y border-hair py-2">
                    <span className="label">From</span> <b className="say">{from}</b>
                  </p>
                )}
                {card && (
                  <Card
                    card={card}
                    n={whole.cards!.indexOf(card) + 1}
                    of={whole.cards!.length}
                    technique={sheet.technique_name}
                    place={placeOf(card, player, places)}
                    onPlace={(place) => setPlaces(new Map(places).set(player.id, place))}
                  />
                )}
              </>
            }
          >
            <Asking {...{ asking, sheet, player, rep, cell, put }} onAsk={setAsking} onChoose={setRow} />
          </Panel>
        </div>
      </div>
    </>
  );
}

/** The first rep that is not marked for everybody. */
function firstOpen(sheet: Schemas["MarkSheet"], cells: Map<string, CellMark>): number {
  let rep = 1;
  while (rep < 200 && sheet.players.every((p) => cells.has(cellKey(p.id, rep)) || p.status === "head_hold"))
    rep++;
  return rep;
}
