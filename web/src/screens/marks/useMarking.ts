import { useCallback, useMemo, useRef, useState, useSyncExternalStore } from "react";
import { v7 as uuid } from "uuid";
import type { Schemas } from "@/api/client";
import { outboxOf, type MarkInput } from "@/app/outbox";

/** What stands in one cell of the score: a player's rep. */
export type CellMark = Omit<MarkInput, "id" | "placement_id"> & { id: string };

export const cellKey = (player: string, rep: number) => `${player}:${rep}`;

export interface Marking {
  cells: Map<string, CellMark>;
  waiting: ReadonlySet<string>;
  refused: readonly { mark: MarkInput; reason: string }[];
  letGo: () => void;
  /** Writes what now stands in some cells, as one step that undo takes back. */
  write: (next: Omit<CellMark, "id">[]) => void;
  undo: () => Omit<CellMark, "id"> | undefined;
  canUndo: boolean;
}

/** The marks of a placed drill: what the server has, with what this page has written since over it. */
export function useMarking(sheet: Schemas["MarkSheet"], user: string): Marking {
  const box = outboxOf(user);
  const placement = sheet.placement_id;
  const waiting = useSyncExternalStore(box.listen, box.waiting);
  const [written, setWritten] = useState<MarkInput[]>(() =>
    box.queue().filter((m) => m.placement_id === placement),
  );
  const past = useRef<Omit<CellMark, "id">[][]>([]);
  const [steps, setSteps] = useState(0);

  const cells = useMemo(() => {
    const map = new Map<string, CellMark>();
    for (const m of sheet.marks) map.set(cellKey(m.player_id, m.rep), fromServer(m));
    for (const m of written) {
      if (m.state === "withdrawn") map.delete(cellKey(m.player_id, m.rep));
      else map.set(cellKey(m.player_id, m.rep), m);
    }
    return map;
  }, [sheet.marks, written]);

  const send = useCallback(
    (next: Omit<CellMark, "id">[]) => {
      const marks = next.map((m) => ({ ...m, id: uuid(), placement_id: placement }));
      box.add(marks);
      setWritten((old) => [...old, ...marks]);
    },
    [box, placement],
  );

  const write = useCallback(
    (next: Omit<CellMark, "id">[]) => {
      if (next.length === 0) return;
      past.current.push(
        next.map(
          (m) =>
            cells.get(cellKey(m.player_id, m.rep)) ?? {
              player_id: m.player_id,
              rep: m.rep,
              state: "withdrawn",
            },
        ),
      );
      setSteps(past.current.length);
      send(next);
    },
    [cells, send],
  );
  const undo = useCallback(() => {
    const before = past.current.pop();
    setSteps(past.current.length);
    if (!before) return undefined;
    send(before);
    return before[0];
  }, [send]);

  return { cells, waiting, refused: box.refused, letGo: () => box.letGo(), write, undo, canUndo: steps > 0 };
}

function fromServer(m: Schemas["Mark"]): CellMark {
  return {
    id: m.id,
    player_id: m.player_id,
    rep: m.rep,
    state: m.state,
    assignment: m.assignment,
    technique: m.technique,
    finish: m.finish,
    measures:
      m.measures.length > 0 ? m.measures.map(({ checkpoint, value }) => ({ checkpoint, value })) : undefined,
    faults: m.faults.map((f) => ({ key: f.key, caused_by: f.caused_by })),
    praise: m.praise,
    note: m.note,
    side: m.side === "left" || m.side === "right" ? m.side : undefined,
  };
}
