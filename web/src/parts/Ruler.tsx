import clsx from "clsx";
import type { ReactNode } from "react";

interface RulerProps {
  from: number;
  to: number;
  /** Distance of the numbered ticks. */
  major: number;
  /** Distance of the small ticks. */
  minor?: number;
  /** Word of a numbered tick; its number by default, "" for none. */
  word?: (value: number) => ReactNode;
  /** Put the number between its tick and the next: weeks and reps are spans, minutes are points. */
  spans?: boolean;
  /** Width in pixels; by default it fills its place. */
  width?: number;
  className?: string;
}

/**
 * The yard ruler: time runs left to right on one kind of scale, whether minutes of practice, reps of a drill,
 * weeks of the season or phases of a rep. Things below it are placed with `at`.
 */
export function Ruler({ from, to, major, minor = 1, word = String, spans, width, className }: RulerProps) {
  const ticks: { value: number; height: number; text: ReactNode }[] = [];
  const mid = major / 2;
  for (let v = from; v <= to + 1e-9; v += minor) {
    const isMajor = (v - from) % major === 0;
    const isMid = !isMajor && Number.isInteger(mid) && (v - from) % mid === 0;
    const last = spans && v >= to;
    ticks.push({ value: v, height: isMajor ? 11 : isMid ? 8 : 4, text: isMajor && !last ? word(v) : "" });
  }
  return (
    <div className={clsx("relative h-[26px] border-b border-ink", className)} style={{ width }} aria-hidden>
      {ticks.map((t) => (
        <span key={t.value}>
          <span
            className="absolute bottom-0 w-px bg-ink"
            style={{ left: at(t.value, from, to), height: t.height }}
          />
          {t.text && (
            <span
              className={clsx(
                "absolute top-0 whitespace-nowrap text-label font-semibold leading-3.5",
                spans || (t.value > from && t.value < to)
                  ? "-translate-x-1/2"
                  : t.value >= to && "-translate-x-full",
              )}
              style={{ left: at(t.value + (spans ? major / 2 : 0), from, to) }}
            >
              {t.text}
            </span>
          )}
        </span>
      ))}
    </div>
  );
}

/** Where a value lies on a ruler, as a CSS length. */
export function at(value: number, from: number, to: number): string {
  return `${(100 * (value - from)) / (to - from)}%`;
}

/** The ruler as a mark of the house. */
export function HashMark() {
  return (
    <svg
      viewBox="0 0 104 9"
      className="mt-1 block h-[9px] w-[104px] text-rail-ink [main_&]:text-ink"
      aria-hidden
    >
      <path d="M0 .5h104" stroke="currentColor" />
      {Array.from({ length: 14 }, (_, i) => (
        <path key={i} d={`M${i * 8 + 0.5} 0v${i % 13 === 0 ? 9 : 6}`} stroke="currentColor" />
      ))}
    </svg>
  );
}
