import type { Schemas } from "@/api/client";

type Measure = Schemas["Measure"];

const unitWords: Record<string, string> = {
  in: "in",
  yd: "yd",
  s: "s",
  deg: "°",
  pct: "%",
  strides: "strides",
  shoulder_widths: "shoulder widths",
  reps: "reps",
};
const readWords: Record<string, string> = {
  line: "a line",
  cone: "a cone",
  stride_count: "the strides",
  frame: "a stopped picture",
  clock: "the clock",
  mark: "a landmark",
};

export const unit = (m: Measure) => unitWords[m.unit] ?? m.unit;
const number = (v: number) => String(Math.round(v * 100) / 100);
const withUnit = (m: Measure, v: number) =>
  `${number(v)}${m.unit === "deg" || m.unit === "pct" ? "" : " "}${unit(m)}`;

/** The standard in words: "7 in, OK 5–10, watch 3–13, never over 16". */
export function standardWords(m: Measure): string {
  const parts = [
    withUnit(m, m.target),
    `OK ${number(m.ok_low)}–${number(m.ok_high)}`,
    m.watch_low < m.ok_low || m.watch_high > m.ok_high
      ? `watch ${number(m.watch_low)}–${number(m.watch_high)}`
      : "",
    m.min !== undefined ? `never under ${number(m.min)}` : "",
    m.max !== undefined ? `never over ${number(m.max)}` : "",
  ];
  return parts.filter(Boolean).join(", ");
}

/** A measured standard as a band: solid is right, striped is watched, a bar is the hard limit. */
export function Band({ measure: m, value }: { measure: Measure; value?: number }) {
  const span = Math.max(m.watch_high - m.watch_low, m.ok_high - m.ok_low, 1e-6);
  const low = Math.min(m.min ?? m.watch_low, m.watch_low) - span * 0.12;
  const high = Math.max(m.max ?? m.watch_high, m.watch_high) + span * 0.12;
  const x = (v: number) => (100 * (Math.min(Math.max(v, low), high) - low)) / (high - low);
  return (
    <div className="relative h-[30px]" role="img" aria-label={standardWords(m)}>
      <span className="absolute inset-x-0 top-[17px] border-t border-rule" />
      <span
        className="striped absolute top-[12px] h-[11px] border-y border-watch"
        style={{ left: `${x(m.watch_low)}%`, width: `${x(m.watch_high) - x(m.watch_low)}%` }}
      />
      <span
        className="absolute top-[12px] h-[11px] bg-good"
        style={{ left: `${x(m.ok_low)}%`, width: `max(${x(m.ok_high) - x(m.ok_low)}%, 2px)` }}
      />
      {[m.min, m.max].map(
        (v, i) =>
          v !== undefined && (
            <span
              key={i}
              className="absolute top-[9px] h-[17px] w-[3px] bg-fault"
              style={{ left: `${x(v)}%` }}
            />
          ),
      )}
      <span
        className="absolute top-0 -translate-x-1/2 text-label font-bold leading-none"
        style={{ left: `${x(m.target)}%` }}
      >
        {number(m.target)}
      </span>
      <span className="absolute top-[11px] h-[13px] w-px bg-sheet" style={{ left: `${x(m.target)}%` }} />
      {value !== undefined && (
        <span
          className="absolute top-[8px] size-2 -translate-x-1/2 rotate-45 border border-sheet bg-flag"
          style={{ left: `${x(value)}%` }}
        />
      )}
    </div>
  );
}

/** What is right at a checkpoint: its band, or the words of the eye with the right one marked. */
export function Standard({ checkpoint: c }: { checkpoint: Schemas["Checkpoint"] }) {
  if (c.measure)
    return (
      <>
        <Band measure={c.measure} />
        <p className="text-label leading-tight text-soft">
          {standardWords(c.measure)}
          <span className="block">read off {readWords[c.measure.read] ?? c.measure.read}</span>
        </p>
      </>
    );
  return (
    <p className="flex flex-wrap gap-1 text-label leading-tight">
      {c.words.map((w) => {
        const right = c.right.includes(w);
        return (
          <span
            key={w}
            className={
              right
                ? "border border-good bg-good-wash px-1 font-semibold text-good"
                : "border border-hair px-1 text-soft"
            }
          >
            {right && <span aria-hidden>✓ </span>}
            {w}
          </span>
        );
      })}
    </p>
  );
}
