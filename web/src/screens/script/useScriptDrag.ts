import {
  MouseSensor,
  TouchSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
  type DragMoveEvent,
} from "@dnd-kit/core";
import { useRef, type RefObject } from "react";
import * as P from "./periods";
import type { Editing } from "./useScript";

/** Dragging: a period's body moves it, its edges stretch it. What is dragged is saved when it is let go. */
export function useScriptDrag(
  editing: Editing,
  length: number,
  track: RefObject<HTMLDivElement | null>,
  setDragged: (s: P.Script | undefined) => void,
  choose: (id: string) => void,
) {
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 4 } }),
    // A finger scrolls; held still it takes hold.
    useSensor(TouchSensor, { activationConstraint: { delay: 250, tolerance: 6 } }),
  );
  const held = useRef(false);
  const at = (e: DragMoveEvent | DragEndEvent): P.Script => {
    const [act, id = ""] = String(e.active.id).split(":");
    const by = Math.round((e.delta.x / (track.current?.clientWidth ?? 1)) * length);
    const p = editing.script.get(id);
    if (!p) return editing.script;
    if (act === "from") return P.beginning(editing.script, id, p.start + by);
    if (act === "to") return P.ending(editing.script, id, p.start + p.minutes + by, length);
    return P.moved(editing.script, id, p.start + by, length);
  };
  const end = () => {
    held.current = false;
    setDragged(undefined);
  };
  return {
    sensors,
    autoScroll: false,
    onDragStart: () => {
      held.current = true;
    },
    // The last move may be told after the end.
    onDragMove: (e: DragMoveEvent) => held.current && setDragged(at(e)),
    onDragEnd: (e: DragEndEvent) => {
      editing.change(at(e));
      end();
      choose(String(e.active.id).split(":")[1] ?? "");
    },
    onDragCancel: end,
  };
}
