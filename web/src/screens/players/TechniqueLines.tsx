import { Button } from "@/kit/Button";
import { scaleLinear } from "@visx/scale";
import { Area, LinePath } from "@visx/shape";
import clsx from "clsx";
import type { Schemas } from "@/api/client";
import { Ruler, at } from "@/parts/Ruler";
import { TrendWord, finding, weak } from "@/parts/Trend";
import { percent, range } from "@/parts/words";

interface Props {
  sheet: Schemas["PlayerSheet"];
  week: number;
  chosen?: string;
  fault?: string;
  onShow: (next: { technique?: string; fault?: string }) => void;
}

const grid = "grid grid-cols-[120px_minmax(0,1fr)_100px] sm:grid-cols-[180px_minmax(0,1fr)_136px]";

/** The techniques along the weeks of the season, and the faults below on the same ruler. */
export function TechniqueLines({ sheet, chosen, fault, onShow }: Props) {
  return (
    <section className="sheet p-3" aria-label="Techniques by week">
      <div className={grid}>
        <span className="label self-end pb-1">Technique</span>
        <Ruler
          from={1}
          to={sheet.weeks + 1}
          major={1}
          spans
          word={(w) => (
            <>
              <span className="max-sm:hidden">wk </span>
              {w}
            </>
          )}
        />
        <span className="label self-end pb-1 text-right">Now · range</span>
      </div>
      {sheet.techniques.map((t) => (
        <div
          key={t.technique}
          className={clsx(grid, "border-b border-hair", chosen === t.technique && "bg-flag-wash")}
        >
          <Button
            kind="bare"
            className="py-2 pl-1 text-left"
            pressed={chosen === t.technique}
            onClick={() => onShow({ technique: t.technique })}
          >
            <span className="name block text-body leading-tight">{t.name}</span>
            <TrendWord cell={t.cell} />
          </Button>
          <TrendChart line={t} weeks={sheet.weeks} />
          <Button
            kind="bare"
            className="py-2 pr-1 text-right hover:underline"
            onClick={() => onShow({ technique: t.technique })}
          >
            <span className={weak(t.cell) ? "text-head text-soft" : "text-head font-bold"}>
              {percent(t.cell.estimate)} · {range(t.cell.low, t.cell.high)}
            </span>
            <span className="say block text-small text-soft">
              {t.game.clean + t.game.faulty > 0
                ? `${t.practice.clean + t.practice.faulty} + ${t.game.clean + t.game.faulty} game`
                : t.practice.clean + t.practice.faulty}{" "}
              reps
            </span>
          </Button>
        </div>
      ))}
      <FaultLines sheet={sheet} chosen={fault} onShow={onShow} />
      <p className="label mt-2 normal-case tracking-normal">
        Line: estimate at the end of each week, with its 80 % range; dashed where reps are too few. ○ practice
        and ■ games of that week alone. Height: 30 to 100 %.
      </p>
    </section>
  );
}

const tall = 58;

/** The estimate of one technique week by week, with its range, and each week's own counts as points. */
function TrendChart({ line, weeks }: { line: Schemas["TechniqueLine"]; weeks: number }) {
  const say = finding(line.cell);
  const color =
    say.tone === "text-good" ? "var(--good)" : say.tone === "text-fault" ? "var(--fault)" : "var(--soft)";
  const faint = weak(line.cell);
  const x = scaleLinear<number>({ domain: [1, weeks + 1], range: [0, 100] });
  const y = scaleLinear<number>({ domain: [0.3, 1], range: [tall - 4, 4], clamp: true });
  const mid = (p: Schemas["TrendPoint"]) => x(p.week + 0.5);
  const share = (c: Schemas["Count"]) => c.clean / (c.clean + c.faulty);
  const words = line.points
    .map((p) => `week ${p.week}: ${percent(p.estimate)}, range ${range(p.low, p.high)}, ${p.reps} reps`)
    .join("; ");
  return (
    <div className="relative" style={{ height: tall }} role="img" aria-label={`${line.name}. ${words}`}>
      <svg
        viewBox={`0 0 100 ${tall}`}
        preserveAspectRatio="none"
        className="absolute inset-0 size-full"
        aria-hidden
      >
        <Area
          data={line.points}
          x={mid}
          y0={(p) => y(p.low)}
          y1={(p) => y(p.high)}
          fill={faint ? "none" : color}
          fillOpacity={0.16}
          stroke={faint ? color : "none"}
          strokeDasharray="3 3"
          vectorEffect="non-scaling-stroke"
        />
        <LinePath
          data={line.points}
          x={mid}
          y={(p) => y(p.estimate)}
          stroke={color}
          strokeWidth={2}
          vectorEffect="non-scaling-stroke"
        />
      </svg>
      {line.points.map((p) => (
        <span key={p.week} aria-hidden>
          {p.practice.clean + p.practice.faulty >= 3 && (
            <Point
              left={at(p.week + 0.42, 1, weeks + 1)}
              top={y(share(p.practice))}
              className="rounded-full border border-soft bg-sheet"
            />
          )}
          {p.game.clean + p.game.faulty >= 3 && (
            <Point left={at(p.week + 0.58, 1, weeks + 1)} top={y(share(p.game))} className="bg-ink" />
          )}
        </span>
      ))}
    </div>
  );
}

function Point({ left, top, className }: { left: string; top: number; className: string }) {
  return (
    <span
      className={clsx("absolute size-[7px] -translate-x-1/2 -translate-y-1/2", className)}
      style={{ left, top }}
    />
  );
}

/** Faults as boxes in the week they were seen, worst first. */
function FaultLines({ sheet, chosen, onShow }: Pick<Props, "sheet" | "onShow"> & { chosen?: string }) {
  const lines = sheet.faults.filter((f) => f.n > 0 || f.caused > 0).slice(0, 6);
  if (lines.length === 0) return null;
  return (
    <>
      <h2 className="label mt-4">Faults by week</h2>
      {lines.map((f) => (
        <div
          key={f.fault}
          className={clsx(grid, "items-center border-b border-hair", chosen === f.fault && "bg-flag-wash")}
        >
          <Button
            kind="bare"
            className="py-1.5 pl-1 text-left leading-tight"
            pressed={chosen === f.fault}
            onClick={() => onShow({ fault: f.fault })}
          >
            <span className="name block">{f.name}</span>
            <span className="say text-small text-soft">{f.technique_name}</span>
            {f.safety && <span className="ml-1 text-label font-bold text-fault">SAFETY</span>}
          </Button>
          <div className="relative h-8" aria-hidden>
            {f.by_week.map((n, i) => (
              <span
                key={i}
                className="absolute top-1 flex flex-wrap content-start gap-px"
                style={{
                  left: `calc(${at(i + 1, 1, sheet.weeks + 1)} + 4px)`,
                  width: `calc(${at(2, 1, sheet.weeks + 1)} - 8px)`,
                }}
              >
                {Array.from({ length: Math.min(n, 12) }, (_, k) => (
                  <span key={k} className="size-[7px] border border-fault bg-fault-wash" />
                ))}
              </span>
            ))}
          </div>
          <Button
            kind="bare"
            className="py-1.5 pr-1 text-right hover:underline"
            onClick={() => onShow({ fault: f.fault })}
          >
            <span className="text-head font-bold">
              {f.n} of {f.graded}
            </span>
            {f.caused > 0 && <span className="say block text-small text-soft">caused {f.caused} more</span>}
          </Button>
        </div>
      ))}
    </>
  );
}
