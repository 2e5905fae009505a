import { useDraggable, useDroppable } from "@dnd-kit/core";
import clsx from "clsx";
import { useEffect, useRef, type RefObject } from "react";
import type { Schemas } from "@/api/client";
import { Button } from "@/kit/Button";
import { useGrid } from "@/kit/grid";
import { Scroller } from "@/kit/Scroller";
import { Ruler } from "@/parts/Ruler";
import { clock, dayMonth, weekdayDate } from "@/parts/words";
import { verdicts } from "@/screens/calls/calls";
import { after, daysBetween, on, type Calendar, type Entry } from "./days";
import type { Install } from "./ready";

interface Props {
  season: Schemas["Season"];
  calendar: Calendar;
  week: number;
  chosen?: string;
  onChoose: (date: string) => void;
  group: Schemas["GroupRef"];
  installs: ReadonlyMap<string, Install[]>;
  ladders?: Schemas["LadderReadiness"][];
}

const columnWidth = 104;
const firstWidth = 96;
const weekdays = 7;

/** The season on the yard ruler: weeks left to right, a day is a yard. */
export function Grid({ season, calendar, week, chosen, onChoose, group, installs, ladders }: Props) {
  const grid = useGrid<HTMLTableElement>();
  const weeks = Array.from({ length: season.weeks }, (_, i) => i);
  // On a phone a season is wider than the screen: this week is what is looked for.
  const here = useRef<HTMLTableCellElement>(null);
  useEffect(() => {
    void here.current?.scrollIntoView({ inline: "center", block: "nearest" });
  }, [week]);
  const first = chosen ?? season.today;
  const shown =
    first >= season.start && first <= after(season.start, season.weeks * 7 - 1) ? first : season.start;
  return (
    <Scroller label="The season, week by week" className="sheet">
      <div style={{ minWidth: firstWidth + season.weeks * columnWidth }}>
        <Phases season={season} />
        <div className="grid grid-cols-[96px_minmax(0,1fr)]">
          <span className="border-b border-ink" />
          <Ruler
            from={0}
            to={season.weeks * weekdays}
            major={weekdays}
            spans
            word={(v) => {
              const w = v / weekdays + 1;
              return (
                <span className={w === week ? "font-bold" : ""}>
                  {w} <span className="text-soft">· {dayMonth(after(season.start, v))}</span>
                </span>
              );
            }}
            className="mt-1"
          />
        </div>
        <table
          role="grid"
          aria-label="The days of the season"
          {...grid}
          className="w-full table-fixed border-collapse text-small"
        >
          <colgroup>
            <col style={{ width: firstWidth }} />
          </colgroup>
          <thead className="sr-only">
            <tr>
              <th scope="col">Day</th>
              {weeks.map((w) => (
                <th key={w} scope="col">
                  Week {w + 1}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {Array.from({ length: weekdays }, (_, d) => (
              <tr key={d}>
                <th scope="row" className="name border-b border-hair pl-2 text-left uppercase">
                  {weekdayDate(after(season.start, d)).slice(0, 3)}
                </th>
                {weeks.map((w) => {
                  const date = after(season.start, w * weekdays + d);
                  return (
                    <Day
                      key={date}
                      cellRef={d === 0 && w + 1 === week ? here : undefined}
                      date={date}
                      entries={on(calendar, date)}
                      installs={installs.get(date) ?? none}
                      today={date === season.today}
                      chosen={date === chosen}
                      first={date === shown}
                      thisWeek={w + 1 === week}
                      editable={season.editable}
                      onChoose={() => onChoose(date)}
                    />
                  );
                })}
              </tr>
            ))}
          </tbody>
          <tfoot>
            <tr>
              <th scope="row" className="label pl-2 text-left normal-case">
                Contact
              </th>
              {season.contact.map((c) => (
                <ContactCell key={c.week} contact={c} most={season.contact_week} group={group} />
              ))}
            </tr>
            {ladders
              ?.filter((l) => l.install || l.weeks.some((w) => w.stage > 0))
              .map((l) => (
                <LadderRow key={l.ladder} ladder={l} weeks={weeks} />
              ))}
          </tfoot>
        </table>
      </div>
    </Scroller>
  );
}

/** The phases over the ruler, each until the next. */
function Phases({ season }: { season: Schemas["Season"] }) {
  if (season.phases.length === 0) return null;
  const days = season.weeks * weekdays;
  const at = (date: string) => daysBetween(season.start, date);
  return (
    <ol className="relative ml-24 h-6" aria-label="Phases">
      {season.phases.map((p, i) => {
        const from = at(p.from);
        const to = season.phases[i + 1] ? at(season.phases[i + 1]!.from) : days;
        return (
          <li
            key={p.name + p.from}
            className="absolute inset-y-0 truncate border-l-2 border-ink bg-flag-wash/60 px-1.5 text-small font-semibold"
            style={{ left: `${(100 * from) / days}%`, width: `${(100 * (to - from)) / days}%` }}
          >
            {p.name} <span className="sr-only">from {dayMonth(p.from)}</span>
          </li>
        );
      })}
    </ol>
  );
}

interface DayProps {
  cellRef?: RefObject<HTMLTableCellElement | null>;
  date: string;
  entries: [string, Entry][];
  installs: Install[];
  today: boolean;
  chosen: boolean;
  first: boolean;
  thisWeek: boolean;
  editable: boolean;
  onChoose: () => void;
}

const words = (e: Entry) =>
  `${
    e.is === "practice"
      ? `${e.of.title}${e.of.theme ? `, ${e.of.theme}` : ""}, ${clock(e.of.start_minute)}, ${e.of.minutes} minutes`
      : `Game against ${e.of.opponent}, ${e.of.home ? "at home" : "away"}`
  }${e.of.cancelled ? `, called off: ${e.of.cancelled}` : ""}`;

const none: Install[] = [];

/** The verdicts that are flagged on the calendar. */
const flagged = (i: Install) => i.verdict === "will_not" || i.verdict === "in_doubt";

function Day({
  cellRef,
  date,
  entries,
  installs,
  today,
  chosen,
  first,
  thisWeek,
  editable,
  onChoose,
}: DayProps) {
  const { setNodeRef, isOver } = useDroppable({ id: date });
  return (
    <td
      ref={(td) => {
        setNodeRef(td);
        if (cellRef) cellRef.current = td;
      }}
      className={clsx(
        "h-12 border-b border-l border-hair p-0 align-top",
        thisWeek && "bg-flag-wash/60",
        isOver && "bg-flag-wash",
      )}
    >
      <Button
        kind="bare"
        tabIndex={first ? 0 : -1}
        pressed={chosen}
        onClick={onChoose}
        onFocus={onChoose}
        className={clsx(
          "grid h-full min-h-12 w-full content-start gap-0.5 p-0.5 text-left",
          chosen && "outline-2 -outline-offset-2 outline-flag",
        )}
      >
        <span className="sr-only">
          {weekdayDate(date)}
          {today && ", today"}:{" "}
          {entries.length === 0 && installs.length === 0
            ? "nothing"
            : entries.map(([, e]) => words(e)).join("; ")}
          {installs.map(
            (i) => `; install of ${i.name}${i.verdict ? `, ${verdicts[i.verdict].says.toLowerCase()}` : ""}`,
          )}
        </span>
        {today && (
          <span
            aria-hidden
            className="absolute size-0 border-t-8 border-r-8 border-t-flag border-r-transparent"
          />
        )}
        {entries.map(([id, e]) => (
          <Chip key={id} id={id} entry={e} editable={editable} />
        ))}
        {installs.map((i) => (
          <span
            key={i.id}
            aria-hidden
            className={clsx("block truncate leading-4 [font-stretch:82%]", flagged(i) && "text-fault")}
          >
            <span className={clsx(i.verdict && verdicts[i.verdict].tone)}>
              {i.verdict ? verdicts[i.verdict].shape : "+"}
            </span>{" "}
            {i.name}
          </span>
        ))}
      </Button>
    </td>
  );
}

function Chip({ id, entry: e, editable }: { id: string; entry: Entry; editable: boolean }) {
  const { setNodeRef, listeners, transform, isDragging } = useDraggable({ id, disabled: !editable });
  return (
    <span
      ref={setNodeRef}
      {...listeners}
      aria-hidden
      style={transform ? { translate: `${transform.x}px ${transform.y}px` } : undefined}
      className={clsx(
        "block truncate border px-1 leading-5 [font-stretch:82%]",
        e.is === "game" ? "border-ink bg-ink font-semibold text-invert" : "border-rule bg-sheet",
        e.is === "practice" && "border-l-[3px] border-l-ink",
        e.of.cancelled && "border-dashed line-through opacity-70",
        isDragging && "relative z-10",
      )}
    >
      {e.is === "game" ? `${e.of.home ? "" : "at "}${e.of.opponent}` : e.of.theme || e.of.title}
    </span>
  );
}

/** At which stage of a ladder the group worked, and will, at the end of each week. */
function LadderRow({ ladder: l, weeks }: { ladder: Schemas["LadderReadiness"]; weeks: number[] }) {
  return (
    <tr className="border-t border-hair">
      <th scope="row" className="label truncate pl-2 text-left normal-case">
        {l.name}
      </th>
      {weeks.map((i) => {
        const w = l.weeks.find((x) => x.week === i + 1);
        return (
          <td key={i} className="border-l border-hair px-1">
            {w && (
              <span className={clsx("block truncate [font-stretch:82%]", w.ahead && "text-soft italic")}>
                <b>{w.stage + 1}</b> {l.stages[w.stage]}
              </span>
            )}
          </td>
        );
      })}
    </tr>
  );
}

function ContactCell({
  contact,
  most,
  group,
}: {
  contact: Schemas["WeekContact"];
  most?: number;
  group: Schemas["GroupRef"];
}) {
  const own = contact.groups.find((g) => g.group === group.key)?.minutes ?? 0;
  const high = Math.max(0, ...contact.groups.map((g) => g.minutes));
  const over = most !== undefined && high > most;
  return (
    <td className="border-l border-hair px-1 py-1 align-top">
      <span className="block">
        {group.short} {own}
        {most !== undefined && <span className="text-soft"> of {most}</span>}
      </span>
      <span aria-hidden className="block h-1.5 bg-hair">
        <span
          className={clsx("block h-full", own > (most ?? Infinity) ? "bg-fault" : "bg-ink")}
          style={{ width: `${Math.min(100, (100 * own) / Math.max(1, most ?? high))}%` }}
        />
      </span>
      {over && (
        <span className="block text-fault">▲ {own > most ? "over the limit" : `a group has ${high}`}</span>
      )}
    </td>
  );
}
