import { useShorts } from "@/parts/shorts";
import { Button, ButtonLink } from "@/kit/Button";
import { Popover } from "@/kit/Popover";
import { Scroller } from "@/kit/Scroller";
import clsx from "clsx";
import { Tooltip } from "@/kit/Tooltip";
import type { Schemas } from "@/api/client";
import { looks } from "@/parts/periodLooks";
import { Ruler, at } from "@/parts/Ruler";
import { clock } from "@/parts/words";
import { useWhere } from "@/app/where";

interface Bar {
  period: Schemas["Period"];
  from: number;
  rows: number;
}

/** Periods shared by neighbouring lanes are one bar over all of them. */
function bars(practice: Schemas["Practice"]): Bar[] {
  const list: Bar[] = [];
  for (const period of practice.periods) {
    let open: Bar | undefined;
    practice.groups.forEach((g, row) => {
      if (!period.groups.includes(g)) {
        open = undefined;
      } else if (open) {
        open.rows++;
      } else {
        open = { period, from: row, rows: 1 };
        list.push(open);
      }
    });
  }
  return list;
}

/** Periods whose plays are written, filmed and marked as those of a game. */
const filmed = new Set(["team", "group", "special_teams"]);

/** So many lanes high, in CSS: a lane is higher where thumbs press. */
const lanes = (n: number) => `calc(${n} * var(--lane))`;

/** No bar is narrower than a fingertip, in px; the script is as wide as its shortest period asks for. */
const narrowest = 28;
const least = 720;

interface Props {
  practice: Schemas["Practice"];
  group: string;
  chosen?: string;
  onChoose?: (period: string) => void;
}

/** The master script as a field of minutes: a minute is a yard, lanes are position groups. */
export function Lanes({ practice, group, chosen, onChoose }: Props) {
  const short = useShorts();
  const length = practice.practice.minutes;
  const shortest = Math.max(1, Math.min(...practice.periods.map((p) => p.minutes)));
  const width = Math.max(least, Math.round((narrowest * length) / shortest) + 56);
  return (
    <section aria-label="Master script" className="sheet min-w-0 [--lane:30px] pointer-coarse:[--lane:48px]">
      <Scroller label="The script, minute by minute">
        <div className="grid grid-cols-[48px_minmax(0,1fr)]" style={{ minWidth: width }}>
          <span className="border-b border-ink" />
          <Ruler from={0} to={length} major={10} className="mr-2 mt-1" />
          <div>
            {practice.groups.map((g) => (
              <div
                key={g}
                className={clsx(
                  "name flex items-center border-b border-hair pl-2 uppercase",
                  g === group && "bg-flag-wash",
                )}
                style={{ height: lanes(1) }}
              >
                {short(g)}
              </div>
            ))}
          </div>
          <div className="relative mr-2" style={{ height: lanes(practice.groups.length) }}>
            {practice.groups.map((g, i) => (
              <div
                key={g}
                className={clsx(
                  "absolute -right-2 left-0 border-b border-hair",
                  g === group && "bg-flag-wash",
                )}
                style={{ top: lanes(i), height: lanes(1) }}
              />
            ))}
            {bars(practice).map((b) => (
              <PeriodBar
                key={b.period.id + b.from}
                bar={b}
                practice={practice}
                chosen={chosen}
                onChoose={onChoose}
              />
            ))}
          </div>
        </div>
      </Scroller>
    </section>
  );
}

function PeriodBar({
  bar,
  practice,
  chosen,
  onChoose,
}: { bar: Bar; practice: Schemas["Practice"] } & Omit<Props, "practice" | "group">) {
  const { period } = bar;
  const { base } = useWhere();
  const short = useShorts();
  const length = practice.practice.minutes;
  const starts = practice.practice.start_minute + period.start;
  const more = `, ${clock(starts)}–${clock(starts + period.minutes)}, ${period.minutes} minutes, ${period.groups.map(short).join(" ")}${period.contact === "thud" || period.contact === "live" ? `, ${period.contact}` : ""}`;
  const text = period.name + more;
  const style = {
    left: `calc(${at(period.start, 0, length)} + 1px)`,
    width: `calc(${at(period.minutes, 0, length)} - 2px)`,
    top: `calc(${lanes(bar.from)} + 2px)`,
    height: `calc(${lanes(bar.rows)} - 4px)`,
  };
  const look = clsx(
    "absolute min-h-0 overflow-hidden border px-1 text-left text-small font-semibold leading-4 [font-stretch:80%]",
    looks[period.kind] ?? "bg-sheet border-rule",
    chosen === period.id && "outline-2 outline-offset-1 outline-flag",
  );
  const inside = (
    <span className="block truncate pt-0.5">
      {period.kind === "water" ? (
        <>
          <span aria-hidden>≈</span>
          <span className="sr-only">{period.name}</span>
        </>
      ) : (
        period.name
      )}
    </span>
  );
  if (period.own && onChoose)
    return (
      <Tooltip text={text}>
        <Button kind="bare" className={look} style={style} onClick={() => onChoose(period.id)}>
          {inside}
          <span className="sr-only">{more}</span>
        </Button>
      </Tooltip>
    );
  return (
    <Popover
      label={period.name}
      className="max-w-xs p-2"
      trigger={
        <Button kind="bare" className={look} style={style}>
          {inside}
          <span className="sr-only">{more}</span>
        </Button>
      }
    >
      <p className="say text-small">{text}</p>
      {filmed.has(period.kind) && (
        <ButtonLink kind="quiet" className="mt-2" to={`${base}/film/${period.id}`}>
          Plays and film
        </ButtonLink>
      )}
    </Popover>
  );
}
