import { useEffect, useRef, useState } from "react";
import { useKeys } from "@/keys/react";
import { backTo } from "@/kit/focus";
import { Mark, whole } from "./Sketch";
import type { Shape } from "./useDrawings";

interface Props {
  kind: Shape["kind"];
  width: number;
  height: number;
  onDraw: (s: Shape) => void;
  /** The next pen; after the last it is put away. */
  onNext: () => void;
  onAway: () => void;
  onRubOut?: () => void;
}

/** A hundredth of the width at a press, and a fifth of that for the last bit. */
const wide = whole / 100;
const fine = wide / 5;

/** A pen in the hand that is at the keyboard: it is moved, set down and lifted by keys of its own layer. */
export function Pen({ kind, width, height, onDraw, onNext, onAway, onRubOut }: Props) {
  const [pen, setPen] = useState<{ x: number; y: number; from?: { x: number; y: number } }>({
    x: whole / 2,
    y: whole / 2,
  });
  const now = useRef(pen);
  useEffect(() => {
    now.current = pen;
  });
  // The hand is at the pen: Enter is not for the button that was pressed last.
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const was = document.activeElement;
    box.current?.focus({ preventScroll: true });
    return () => backTo(was);
  }, []);
  const by = (dx: number, dy: number) =>
    setPen((p) => ({
      ...p,
      x: Math.max(0, Math.min(whole, p.x + dx)),
      // As far up as sideways on the picture.
      y: Math.max(0, Math.min(whole, Math.round(p.y + (dy * width) / height))),
    }));
  const press = () => {
    const { x, y, from } = now.current;
    if (!from) return setPen({ x, y, from: { x, y } });
    setPen({ x, y });
    if (from.x !== x || from.y !== y) onDraw({ kind, x1: from.x, y1: from.y, x2: x, y2: y });
  };
  useKeys([
    ...(["Right", "Left", "Down", "Up"] as const).flatMap((way, i) => {
      const sign = i % 2 === 0 ? 1 : -1;
      const move = (step: number) => (i < 2 ? by(sign * step, 0) : by(0, sign * step));
      return [
        { keys: `Arrow${way}`, does: `The pen ${way.toLowerCase()}`, run: () => move(wide) },
        { keys: `Shift+Arrow${way}`, does: `A little ${way.toLowerCase()}`, run: () => move(fine) },
      ];
    }),
    { keys: "Enter Space", does: "Set the pen down, or lift it", run: press },
    { keys: "Shift+d", does: "The next pen", run: onNext },
    {
      keys: "Escape",
      does: "Lift it without drawing; put it away",
      run: () => (now.current.from ? setPen(({ x, y }) => ({ x, y })) : onAway()),
    },
    { keys: "Backspace Delete z", does: "Rub out the last", run: () => onRubOut?.() },
  ]);
  const cross = { x: (pen.x / whole) * width, y: (pen.y / whole) * height, arm: width / 50 };
  const lines = `M${cross.x - cross.arm} ${cross.y}h${2 * cross.arm}M${cross.x} ${cross.y - cross.arm}v${2 * cross.arm}`;
  const part = (v: number) => Math.round((100 * v) / whole);
  return (
    <div
      ref={box}
      tabIndex={-1}
      role="group"
      aria-label="The pen"
      className="pointer-events-none absolute inset-0 outline-none"
    >
      <svg
        viewBox={`0 0 ${width} ${height}`}
        className="pointer-events-none absolute inset-0 h-full w-full"
        aria-hidden
      >
        {pen.from && (
          <Mark
            s={{ kind, x1: pen.from.x, y1: pen.from.y, x2: pen.x, y2: pen.y }}
            width={width}
            height={height}
          />
        )}
        <path d={lines} stroke="#17222b" strokeWidth={width / 160} />
        <path d={lines} stroke="#ffffff" strokeWidth={width / 400} />
      </svg>
      <p className="absolute inset-x-0 bottom-0 bg-rail/85 px-2 py-1 text-small text-rail-ink">
        <b>{kind}</b> · arrows move the pen, <kbd>Enter</kbd> {pen.from ? "lifts it: drawn" : "sets it down"},{" "}
        <kbd>⇧D</kbd> next pen, <kbd>z</kbd> rubs out, <kbd>Esc</kbd>{" "}
        {pen.from ? "lifts it undrawn" : "puts it away"}
        <span role="status" className="sr-only">
          Pen at {part(pen.x)} across and {part(pen.y)} down{pen.from ? ", set down" : ""}
        </span>
      </p>
    </div>
  );
}
