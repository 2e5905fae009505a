import { useId, type ReactNode } from "react";
import type { Schemas } from "@/api/client";
import { useWidth } from "@/kit/width";

export type Point = [number, number];

interface Props {
  drill: Pick<Schemas["DrillEntry"], "name" | "setup" | "space_yd" | "roles">;
  /** What lies over the drawing, in the units of its picture, such as handles to drag. */
  over?: (at: (x: number, y: number) => Point, scale: number) => ReactNode;
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
  shield: "shield",
  wheel: "wheel",
  mat: "mat",
  hoop: "hoop",
  net: "net",
  target: "target",
  spot: "landmark",
};
const wayNames: Record<string, string> = {
  run: "runs",
  jog: "jogs",
  pedal: "backs up",
  slide: "slides",
  push: "drives",
  throw: "ball",
  kick: "kick",
  hand: "hands over",
  look: "looks",
};

/** The set-up of one lane, drawn from the drill's data: what stands where, who moves how, and how far it is. */
export function Drawing({ drill, over }: Props) {
  const tip = useId();
  const box = bounds(drill);
  // A unit of the picture is a pixel of the screen: its words are as large as any others, however narrow it is.
  const [frame, room = 672] = useWidth<HTMLElement>();
  const scale = Math.min(46, Math.max(5, (room - 52) / (box.x1 - box.x0)), 300 / (box.y1 - box.y0));
  const at = (x: number, y: number): Point => [(x - box.x0) * scale + 26, (y - box.y0) * scale + 16];
  const width = (box.x1 - box.x0) * scale + 52;
  const height = (box.y1 - box.y0) * scale + 58;
  const [left, top] = at(0, 0);
  const [length = 1, across = 1] = drill.space_yd;
  const w = length * scale;
  const h = across * scale;
  const step = length > 20 ? 5 : 1;
  const things = drill.setup?.things ?? [];
  const paths = drill.setup?.ways ?? [];
  const used = [...new Set(things.map((t) => t.is))];
  const ways = [...new Set(paths.map((t) => t.is))];
  return (
    <figure ref={frame}>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        className="mx-auto block h-auto max-w-full"
        width={width}
        role={over ? "group" : "img"}
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
        {over && (
          <path
            d={[
              ...ticks(length, 1).map((x) => `M${at(x, 0)[0]} ${top}v${h}`),
              ...ticks(across, 1).map((y) => `M${left} ${at(0, y)[1]}h${w}`),
            ].join("")}
            stroke="var(--hair)"
          />
        )}
        {ticks(length, step).map((x) => {
          const [px] = at(x, 0);
          const major = Math.round(x) % (step === 1 ? 5 : 10) === 0;
          return (
            <g key={x}>
              <path d={`M${px} ${top + h}v${major ? 9 : 5}`} stroke="var(--ink)" />
              {(major || (length <= 8 && Number.isInteger(x))) && (
                <text x={px} y={top + h + 20} className="fill-ink text-[12px]" textAnchor="middle">
                  {x}
                </text>
              )}
            </g>
          );
        })}
        {ticks(across, across > 20 ? 5 : 1).map((y) => {
          const [, py] = at(0, y);
          const major = Math.round(y) % (across > 20 ? 10 : 5) === 0;
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
          {length} × {across} yd a lane, yards downfield
        </text>
        {paths.map((way, i) => (
          <Way key={i} way={way} at={at} tip={tip} />
        ))}
        {things.map((t, i) => (
          <Thing key={i} thing={t} at={at} scale={scale} width={across} />
        ))}
        {over?.(at, scale)}
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
  const [length = 1, across = 1] = d.space_yd;
  const points = [
    [0, 0],
    [length, across],
    ...(d.setup?.things ?? []).map((t) => t.at),
    ...(d.setup?.ways ?? []).flatMap((w) => w.points),
  ];
  const xs = points.map((p) => p[0] ?? 0);
  const ys = points.map((p) => p[1] ?? 0);
  return { x0: Math.min(...xs), x1: Math.max(...xs), y0: Math.min(...ys), y1: Math.max(...ys) };
}

function strokeOf(is: string) {
  const dash: Record<string, string | undefined> = {
    pedal: "5 3",
    jog: "9 3",
    throw: "1.5 3",
    kick: "1.5 3",
    look: "2 5",
  };
  return {
    stroke:
      is === "look" ? "var(--soft)" : ["throw", "kick", "hand"].includes(is) ? "var(--flag)" : "var(--ink)",
    strokeWidth: is === "push" || is === "hand" ? 3 : 1.6,
    strokeDasharray: dash[is],
  };
}

function Way({
  way,
  at,
  tip,
}: {
  way: Schemas["SetupWay"];
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
  thing: Schemas["SetupThing"];
  at: (x: number, y: number) => Point;
  scale: number;
  width: number;
}

function Thing({ thing: t, at, scale, width }: ThingProps) {
  const [tx = 0, ty = 0] = t.at;
  const [x, y] = at(tx, ty);
  if (t.is === "line" || t.is === "rope") {
    // A line runs across the lane where it stands.
    const [, top] = at(0, Math.max(0, ty - Math.min(2, width / 2)));
    const [, bottom] = at(0, Math.min(width, ty + Math.min(2, width / 2)));
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

export function Shape({ is, size: s }: { is: string; size: number }) {
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
    case "shield":
      return <path d={`M${-s * 0.4} ${-s}H${s * 0.4}V${s}H${-s * 0.4}z`} fill="var(--stripe)" {...line} />;
    case "wheel":
    case "hoop":
      return (
        <circle
          r={is === "hoop" ? s * 1.8 : s * 1.1}
          fill="none"
          {...line}
          strokeDasharray={is === "hoop" ? "4 2" : undefined}
        />
      );
    case "mat":
      return (
        <rect x={-s * 2} y={-s * 1.5} width={s * 4} height={s * 3} fill="var(--hair)" stroke="var(--soft)" />
      );
    case "net":
      return (
        <path
          d={`M${-s * 0.6} ${-s * 1.6}v${s * 3.2}m${s * 0.6} ${-s * 3.2}v${s * 3.2}m${s * 0.6} ${-s * 3.2}v${s * 3.2}`}
          {...line}
        />
      );
    case "target":
      return (
        <>
          <circle r={s} fill="none" {...line} />
          <circle r={s * 0.35} fill="var(--flag)" />
        </>
      );
    case "spot":
      return <circle r={2.6} fill="var(--flag)" stroke="var(--sheet)" />;
    case "line":
    case "rope":
      return <path d={`M0 ${-s}V${s}`} {...line} strokeDasharray={is === "rope" ? "3 2" : undefined} />;
    default:
      return <rect x={-s} y={-s} width={s * 2} height={s * 2} fill="none" {...line} strokeDasharray="3 2" />;
  }
}
