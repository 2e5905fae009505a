import {
  MouseSensor,
  TouchSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
  type DragMoveEvent,
} from "@dnd-kit/core";
import { useEffect, useRef, type RefObject } from "react";
import * as P from "./periods";
import type { Editing } from "./useScript";

/**
 * How far the pointer really is from where it took hold. On a busy machine a drag is told to be over
 * before its last moves have been drawn; where it is let go counts, not where it was seen last.
 */
function usePointerX() {
  const x = useRef<number>(undefined);
  useEffect(() => {
    const take = (e: Event) => {
      const from =
        "touches" in e
          ? ((e as TouchEvent).touches[0] ?? (e as TouchEvent).changedTouches[0])
          : (e as MouseEvent);
      x.current = from?.clientX;
    };
    const heard = ["mousemove", "mouseup", "touchmove", "touchend"] as const;
    for (const name of heard) window.addEventListener(name, take, { capture: true, passive: true });
    return () => {
      for (const name of heard) window.removeEventListener(name, take, { capture: true });
    };
  }, []);
  return (e: DragEndEvent) => {
    const began = e.activatorEvent;
    const from =
      "touches" in began ? (began as TouchEvent).touches[0]?.clientX : (began as MouseEvent).clientX;
    return from === undefined || x.current === undefined ? e.delta.x : x.current - from;
  };
}

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
  const reach = usePointerX();
  const at = (e: DragMoveEvent | DragEndEvent, x = e.delta.x): P.Script => {
    const [act, id = ""] = String(e.active.id).split(":");
    const by = Math.round((x / (track.current?.clientWidth ?? 1)) * length);
    const p = editing.items.get(id);
    if (!p) return editing.items;
    if (act === "from") return P.beginning(editing.items, id, p.start + by);
    if (act === "to") return P.ending(editing.items, id, p.start + p.minutes + by, length);
    return P.moved(editing.items, id, p.start + by, length);
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
      editing.change(at(e, reach(e)));
      end();
      choose(String(e.active.id).split(":")[1] ?? "");
    },
    onDragCancel: end,
  };
}
