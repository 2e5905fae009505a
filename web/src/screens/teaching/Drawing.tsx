import { useId } from "react";
import type { Schemas } from "@/api/client";
import { useWidth } from "@/kit/width";

type Setup = Schemas["Setup"];
type Point = [number, number];

interface Props {
  drill: Pick<
    Schemas["Drill"],
    "name" | "setup" | "space_length_yd" | "space_width_yd" | "lanes" | "equipment" | "roles"
  >;
}

const names: Record<string, string> = {
  worker: "works",
  helper: "helps",
  coach: "coach",
  cone: "cone",
  bag: "bag",
  ball: "ball",
  line: "line",
  board: "board",
  chute: "chute",
  rope: "rope",
  sled: "sled",
};
const wayNames: Record<string, string> = {
  run: "runs",
  pedal: "backs up",
  slide: "slides",
  push: "drives",
  throw: "ball",
  look: "looks",
};

/** The set-up of one lane, drawn from the drill's data: what stands where, who moves how, and how far it is. */
export function Drawing({ drill }: Props) {
  const tip = useId();
  const box = bounds(drill);
  // A unit of the picture is a pixel of the screen: its words are as large as any others, however narrow it is.
  const [frame, room = 672] = useWidth<HTMLElement>();
  const scale = Math.min(46, Math.max(5, (room - 52) / (box.x1 - box.x0)), 300 / (box.y1 - box.y0));
  const at = (x: number, y: number): Point => [(x - box.x0) * scale + 26, (y - box.y0) * scale + 16];
  const width = (box.x1 - box.x0) * scale + 52;
  const height = (box.y1 - box.y0) * scale + 58;
  const [left, top] = at(0, 0);
  const w = drill.space_length_yd * scale;
  const h = drill.space_width_yd * scale;
  const step = drill.space_length_yd > 20 ? 5 : 1;
  const used = [...new Set(drill.setup.things.map((t) => t.is))];
  const ways = [...new Set(drill.setup.ways.map((t) => t.is))];
  return (
    <figure ref={frame}>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        className="mx-auto block h-auto max-w-full"
        width={width}
        role="img"
        aria-label={`Set-up of ${drill.name}: ${drill.roles}`}
      >
        <defs>
          <marker id={tip} viewBox="0 0 8 8" refX="7" refY="4" markerWidth="7" markerHeight="7" orient="auto">
            <path d="M0 0L8 4L0 8z" fill="var(--ink)" />
          </marker>
        </defs>
        <rect
          x={left}
          y={top}
          width={w}
          height={h}
          className="fill-paper print:fill-white"
          stroke="var(--rule)"
        />
        {ticks(drill.space_length_yd, step).map((x) => {
          const [px] = at(x, 0);
          const major = Math.round(x) % (step === 1 ? 5 : 10) === 0;
          return (
            <g key={x}>
              <path d={`M${px} ${top + h}v${major ? 9 : 5}`} stroke="var(--ink)" />
              {(major || (drill.space_length_yd <= 8 && Number.isInteger(x))) && (
                <text x={px} y={top + h + 20} className="fill-ink text-[12px]" textAnchor="middle">
                  {x}
                </text>
              )}
            </g>
          );
        })}
        {ticks(drill.space_width_yd, drill.space_width_yd > 20 ? 5 : 1).map((y) => {
          const [, py] = at(0, y);
          const major = Math.round(y) % (drill.space_width_yd > 20 ? 10 : 5) === 0;
          return (
            <g key={y}>
              <path d={`M${left} ${py}h${major ? -9 : -5}`} stroke="var(--ink)" />
              {major && y > 0 && (
                <text x={left - 12} y={py + 4} textAnchor="end" className="fill-ink text-[12px]">
                  {y}
                </text>
              )}
            </g>
          );
        })}
        <text x={left + w} y={top + h + 34} textAnchor="end" className="fill-soft text-[12px]">
          {drill.space_length_yd} × {drill.space_width_yd} yd a lane, yards downfield
        </text>
        {drill.setup.ways.map((way, i) => (
          <Way key={i} way={way} at={at} tip={tip} />
        ))}
        {drill.setup.things.map((t, i) => (
          <Thing key={i} thing={t} at={at} scale={scale} width={drill.space_width_yd} />
        ))}
      </svg>
      <figcaption className="mt-1 flex flex-wrap gap-x-3 text-label text-soft">
        {used.map((is) => (
          <span key={is} className="inline-flex items-center gap-1">
            <svg width="16" height="14" viewBox="-8 -7 16 14" aria-hidden>
              <Shape is={is} size={5} />
            </svg>
            {names[is] ?? is}
          </span>
        ))}
        {ways.map((is) => (
          <span key={is} className="inline-flex items-center gap-1">
            <svg width="22" height="8" viewBox="0 0 22 8" aria-hidden>
              <path
                d={is === "slide" ? "M1 4q2.5-5 5 0t5 0t5 0t5 0" : "M1 4h20"}
                fill="none"
                {...strokeOf(is)}
              />
            </svg>
            {wayNames[is] ?? is}
          </span>
        ))}
      </figcaption>
    </figure>
  );
}

function ticks(length: number, step: number): number[] {
  return Array.from({ length: Math.floor(length / step) + 1 }, (_, i) => i * step);
}

