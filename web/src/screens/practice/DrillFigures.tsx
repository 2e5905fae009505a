import { useRef, useState } from "react";
import type { Schemas } from "@/api/client";
import { percent } from "@/parts/words";

/** Where a player's minutes go, as a bar: solid works, striped helps, empty waits. */
export function Shares({ reps }: { reps: Schemas["Reps"] }) {
  return (
    <span className="flex items-center gap-1.5 whitespace-nowrap">
      <svg
        width="36"
        height="10"
        viewBox="0 0 96 10"
        preserveAspectRatio="none"
        className="shrink-0"
        aria-hidden
      >
        <rect x=".5" y=".5" width="95" height="9" fill="none" stroke="var(--rule)" />
        <rect width={96 * reps.work_share} height="10" fill="var(--ink)" />
        <rect
          x={96 * reps.work_share}
          width={96 * reps.helping_share}
          height="10"
          fill="var(--good)"
          opacity=".55"
        />
      </svg>
      <span>
        {percent(reps.work_share)} · {percent(reps.helping_share)} · {percent(reps.waiting_share)}
      </span>
    </span>
  );
}

interface CountProps {
  label: string;
  value: number;
  disabled: boolean;
  invalid?: boolean;
  onChange: (value: number) => void;
}

/** A small whole number that is typed; it takes effect with every digit that makes one. */
export function Count({ label, value, disabled, invalid, onChange }: CountProps) {
  const input = useRef<HTMLInputElement>(null);
  // What stands in the field while somebody types; a number that comes from elsewhere replaces it.
  const [typed, setTyped] = useState<string>();
  const [seen, setSeen] = useState(value);
  if (value !== seen) {
    setSeen(value);
    if (typed !== undefined && Number(typed) !== value) setTyped(undefined);
  }
  return (
    <input
      ref={input}
      className="field w-12 text-right"
      inputMode="numeric"
      aria-label={label}
      aria-invalid={invalid}
      disabled={disabled}
      value={typed ?? String(value)}
      autoComplete="off"
      onChange={(e) => {
        setTyped(e.target.value);
        const n = Number(e.target.value);
        if (/^-?\d{1,3}$/.test(e.target.value.trim()) && n !== value) onChange(n);
      }}
      onKeyDown={(e) => {
        if (e.key === "Enter" || e.key === "Escape") input.current?.blur();
      }}
      onBlur={() => setTyped(undefined)}
    />
  );
}
