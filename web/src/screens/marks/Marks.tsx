import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { nameOf, useKeys, type Key } from "@/app/keys";
import { useWhere } from "@/app/where";
import { Empty, Loading, Trouble } from "@/parts/States";
import { count, weekdayDate } from "@/parts/words";
import { lettersOf } from "./letters";
import { Panel } from "./Panel";
import { Score } from "./Score";
import { assumed, looked, sideOf, toggleFacet, toggleFault, toggleState } from "./cell";
import { Measuring } from "./Measuring";
import { cellKey, useMarking, type CellMark } from "./useMarking";

/** Marking the reps of one drill, by exception, from the keyboard. */
export function Marks() {
  const { placement = "", id = "" } = useParams();
  const { base } = useWhere();
  const sheet = useQuery({
    ...queries.markSheet(placement),
    refetchOnWindowFocus: false,
    staleTime: 0,
    gcTime: 0,
  });
  const session = useQuery(queries.session());
  if (sheet.error) return <Trouble error={sheet.error} again={() => void sheet.refetch()} />;
  if (!sheet.data || !session.data?.user) return <Loading what="the mark sheet" />;
  if (sheet.data.players.length === 0)
    return (
      <Empty
        action={
          <Link className="btn" to={`${base}/practice/${id}`}>
            Back to the practice
          </Link>
        }
      >
        Nobody of the group can take part in this drill.
      </Empty>
    );
  return <Sheet key={placement} sheet={sheet.data} user={session.data.user.id} />;
}

function Sheet({ sheet, user }: { sheet: Schemas["MarkSheet"]; user: string }) {
  const { base } = useWhere();
  const client = useQueryClient();
  const navigate = useNavigate();
  const marking = useMarking(sheet, user);
  const [rep, setRep] = useState(() => firstOpen(sheet, marking.cells));
  const [row, setRow] = useState(0);
  const [noting, setNoting] = useState(false);
  const [measuring, setMeasuring] = useState(false);
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
    void client.invalidateQueries({ queryKey: ["practice"] });
    void navigate(back);
  };
  const down = (by: number) => setRow((row + by + sheet.players.length) % sheet.players.length);
  const undo = () => {
    const first = marking.undo();
    if (first) setRep(first.rep);
  };

  const letters = lettersOf(sheet.faults);
  const faultKeys: Key[] = sheet.faults
    .filter((f) => letters.get(f.key))
    .map((f) => ({
      keys: letters.get(f.key)!,
      does: f.name,
      run: () => put(toggleFault(cell, player.id, rep, f.key)),
    }));
  useKeys([
    {
      keys: "1 2 3 4 5 6 7 8 9 0",
      does: "Choose the player of that row",
      run: (e) => setRow(Math.min(rowOf(nameOf(e)), sheet.players.length - 1)),
    },
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
    { keys: "n", does: "Note", run: () => setNoting(true) },
    ...(sheet.measures.length > 0 ? [{ keys: "m", does: "Measure", run: () => setMeasuring(true) }] : []),
    ...(sheet.sides === 2
      ? [{ keys: "x", does: "The other side, from here on", run: () => setSwapped(!swapped) }]
      : []),
    { keys: "z Ctrl+z Backspace", does: "Undo", run: undo },
    { keys: "Enter", does: "Done: the rest of this rep is clean, back to the practice", run: finish },
  ]);
  return (
    <>
      <div className="mb-2 flex flex-wrap items-end gap-3">
        <div>
          <p className="label">
            {weekdayDate(sheet.date)} · {sheet.technique_name} · {count(sheet.planned_reps, "rep")} planned
          </p>
          <h1 className="title">{sheet.drill}</h1>
        </div>
        <button type="button" className="btn btn-main ml-auto" onClick={finish}>
          Done <span className="kbd">Enter</span>
        </button>
      </div>
      {marking.refused.length > 0 && (
        <div role="alert" className="mb-2 border border-fault bg-fault-wash p-2">
          <p className="say">
            {count(marking.refused.length, "mark")} could not be saved: {marking.refused[0]?.reason}
          </p>
          <button type="button" className="btn mt-1" onClick={marking.letGo}>
            I have seen it
          </button>
        </div>
      )}
      <div className="flex flex-wrap items-start gap-3">
        <Score
          {...{ sheet, rep, row, columns }}
          cells={marking.cells}
          waiting={marking.waiting}
          onChoose={choose}
        />
        <Panel
          {...{ sheet, player, rep, cell, noting, side }}
          marks={marking.cells.size}
          onFault={(key) => put(toggleFault(cell, player.id, rep, key))}
          onMoveOn={moveOn}
          onUndo={undo}
          onState={(state) => put(toggleState(cell, player.id, rep, state))}
          onNote={(note) => {
            setNoting(false);
            if (note !== undefined)
              put(
                cell && cell.state !== "assumed"
                  ? { ...cell, note }
                  : { ...looked(cell, player.id, rep), note },
              );
          }}
        >
          {measuring && (
            <Measuring
              sheet={sheet}
              player={player}
              onDone={(measured) => {
                setMeasuring(false);
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

const rowOf = (digit: string) => (digit === "0" ? 9 : Number(digit) - 1);

/** The first rep that is not marked for everybody. */
function firstOpen(sheet: Schemas["MarkSheet"], cells: Map<string, CellMark>): number {
  let rep = 1;
  while (rep < 200 && sheet.players.every((p) => cells.has(cellKey(p.id, rep)) || p.status === "head_hold"))
    rep++;
  return rep;
}
