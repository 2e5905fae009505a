import { Button, ButtonLink } from "@/kit/Button";
import { useQuery } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { useNavigate, useParams } from "react-router";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useKeys, type Key } from "@/keys/react";
import { Title } from "@/kit/Title";
import { useWhere } from "@/app/where";
import { Empty, Loading, Trouble } from "@/kit/States";
import { count, weekdayDate } from "@/parts/words";
import { lettersOf } from "./letters";
import { ByNumber } from "./ByNumber";
import { Panel } from "./Panel";
import { Score } from "./Score";
import { assumed, looked, sideOf, toggleFacet, toggleFault, toggleState } from "./cell";
import { Measuring } from "./Measuring";
import { cellKey, useMarking, type CellMark } from "./useMarking";

/** Marking the reps of one drill, by exception, from the keyboard. */
export function Marks() {
  const { placement = "", id = "" } = useParams();
  const { base } = useWhere();
  const sheet = useQuery(queries.markSheet(placement));
  if (sheet.error) return <Trouble error={sheet.error} again={() => void sheet.refetch()} />;
  if (!sheet.data) return <Loading what="the mark sheet" />;
  if (sheet.data.players.length === 0)
    return (
      <Empty action={<ButtonLink to={`${base}/practice/${id}`}>Back to the practice</ButtonLink>}>
        Nobody of the group can take part in this drill.
      </Empty>
    );
  return <Sheet key={placement} sheet={sheet.data} />;
}

