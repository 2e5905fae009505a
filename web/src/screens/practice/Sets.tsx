import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { v7 as uuid } from "uuid";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { Button } from "@/kit/Button";
import { Field } from "@/kit/Field";
import { Loading, Trouble } from "@/kit/States";
import { AllNotSaved } from "@/parts/NotSaved";
import { count } from "@/parts/words";
import { useSheet, type Of } from "@/sync/sheet";
import { inOrder, type Placed } from "./arrange";

type Set_ = Schemas["DrillSetInput"];

interface Props {
  group: string;
  editable: boolean;
  /** The plan as it is: what a new set is made of. */
  plan: Placed[];
  drills: Map<string, Schemas["Drill"]>;
  /** Puts drills in, one after the other; says how many found no room. */
  onPut: (drills: Schemas["SetDrill"][]) => number;
}

const setsOf = (group: string): Of<Set_> => ({
  idOf: (key) => (key.startsWith(`drillSet/${group}/`) ? key.split("/")[2] : undefined),
  keyOf: (id) => `drillSet/${group}/${id}`,
  read: (_key, content) => content as Set_,
  write: (_id, s) => s ?? null,
  alike: (a, b) => JSON.stringify(a) === JSON.stringify(b),
  says: (s) => `Set ${s.name}`,
});

/** Drills that belong together: saved once, put in whole. */
export function Sets(props: Props) {
  const sets = useQuery(queries.drillSets(props.group));
  if (sets.error && !sets.data) return <Trouble error={sets.error} again={() => void sets.refetch()} />;
  if (!sets.data) return <Loading what="the sets" />;
  return <List {...props} sets={sets.data} />;
}

function List({ group, editable, plan, drills, onPut, sets }: Props & { sets: Schemas["DrillSet"][] }) {
  const of = useMemo(() => setsOf(group), [group]);
  const server = useMemo(() => new Map(sets.map((s) => [s.id, s.set])), [sets]);
  const versions = useMemo(() => new Map(sets.map((s) => [s.id, s.version])), [sets]);
  const editing = useSheet(server, versions, of);
  const [name, setName] = useState("");
  const [every, setEvery] = useState(false);
  const [said, setSaid] = useState("");
  const list = [...editing.items].sort(
    ([, a], [, b]) => Number(b.every_day) - Number(a.every_day) || a.name.localeCompare(b.name),
  );
  const save = () => {
    if (!name.trim()) return;
    const ordered = inOrder(plan).map(({ drill, technique, minutes, lanes }) => ({
      drill,
      technique: technique || undefined,
      minutes,
      lanes,
    }));
    editing.change(
      new Map(editing.items).set(uuid(), { name: name.trim(), every_day: every, drills: ordered }),
    );
    setName("");
    setEvery(false);
  };
  const put = (s: Set_) => {
    const left = onPut(s.drills);
    setSaid(
      left === 0
        ? `${s.name}: ${count(s.drills.length, "drill")} put in.`
        : `${s.name}: ${count(left, "drill")} found no room in the minutes that are left.`,
    );
  };
  const without = (id: string) => {
    const next = new Map(editing.items);
    next.delete(id);
    editing.change(next);
  };
  return (
    <div className="grid gap-2">
      <AllNotSaved editing={editing} />
      {list.length === 0 && (
        <p className="say text-small text-soft">
          No sets yet. What you do every day, or always one after the other, is saved here once and put in
          with a press.
        </p>
      )}
      <ul className="divide-y divide-hair" aria-label="Saved sets">
        {list.map(([id, s]) => (
          <li key={id} className="grid gap-0.5 py-1.5" aria-label={s.name}>
            <span className="flex items-center gap-2">
              <span className="name min-w-0 flex-1 text-body">{s.name}</span>
              <span className="label whitespace-nowrap">
                {s.every_day && "every day · "}
                {s.drills.reduce((sum, d) => sum + d.minutes, 0)} min
              </span>
              {editable && (
                <Button kind="quiet" onClick={() => put(s)}>
                  Put in<span className="sr-only"> {s.name}</span>
                </Button>
              )}
            </span>
            <span className="say text-small text-soft">
              {s.drills
                .map((d) => `${drills.get(d.drill)?.name ?? "a drill no longer taught"} ${d.minutes}`)
                .join(", ")}
            </span>
            {editable && (
              <span>
                <Button kind="text" onClick={() => without(id)}>
                  Forget it<span className="sr-only">: {s.name}</span>
                </Button>
              </span>
            )}
          </li>
        ))}
      </ul>
      <p role="status" className="say text-small">
        {said}
      </p>
      {editable && plan.length > 0 && (
        <form
          className="grid gap-1.5 border-t border-hair pt-2"
          onSubmit={(e) => {
            e.preventDefault();
            save();
          }}
        >
          <Field label={`Save the ${count(plan.length, "drill")} of this plan as a set`}>
            {(control) => (
              <input
                {...control}
                className="field w-full"
                maxLength={80}
                placeholder="Its name"
                value={name}
                onChange={(e) => setName(e.target.value)}
              />
            )}
          </Field>
          <span className="flex flex-wrap items-center gap-3">
            <label className="flex min-h-7 items-center gap-1.5 text-small pointer-coarse:min-h-11">
              <input type="checkbox" checked={every} onChange={(e) => setEvery(e.target.checked)} />
              We do it every day
            </label>
            <Button type="submit" off={!name.trim()}>
              Save the set
            </Button>
          </span>
        </form>
      )}
    </div>
  );
}