function bounds(d: Props["drill"]) {
  const xs = [0, d.space_length_yd];
  const ys = [0, d.space_width_yd];
  for (const t of d.setup.things) {
    xs.push(t.x);
    ys.push(t.y);
  }
  for (const w of d.setup.ways)
    for (const p of w.points) {
      xs.push(p[0] ?? 0);
      ys.push(p[1] ?? 0);
    }
  return { x0: Math.min(...xs), x1: Math.max(...xs), y0: Math.min(...ys), y1: Math.max(...ys) };
}

function strokeOf(is: string) {
  const dash: Record<string, string | undefined> = { pedal: "5 3", throw: "1.5 3", look: "2 5" };
  return {
    stroke: is === "look" ? "var(--soft)" : is === "throw" ? "var(--flag)" : "var(--ink)",
    strokeWidth: is === "push" ? 3 : 1.6,
    strokeDasharray: dash[is],
  };
}

function Way({
  way,
  at,
  tip,
}: {
  way: Setup["ways"][number];
  at: (x: number, y: number) => Point;
  tip: string;
}) {
  const points = way.points.map((p) => at(p[0] ?? 0, p[1] ?? 0));
  const d = points.map(([x, y], i) => `${i === 0 ? "M" : "L"}${x} ${y}`).join("");
  return (
    <path
      d={way.is === "slide" ? wavy(points) : d}
      fill="none"
      strokeLinejoin="round"
      {...strokeOf(way.is)}
      markerEnd={way.is === "look" ? undefined : `url(#${tip})`}
    />
  );
}

/** A path of short waves through the points: sliding feet. */
function wavy(points: Point[]): string {
  let d = "";
  points.forEach(([x, y], i) => {
    if (i === 0) {
      d = `M${x} ${y}`;
      return;
    }
    const [px, py] = points[i - 1]!;
    const length = Math.hypot(x - px, y - py);
    const n = Math.max(2, Math.round(length / 8));
    const nx = -(y - py) / (length || 1);
    const ny = (x - px) / (length || 1);
    for (let k = 1; k <= n; k++) {
      const side = k % 2 === 0 ? 3 : -3;
      const mx = px + ((x - px) * (k - 0.5)) / n + nx * side;
      const my = py + ((y - py) * (k - 0.5)) / n + ny * side;
      d += `Q${mx} ${my} ${px + ((x - px) * k) / n} ${py + ((y - py) * k) / n}`;
    }
  });
  return d;
}

interface ThingProps {
  thing: Setup["things"][number];
  at: (x: number, y: number) => Point;
  scale: number;
  width: number;
}

function Thing({ thing: t, at, scale, width }: ThingProps) {
  const [x, y] = at(t.x, t.y);
  if (t.is === "line" || t.is === "rope") {
    // A line runs across the lane where it stands.
    const [, top] = at(0, Math.max(0, t.y - Math.min(2, width / 2)));
    const [, bottom] = at(0, Math.min(width, t.y + Math.min(2, width / 2)));
    return (
      <path
        d={`M${x} ${top}V${bottom}`}
        stroke="var(--ink)"
        strokeWidth={t.is === "line" ? 2.5 : 1.5}
        strokeDasharray={t.is === "rope" ? "3 2" : undefined}
      />
    );
  }
  return (
    <g transform={`translate(${x} ${y})`}>
      <Shape is={t.is} size={Math.min(9, Math.max(5, scale * 0.24))} />
      {t.says && (
        <text y={-11} textAnchor="middle" className="fill-ink text-[12px]">
          {t.says}
        </text>
      )}
    </g>
  );
}

function Shape({ is, size: s }: { is: string; size: number }) {
  const line = { stroke: "var(--ink)", strokeWidth: 1.6 };
  switch (is) {
    case "worker":
      return <circle r={s} fill="var(--ink)" {...line} />;
    case "helper":
      return <circle r={s} fill="var(--sheet)" {...line} />;
    case "coach":
      return <path d={`M0 ${-s * 1.15}L${s} ${s * 0.8}H${-s}z`} fill="var(--flag)" stroke="var(--sheet)" />;
    case "cone":
      return <path d={`M0 ${-s * 0.8}L${s * 0.75} ${s * 0.6}H${-s * 0.75}z`} fill="none" {...line} />;
    case "bag":
      return (
        <rect
          x={-s * 0.6}
          y={-s * 1.1}
          width={s * 1.2}
          height={s * 2.2}
          rx={s * 0.5}
          fill="var(--stripe)"
          {...line}
        />
      );
    case "ball":
      return <ellipse rx={s * 0.8} ry={s * 0.5} fill="var(--flag)" stroke="var(--ink)" />;
    case "board":
      return (
        <rect x={-s * 2.2} y={-s * 0.4} width={s * 4.4} height={s * 0.8} fill="var(--stripe)" {...line} />
      );
    case "line":
    case "rope":
      return <path d={`M0 ${-s}V${s}`} {...line} strokeDasharray={is === "rope" ? "3 2" : undefined} />;
    default:
      return <rect x={-s} y={-s} width={s * 2} height={s * 2} fill="none" {...line} strokeDasharray="3 2" />;
  }
}