function Sheet({ sheet }: { sheet: Schemas["MarkSheet"] }) {
  const { base } = useWhere();
  const navigate = useNavigate();
  const marking = useMarking(sheet);
  const [rep, setRep] = useState(() => firstOpen(sheet, marking.cells));
  const [row, setRow] = useState(0);
  const [asking, setAsking] = useState<"note" | "measure" | "number">();
  const [swapped, setSwapped] = useState(false);
  const columns = Math.max(sheet.planned_reps, rep, 1);
  const player = sheet.players[row]!;
  const cell = marking.cells.get(cellKey(player.id, rep));
  const choose = useCallback((r: number, c: number) => {
    setRow(r);
    setRep(c);
  }, []);
  const back = `${base}/practice/${sheet.practice_id}`;

  const side = sheet.sides === 2 ? (cell?.side ?? sideOf(rep, swapped)) : undefined;
  const put = (body: Omit<CellMark, "id">) => marking.write([{ ...body, side: body.side ?? side }]);
  // Everything the coach did not speak of in this rep is clean once he moves on.
  const moveOn = () => {
    marking.write(
      sheet.players
        .filter((p) => !marking.cells.has(cellKey(p.id, rep)) && p.status !== "head_hold")
        .map((p) => ({
          ...assumed(p.id, rep),
          side: sheet.sides === 2 ? sideOf(rep, swapped) : undefined,
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

  const letters = lettersOf(sheet.faults);
  const faultKeys: Key[] = sheet.faults
    .filter((f) => letters.get(f.key))
    .map((f) => ({
      keys: letters.get(f.key)!,
      does: f.name,
      given: true,
      run: () => put(toggleFault(cell, player.id, rep, f.key)),
    }));
  useKeys([
    {
      keys: "1 2 3 4 5 6 7 8 9 0",
      does: "Choose the player of that row",
      run: (e) => setRow(Math.min(rowOf(e), sheet.players.length - 1)),
    },
    { keys: "i", does: "Choose a player by his number", run: () => setAsking("number") },
    { keys: "Space ArrowRight", does: "Move on: the rest of this rep is clean", run: moveOn },
    { keys: "ArrowLeft", does: "Rep before", run: () => setRep(Math.max(1, rep - 1)) },
    { keys: "ArrowDown", does: "Next player", run: () => down(1) },
    { keys: "ArrowUp", does: "Player before", run: () => down(-1) },
    ...faultKeys,
    {
      keys: "t",
      does: "Technique wrong, no name for it",
      run: () => put(toggleFacet(cell, player.id, rep, "technique")),
    },
    { keys: "a", does: "Wrong assignment", run: () => put(toggleFacet(cell, player.id, rep, "assignment")) },
    { keys: "f", does: "No finish", run: () => put(toggleFacet(cell, player.id, rep, "finish")) },
    { keys: "p", does: "Praise", run: () => put({ ...looked(cell, player.id, rep), praise: !cell?.praise }) },
    { keys: "u", does: "Unseen", run: () => put(toggleState(cell, player.id, rep, "unseen")) },
    { keys: "q", does: "Open question", run: () => put(toggleState(cell, player.id, rep, "unsettled")) },
    {
      keys: ".",
      does: "Looked at, clean",
      run: () => put({ player_id: player.id, rep, state: "looked", faults: [] }),
    },
    { keys: "n", does: "Note", run: () => setAsking("note") },
    ...(sheet.measures.length > 0 ? [{ keys: "m", does: "Measure", run: () => setAsking("measure") }] : []),
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
            {weekdayDate(sheet.date)} · {sheet.technique_name} · {count(sheet.planned_reps, "rep")} planned
          </p>
          <Title page={`Marks: ${sheet.drill}`}>{sheet.drill}</Title>
        </div>
        <Button kind="main" className="ml-auto" onClick={finish}>
          Done <span className="kbd">Enter</span>
        </Button>
      </div>
      {marking.refused.size > 0 && (
        <p role="alert" className="say mb-2 border border-fault bg-fault-wash p-2">
          {count(marking.refused.size, "mark")} could not be saved. They stand struck through; press “not
          saved” above to see why, or mark them anew.
        </p>
      )}
      <div className="flex flex-wrap items-start gap-3">
        <Score
          {...{ sheet, rep, row, columns }}
          cells={marking.cells}
          waiting={marking.waiting}
          refused={marking.refused}
          onChoose={choose}
        />
        <Panel
          {...{ sheet, player, rep, cell, side }}
          noting={asking === "note"}
          marks={marking.cells.size}
          onFault={(key) => put(toggleFault(cell, player.id, rep, key))}
          onMoveOn={moveOn}
          onUndo={marking.canUndo ? undo : undefined}
          onRedo={marking.canRedo ? redo : undefined}
          onAsk={setAsking}
          onBack={rep > 1 ? () => setRep(rep - 1) : undefined}
          onSwap={sheet.sides === 2 ? () => setSwapped(!swapped) : undefined}
          onFacet={(f) => put(toggleFacet(cell, player.id, rep, f))}
          onPraise={() => put({ ...looked(cell, player.id, rep), praise: !cell?.praise })}
          onClean={() => put({ player_id: player.id, rep, state: "looked", faults: [] })}
          onState={(state) => put(toggleState(cell, player.id, rep, state))}
          onNote={(note) => {
            setAsking(undefined);
            if (note !== undefined)
              put(
                cell && cell.state !== "assumed"
                  ? { ...cell, note }
                  : { ...looked(cell, player.id, rep), note },
              );
          }}
        >
          {asking === "number" && (
            <ByNumber
              players={sheet.players}
              onDone={(at) => {
                setAsking(undefined);
                if (at !== undefined) setRow(at);
              }}
            />
          )}
          {asking === "measure" && (
            <Measuring
              sheet={sheet}
              player={player}
              onDone={(measured) => {
                setAsking(undefined);
                if (measured)
                  put({
                    ...looked(cell, player.id, rep),
                    measures: [measured.input],
                    // Beyond the watch band of his standard the technique is wrong; the server says the same.
                    technique: measured.beyond ? 0 : undefined,
                  });
              }}
            />
          )}
        </Panel>
      </div>
    </>
  );
}

/** The row of a digit: by its place on the keyboard, or as it was typed on a pad of digits. */
const rowOf = ({ code, key }: KeyboardEvent) => {
  const digit = /^(?:Digit|Numpad)(\d)$/.exec(code)?.[1] ?? key;
  return digit === "0" ? 9 : Number(digit) - 1;
};

/** The first rep that is not marked for everybody. */
function firstOpen(sheet: Schemas["MarkSheet"], cells: Map<string, CellMark>): number {
  let rep = 1;
  while (rep < 200 && sheet.players.every((p) => cells.has(cellKey(p.id, rep)) || p.status === "head_hold"))
    rep++;
  return rep;
}
