import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  closestCenter,
  useSensor,
  useSensors,
  type Announcements,
  type UniqueIdentifier,
} from "@dnd-kit/core";
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import clsx from "clsx";
import { useEffect, useRef, useState, type ReactNode, type RefObject } from "react";
import { Button } from "./Button";
import { useKeepFocus } from "./focus";

interface Props<T> {
  label: string;
  /** What one of them is called: "stage". */
  one: string;
  items: T[];
  keyOf: (item: T) => string;
  onMove: (from: number, to: number) => void;
  /** A line; what it is given are its buttons that move it, for its end. */
  children: (item: T, index: number, moves: ReactNode) => ReactNode;
  look?: (item: T, index: number) => string | undefined;
}

/**
 * A list whose order is the coach's: dragged by its number, moved by its buttons, by Alt and the arrows anywhere in a
 * line, or by Space and the arrows at its number. The keyboard goes along with what moves.
 */
export function Sortable<T>({ label, one, items, keyOf, onMove, children, look }: Props<T>) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const keep = useKeepFocus<HTMLOListElement>();
  const [moved, setMoved] = useState<string>(); // the line that the keyboard goes along with
  const had = useRef<Element | null>(null); // what of it had the keyboard
  const ids = items.map(keyOf);
  const move = (from: number, to: number) => {
    if (to < 0 || to >= items.length || from === to) return;
    had.current = document.activeElement;
    onMove(from, to);
    setMoved(ids[from]);
  };
  const at = (id: UniqueIdentifier) => `${one} ${ids.indexOf(String(id)) + 1} of ${ids.length}`;
  const announcements: Announcements = {
    onDragStart: ({ active }) => `Taken: ${at(active.id)}.`,
    onDragOver: ({ over }) => (over ? `It would be ${at(over.id)}.` : "It would stay."),
    onDragEnd: ({ over }) => (over ? `Put down as ${at(over.id)}.` : "Put back."),
    onDragCancel: () => "Put back.",
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      accessibility={{
        announcements,
        screenReaderInstructions: {
          draggable: "Space takes it, the arrows move it, Space puts it down, Escape puts it back.",
        },
      }}
      onDragEnd={({ active, over }) => {
        if (over) move(ids.indexOf(String(active.id)), ids.indexOf(String(over.id)));
      }}
    >
      <SortableContext items={ids} strategy={verticalListSortingStrategy}>
        <ol ref={keep} className="grid gap-2" aria-label={label}>
          {items.map((item, i) => (
            <Line
              key={ids[i]}
              id={ids[i]!}
              {...{ one, move }}
              index={i}
              last={i === items.length - 1}
              moved={moved === ids[i]}
              had={had}
              onMoved={() => setMoved(undefined)}
              className={look?.(item, i)}
            >
              {(moves) => children(item, i, moves)}
            </Line>
          ))}
        </ol>
      </SortableContext>
    </DndContext>
  );
}

interface LineProps {
  id: string;
  one: string;
  index: number;
  last: boolean;
  moved: boolean;
  had: RefObject<Element | null>;
  onMoved: () => void;
  move: (from: number, to: number) => void;
  className?: string;
  children: (moves: ReactNode) => ReactNode;
}

function Line({ id, one, index: i, last, moved, had, onMoved, move, className, children }: LineProps) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } =
    useSortable({
      id,
    });
  const handle = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (!moved) return;
    // What had the keyboard keeps it: moving a line in the page takes it away.
    const to = had.current instanceof HTMLElement && had.current.isConnected ? had.current : handle.current;
    to?.focus();
    onMoved();
  }, [moved, had, onMoved, i]);
  const word = one[0]!.toUpperCase() + one.slice(1);
  const moves = (
    <>
      <Button kind="quiet" off={i === 0} onClick={() => move(i, i - 1)}>
        <span aria-hidden>↑</span>
        <span className="sr-only">
          {word} {i + 1} up
        </span>
      </Button>
      <Button kind="quiet" off={last} onClick={() => move(i, i + 1)}>
        <span aria-hidden>↓</span>
        <span className="sr-only">
          {word} {i + 1} down
        </span>
      </Button>
    </>
  );
  return (
    // The keys reorder the line; everything in it stays reachable with Tab.
    // eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions
    <li
      ref={setNodeRef}
      className={clsx(
        "flex items-start gap-x-2 border bg-sheet p-2",
        className ?? "border-rule",
        isDragging && "z-10 opacity-80",
      )}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      onKeyDown={(e) => {
        if (!e.altKey || (e.key !== "ArrowUp" && e.key !== "ArrowDown")) return;
        e.preventDefault();
        move(i, i + (e.key === "ArrowUp" ? -1 : 1));
      }}
    >
      <Button
        kind="bare"
        ref={(e) => {
          setActivatorNodeRef(e);
          handle.current = e;
        }}
        {...attributes}
        {...listeners}
        className="w-7 shrink-0 cursor-grab touch-none text-center text-head font-bold pointer-coarse:min-w-11"
      >
        {i + 1}
        <span className="sr-only">, move {one}</span>
      </Button>
      {children(moves)}
    </li>
  );
}
