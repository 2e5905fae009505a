import type { Schemas } from "@/api/client";
import { Button } from "@/kit/Button";
import { Popover } from "@/kit/Popover";
import { rowOf } from "./rows";

/** The tables that decide what is right, with the row of the play's call where it names one. */
export function Decided({ list, call }: { list?: Schemas["Decided"][]; call?: string }) {
  if (!list?.length) return null;
  return (
    <ul className="mt-2 grid gap-1" aria-label="What is right, by the table">
      {list.map((d) => (
        <One key={d.checkpoint} decided={d} call={call} />
      ))}
    </ul>
  );
}

function One({ decided: d, call }: { decided: Schemas["Decided"]; call?: string }) {
  const row = rowOf(d.rows, call);
  return (
    <li className="say text-small">
      <Popover
        label={d.table}
        trigger={<Button kind="text">{d.checkpoint}</Button>}
        className="w-[420px] p-3"
      >
        <h3 className="head">{d.table}</h3>
        <dl className="mt-1 grid gap-1 text-small">
          {d.rows.map((r) => (
            <div
              key={r.call}
              className="grid grid-cols-[minmax(0,2fr)_minmax(0,3fr)] gap-2 border-t border-hair py-1"
            >
              <dt className="font-semibold">{r.call}</dt>
              <dd>{r.says}</dd>
            </div>
          ))}
        </dl>
      </Popover>{" "}
      {row && (
        <>
          <span className="label">{row.call}</span> {row.says}
        </>
      )}
    </li>
  );
}
