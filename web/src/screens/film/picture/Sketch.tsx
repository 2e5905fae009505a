import { useState, type PointerEvent } from "react";
import type { Shape } from "./useDrawings";

interface Props {
  shapes: Shape[];
  width: number;
  height: number;
  /** What the next stroke draws; not given while one only looks. */
  tool?: Shape["kind"];
  onDraw: (s: Shape) => void;
}

/** Ten thousandths of the picture's width and height: a drawing is on the same place however large it is seen. */
export const whole = 10_000;
/** A stroke shorter than this is a slip of the hand. */
const least = 150;

/** What is drawn over a stopped frame, and the hand that draws. */
export function Sketch({ shapes, width, height, tool, onDraw }: Props) {
  const [stroke, setStroke] = useState<Shape>();
  const at = (e: PointerEvent<SVGSVGElement>) => {
    const box = e.currentTarget.getBoundingClientRect();
    const part = (v: number) => Math.max(0, Math.min(whole, Math.round(v * whole)));
    return { x: part((e.clientX - box.left) / box.width), y: part((e.clientY - box.top) / box.height) };
  };
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className={
        tool
          ? "absolute inset-0 h-full w-full cursor-crosshair touch-none"
          : "pointer-events-none absolute inset-0 h-full w-full"
      }
      aria-label={shapes.length > 0 ? `Drawn on it: ${shapes.map((s) => s.kind).join(", ")}` : undefined}
      aria-hidden={shapes.length === 0}
      role="img"
      onPointerDown={(e) => {
        if (!tool || e.button !== 0) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        const { x, y } = at(e);
        setStroke({ kind: tool, x1: x, y1: y, x2: x, y2: y });
      }}
      onPointerMove={(e) => {
        if (!stroke) return;
        const { x, y } = at(e);
        setStroke({ ...stroke, x2: x, y2: y });
      }}
      onPointerUp={() => {
        if (!stroke) return;
        setStroke(undefined);
        if (Math.hypot(stroke.x2 - stroke.x1, stroke.y2 - stroke.y1) >= least) onDraw(stroke);
      }}
      onPointerCancel={() => setStroke(undefined)}
    >
      {[...shapes, ...(stroke ? [stroke] : [])].map((s, i) => (
        <Mark key={i} s={s} width={width} height={height} />
      ))}
    </svg>
  );
}

/** A line, arrow or circle that is drawn. */
export function Mark({ s, width, height }: { s: Shape; width: number; height: number }) {
  const x1 = (s.x1 / whole) * width;
  const y1 = (s.y1 / whole) * height;
  const x2 = (s.x2 / whole) * width;
  const y2 = (s.y2 / whole) * height;
  const thick = width / 190;
  let path = `M${x1} ${y1}L${x2} ${y2}`;
  if (s.kind === "arrow") {
    const angle = Math.atan2(y2 - y1, x2 - x1);
    const wing = (turn: number) =>
      `${x2 - 5 * thick * Math.cos(angle + turn)} ${y2 - 5 * thick * Math.sin(angle + turn)}`;
    path += `M${wing(0.45)}L${x2} ${y2}L${wing(-0.45)}`;
  }
  // A dark edge: it is seen on grass, on chalk and on either jersey.
  return [
    { stroke: "#17222b", strokeWidth: thick * 2 },
    { stroke: "#ffd84d", strokeWidth: thick },
  ].map((pen) =>
    s.kind === "circle" ? (
      <circle key={pen.stroke} cx={x1} cy={y1} r={Math.hypot(x2 - x1, y2 - y1)} fill="none" {...pen} />
    ) : (
      <path key={pen.stroke} d={path} fill="none" strokeLinecap="round" strokeLinejoin="round" {...pen} />
    ),
  );
}
