import clsx from "clsx";
import { Fragment } from "react";
import type { Schemas } from "@/api/client";
import { Button } from "@/kit/Button";
import { useGrid } from "@/kit/grid";
import { Scroller } from "@/kit/Scroller";
import { percent, weekdayDate } from "@/parts/words";
import { says, shareOf, sides, type Call } from "./calls";

interface Props {
  list: [string, Call][];
  ready?: Schemas["Readiness"];
  chosen?: string;
  onChoose: (id: string) => void;
}

/** The calls of each side with how ready they will be, week by week. */
export function CallTable({ list, ready, chosen, onChoose }: Props) {
  const grid = useGrid<HTMLTableElement>();
  const of = new Map(ready?.calls.map((c) => [c.id, c]));
  const weeks = ready?.calls.find((c) => c.weeks.length > 0)?.weeks.map((w) => w.week) ?? [];
  return (
    <Scroller label="The calls, with how ready they will be" className="sheet">
      <table role="grid" aria-label="Calls" {...grid} className="w-full text-small">
        <thead>
          <tr className="border-b border-ink text-left">
            <th scope="col" className="label p-2">
              Call
            </th>
            <th scope="col" className="label p-2 text-right">
              Share
            </th>
            <th scope="col" className="label p-2">
              Installed
            </th>
            <th scope="col" className="label p-2">
              Will we be ready?
            </th>
            {weeks.map((w) => (
              <th key={w} scope="col" className="label p-1 text-left whitespace-nowrap">
                {w === weeks[0] ? `End of week ${w}` : w}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {sides.map((side) => {
            const own = list.filter(([, c]) => c.side === side.value);
            if (own.length === 0) return null;
            const sum = shareOf(new Map(own), side.value);
            return (
              <Fragment key={side.value}>
                <tr>
                  <th
                    scope="rowgroup"
                    colSpan={4 + weeks.length}
                    className="border-b border-rule px-2 pt-3 pb-1 text-left"
                  >
                    <span className="name">{side.name}</span>{" "}
                    <span className={clsx("label normal-case", sum > 100 && "text-fault")}>
                      {sum} % of the snaps are called{sum > 100 && ": more than there are"}
                    </span>
                  </th>
                </tr>
                {own.map(([id, c]) => (
                  <Row
                    key={id}
                    call={c}
                    state={of.get(id)}
                    asOf={ready?.as_of ?? ""}
                    weeks={weeks}
                    chosen={id === chosen}
                    first={id === (chosen ?? list[0]?.[0])}
                    onChoose={() => onChoose(id)}
                  />
                ))}
              </Fragment>
            );
          })}
        </tbody>
      </table>
    </Scroller>
  );
}

interface RowProps {
  call: Call;
  state?: Schemas["CallReadiness"];
  asOf: string;
  weeks: number[];
  chosen: boolean;
  first: boolean;
  onChoose: () => void;
}

function Row({ call, state, asOf, weeks, chosen, first, onChoose }: RowProps) {
  const v = state && says(state.verdict, call.install, asOf);
  const numbers = state && !["no_needs", "no_line_up"].includes(state.verdict);
  return (
    <tr
      className={clsx("border-b border-hair", chosen && "bg-flag-wash/60")}
      onClick={onChoose} // the button in it does the same by the keyboard
    >
      <td className="p-0">
        <Button
          kind="bare"
          tabIndex={first ? 0 : -1}
          pressed={chosen}
          onClick={onChoose}
          className="grid min-h-9 w-full min-w-36 content-center px-2 py-1 text-left"
        >
          <span className="font-semibold">{call.name}</span>
          {call.kind && <span className="text-soft">{[call.kind, ...call.tags].join(" · ")}</span>}
        </Button>
      </td>
      <td className="p-2 text-right whitespace-nowrap">{call.share > 0 && `${call.share} %`}</td>
      <td className="p-2 whitespace-nowrap">{call.install ? weekdayDate(call.install) : ""}</td>
      <td className="p-2">
        {v && (
          <span className={clsx("font-semibold whitespace-nowrap", v.tone)}>
            <span aria-hidden>{v.shape}</span> {v.says}
          </span>
        )}
        {state?.weakest && state.verdict !== "will_be" && (
          <span className="block text-soft">{state.weakest}</span>
        )}
      </td>
      {weeks.map((w) => {
        const p = state?.weeks.find((x) => x.week === w)?.ready;
        return (
          <td key={w} className="p-1 align-middle">
            {numbers && p !== undefined && (
              <span className="block w-14">
                <span className="block text-right leading-4">{percent(p)}</span>
                <span aria-hidden className="block h-1.5 bg-hair">
                  <span
                    className={clsx(
                      "block h-full",
                      p >= 0.9 ? "bg-good" : p >= 0.5 ? "bg-ink/60" : "bg-fault",
                    )}
                    style={{ width: `${100 * p}%` }}
                  />
                </span>
              </span>
            )}
          </td>
        );
      })}
    </tr>
  );
}
