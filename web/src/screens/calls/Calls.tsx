import { useQuery } from "@tanstack/react-query";
import { Fragment, useState } from "react";
import { useSearchParams } from "react-router";
import { v7 as uuid } from "uuid";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useWhere } from "@/app/where";
import { useKeys, type Key } from "@/keys/react";
import { Button, FileLink } from "@/kit/Button";
import { Empty, Loading, Trouble } from "@/kit/States";
import { AllNotSaved } from "@/parts/NotSaved";
import { count, weekdayDate } from "@/parts/words";
import { SeasonHead } from "@/screens/season/SeasonHead";
import { UndoButtons } from "@/parts/UndoButtons";
import { undoKeys } from "@/parts/undoKeys";
import { CallPanel } from "./CallPanel";
import { CallTable } from "./CallTable";
import { flagged, fresh, inOrder } from "./calls";
import { Ladders } from "./Ladders";
import { ListWindow } from "./ListWindow";
import { useCalls } from "./useCalls";

/** What the staff calls, and whether it will be ready. */
export function Calls() {
  const { group, week } = useWhere();
  const calls = useQuery(queries.calls());
  const frame = useQuery(queries.frame());
  const ready = useQuery(queries.readiness(group, week));
  if (calls.error && !calls.data) return <Trouble error={calls.error} again={() => void calls.refetch()} />;
  if (!calls.data || !frame.data) return <Loading what="the calls" />;
  return <Room calls={calls.data} groups={frame.data.groups} ready={ready.data} trouble={ready.error} />;
}

interface Props {
  calls: Schemas["Calls"];
  groups: Schemas["GroupRef"][];
  ready?: Schemas["Readiness"];
  trouble: Error | null;
}

function Room({ calls, groups, ready, trouble }: Props) {
  const { group } = useWhere();
  const editing = useCalls(calls);
  const [params, setParams] = useSearchParams();
  const [made, setMade] = useState<string>(); // a new one: its name is asked for
  const [reading, setReading] = useState(false);
  const list = inOrder(editing.items);
  const short = flagged(list, ready);
  const chosen = list.find(([id]) => id === params.get("call"))?.[0] ?? short[0]?.[0] ?? list[0]?.[0];
  const choose = (id: string) => setParams({ call: id }, { replace: true });
  // What is worked on stays chosen, though it is flagged no longer.
  const changeChosen: typeof editing.change = (next) => {
    if (chosen) choose(chosen);
    editing.change(next);
  };
  const here = groups.find((g) => g.key === group);
  const may = calls.sides.length > 0;
  const add = () => {
    const id = uuid();
    const side = calls.sides.find((s) => s === here?.side) ?? calls.sides[0] ?? "offense";
    editing.change(new Map(editing.items).set(id, fresh(editing.items, side)));
    setMade(id);
    choose(id);
  };
  const step = (by: number) => {
    const at = list.findIndex(([id]) => id === chosen);
    const next = list[(at + by + list.length) % list.length];
    if (next) choose(next[0]);
  };
  const keys: Key[] = [];
  if (list.length > 1)
    keys.push(
      { keys: "]", does: "Next call", run: () => step(1) },
      { keys: "[", does: "Call before", run: () => step(-1) },
    );
  if (may)
    keys.push(
      { keys: "n", does: "New call", run: add },
      { keys: "t", does: "Type or read a list of calls", run: () => setReading(true) },
    );
  keys.push(...undoKeys(editing));
  useKeys(keys);
  return (
    <>
      <SeasonHead title="Calls">
        <span className="flex flex-wrap gap-1.5">
          {may && (
            <>
              <Button kind="main" onClick={add}>
                New call <span className="kbd">n</span>
              </Button>
              <Button onClick={() => setReading(true)}>
                Type or read a list <span className="kbd">t</span>
              </Button>
              <UndoButtons steps={editing} />
            </>
          )}
          <FileLink href="/api/v1/calls/export?format=xlsx">XLSX</FileLink>
          <FileLink href="/api/v1/calls/export?format=csv">CSV</FileLink>
        </span>
      </SeasonHead>
      <AllNotSaved
        editing={editing}
        says={(u) => <p className="say text-small">{u.mine?.name ?? "A call that was taken out"}</p>}
      />
      {trouble && !ready && (
        <p role="alert" className="say mb-2 text-small text-fault">
          Whether they will be ready is not known: {trouble.message}
        </p>
      )}
      {list.length === 0 ? (
        <Empty action={may && <Button onClick={add}>New call</Button>}>
          No calls yet. A call names the techniques it needs and the day it is installed; what will not be
          ready by then shows weeks ahead.
        </Empty>
      ) : (
        <div className="grid items-start gap-3 grid-cols-[minmax(0,1fr)] xl:grid-cols-[minmax(0,1fr)_430px]">
          <div className="grid gap-3 min-w-0">
            {short.length > 0 && (
              <p className="say">
                <b className="text-fault">
                  <span aria-hidden>▲</span> {count(short.length, "call")} will not be ready:
                </b>{" "}
                {short.map(([id, c], i) => (
                  <Fragment key={id}>
                    {i > 0 && ", "}
                    <Button kind="text" onClick={() => choose(id)}>
                      {c.name}
                    </Button>
                    {c.install && ` on ${weekdayDate(c.install)}`}
                  </Fragment>
                ))}
              </p>
            )}
            <CallTable {...{ list, ready, chosen }} onChoose={choose} />
            {ready && <Ladders ready={ready} group={here} />}
          </div>
          {chosen && (
            <CallPanel
              key={chosen}
              id={chosen}
              fresh={chosen === made}
              {...{ calls, groups, ready }}
              editing={{ ...editing, change: changeChosen }}
              onOut={() => setMade(undefined)}
            />
          )}
        </div>
      )}
      <ListWindow open={reading} editing={editing} onClose={() => setReading(false)} />
    </>
  );
}
