import type { Schemas } from "@/api/client";

export type Measure = Schemas["Measure"];

const unitWords: Record<string, string> = {
  in: "in",
  yd: "yd",
  s: "s",
  deg: "°",
  pct: "%",
  strides: "strides",
  shoulder_widths: "shoulder widths",
  reps: "reps",
  count: "",
};
const readWords: Record<string, string> = {
  line: "a line",
  cone: "a cone",
  stride_count: "the strides",
  frame: "a stopped picture",
  clock: "the clock",
  mark: "a landmark",
};

export const unit = (m: { unit: string }) => unitWords[m.unit] ?? m.unit;
const number = (v: number) => String(Math.round(v * 100) / 100);
const withUnit = (m: Measure, v: number) =>
  `${number(v)}${m.unit === "deg" || m.unit === "pct" ? "" : " "}${unit(m)}`;

/** As far as a number goes: what a range of a player goes to where the standard is open. */
export const endless = 1_000_000;
const open = (v: number | null | undefined): v is null | undefined =>
  v === null || v === undefined || Math.abs(v) >= endless;

/** A range in words: "5–10", "from 1", "up to 4". */
function rangeWords([from, to]: Measure["ok"]): string {
  if (open(from)) return open(to) ? "any" : `up to ${number(to)}`;
  return open(to) ? `from ${number(from)}` : `${number(from)}–${number(to)}`;
}

/** Whether a value lies in a range; a side that is open holds all. */
export const holds = ([from, to]: Measure["ok"], v: number): boolean =>
  v >= (from ?? -Infinity) && v <= (to ?? Infinity);

/** The standard in words: "7 in, OK 5–10, watch 3–13, never over 16"; a difference is from what the call asks. */
export function standardWords(m: Measure): string {
  const parts = [
    m.from ? `${withUnit(m, m.target)} from what the call asks` : withUnit(m, m.target),
    `OK ${rangeWords(m.ok)}`,
    rangeWords(m.watch) !== rangeWords(m.ok) ? `watch ${rangeWords(m.watch)}` : "",
    m.min !== undefined ? `never under ${number(m.min)}` : "",
    m.max !== undefined ? `never over ${number(m.max)}` : "",
  ];
  return parts.filter(Boolean).join(", ");
}

/** A measured standard as a band: solid is right, striped is watched, a bar is the hard limit. */
export function Band({ measure: m, value }: { measure: Measure; value?: number }) {
  const ends = [...m.watch, ...m.ok, m.target, m.min, m.max].filter((v) => !open(v));
  const span = Math.max(Math.max(...ends) - Math.min(...ends), Math.abs(m.target), 1e-6);
  const low = Math.min(...ends) - span * 0.12;
  const high = Math.max(...ends) + span * 0.12;
  const x = (v: number) => (100 * (Math.min(Math.max(v, low), high) - low)) / (high - low);
  const bar = ([from, to]: Measure["ok"]) => {
    const left = x(from ?? low);
    return { left: `${left}%`, width: `max(${x(to ?? high) - left}%, 2px)` };
  };
  return (
    <div className="relative h-[30px]" role="img" aria-label={standardWords(m)}>
      <span className="absolute inset-x-0 top-[17px] border-t border-rule" />
      <span className="striped absolute top-[12px] h-[11px] border-y border-watch" style={bar(m.watch)} />
      <span className="absolute top-[12px] h-[11px] bg-good" style={bar(m.ok)} />
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
export function Standard({ checkpoint: c }: { checkpoint: Schemas["CheckpointEntry"] }) {
  if (c.measure)
    return (
      <>
        <Band measure={c.measure} />
        <p className="text-label leading-tight text-soft">
          {standardWords(c.measure)}
          <span className="block">
            read off {c.measure.of ? `the ${c.measure.of.replace(/^the /, "")}` : readWords[c.measure.read]}
          </span>
        </p>
      </>
    );
  return (
    <p className="flex flex-wrap gap-1 text-label leading-tight">
      {c.words?.map((w) => {
        const right = c.right?.includes(w);
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
