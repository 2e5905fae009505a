import type { Schemas } from "@/api/client";

interface Props {
  groups: Schemas["GroupRef"][];
  minutes: Schemas["ContactMinutes"][];
  /** The club's limit; what is over it is said. */
  most?: number;
}

/** Minutes of thud and live, a bar a group. */
export function ContactBars({ groups, minutes, most }: Props) {
  return (
    <ul className="grid gap-1">
      {groups.map((g) => {
        const n = minutes.find((c) => c.group === g.key)?.minutes ?? 0;
        const over = most !== undefined && n > most;
        return (
          <li key={g.key} className="grid grid-cols-[3rem_2.5rem_minmax(0,1fr)] items-center gap-2">
            <span className="name uppercase">{g.short}</span>
            <span className={over ? "text-fault" : ""}>
              {n}
              {over && <span aria-label="over the limit"> ▲</span>}
            </span>
            <span
              aria-hidden
              className={`h-2.5 ${over ? "bg-fault" : "bg-ink"}`}
              style={{ width: `${Math.min(100, (100 * n) / Math.max(60, most ?? 0))}%` }}
            />
          </li>
        );
      })}
    </ul>
  );
}
