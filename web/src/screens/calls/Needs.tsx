import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useWhere } from "@/app/where";
import { Button } from "@/kit/Button";
import { Combobox } from "@/kit/Combobox";
import { Select } from "@/kit/Select";

type Need = Schemas["CallNeed"];

interface Props {
  call: Schemas["CallInput"];
  may: boolean;
  teachable: Schemas["Teachable"][];
  groups: Schemas["GroupRef"][];
  onChange: (needs: Need[]) => void;
}

/** What a call needs: of which group which technique, up to which stage, at which spots. */
export function Needs({ call, may, teachable, groups, onChange }: Props) {
  const put = (i: number, need: Need) => onChange(call.needs.map((n, j) => (i === j ? need : n)));
  const others = groups.filter((g) => g.side === call.side || call.side === "units");
  const add = (group: string) => {
    const used = call.needs.filter((n) => n.group === group).map((n) => n.technique);
    const t = teachable.find((t) => t.groups.includes(group) && !used.includes(t.technique));
    if (t) onChange([...call.needs, { group, technique: t.technique }]);
  };
  return (
    <section aria-label="What it needs" className="grid gap-2 border-t border-hair pt-2">
      <h3 className="label">It needs</h3>
      {call.needs.length === 0 && (
        <p className="say text-small text-soft">
          Nothing yet: without a need nobody can say whether it will be ready.
        </p>
      )}
      <ol className="grid gap-2">
        {call.needs.map((n, i) => (
          <li key={`${i}/${n.group}`} className="border-l-[3px] border-rule pl-2">
            <NeedLine
              need={n}
              {...{ may, teachable, groups }}
              onChange={(need) => put(i, need)}
              onOut={() => onChange(call.needs.filter((_, j) => j !== i))}
            />
          </li>
        ))}
      </ol>
      {may && call.needs.length < 24 && (
        <p className="flex flex-wrap items-center gap-1.5">
          <span className="label">Of</span>
          {others.map((g) => (
            <Button key={g.key} kind="quiet" onClick={() => add(g.key)}>
              {g.short} <span className="sr-only">needs a technique</span>
            </Button>
          ))}
        </p>
      )}
    </section>
  );
}

interface LineProps {
  need: Need;
  may: boolean;
  teachable: Schemas["Teachable"][];
  groups: Schemas["GroupRef"][];
  onChange: (need: Need) => void;
  onOut: () => void;
}

/** What is asked: the kind of stage, or all of the ladder. */
const asked = (stage: string | undefined) => (stage ? `up to the ${stage} stage` : "ready for the game");

function NeedLine({ need, may, teachable, groups, onChange, onOut }: LineProps) {
  const { week } = useWhere();
  const lineUp = useQuery({ ...queries.lineUp(need.group, week), enabled: may });
  const group = groups.find((g) => g.key === need.group)?.short ?? need.group;
  const own = teachable.filter((t) => t.groups.includes(need.group));
  const technique = own.find((t) => t.technique === need.technique);
  const name = technique?.name ?? "a technique that is not taught any longer";
  const spots = need.spots ?? [];
  if (!may)
    return (
      <p className="say text-small">
        {group} {name}, {asked(need.stage)}
        {spots.length > 0 && `, at ${spots.join(", ")}`}
      </p>
    );
  const known = lineUp.data?.spots.map((s) => s.name) ?? [];
  const all = [...known, ...spots.filter((s) => !known.includes(s))];
  return (
    <div className="grid gap-1">
      <span className="flex flex-wrap items-center gap-1.5">
        <span className="name">{group}</span>
        <Combobox
          label={`Technique of the ${group}`}
          word={name}
          options={own.map((t) => ({ value: t.technique, name: t.name }))}
          onChoose={(technique) => onChange({ ...need, technique, stage: undefined })}
        />
        <Select
          label="How far"
          value={need.stage ?? ""}
          options={[
            { value: "", name: asked("") },
            ...(technique?.stages ?? []).map((s) => ({ value: s, name: asked(s) })),
          ]}
          onChange={(stage) => onChange({ ...need, stage: stage || undefined })}
        />
        <Button kind="text" className="ml-auto" onClick={onOut}>
          Take out<span className="sr-only"> {name}</span>
        </Button>
      </span>
      {all.length > 1 && (
        <span
          role="group"
          aria-label={`Spots of the ${group}`}
          className="flex flex-wrap items-center gap-x-2"
        >
          {all.map((s) => (
            <label
              key={s}
              className="flex min-h-7 min-w-7 items-center gap-1 text-small pointer-coarse:min-h-11 pointer-coarse:min-w-11"
            >
              <input
                type="checkbox"
                checked={spots.includes(s)}
                onChange={(e) => {
                  const next = e.target.checked ? [...spots, s] : spots.filter((x) => x !== s);
                  onChange({
                    ...need,
                    spots: next.length > 0 ? all.filter((x) => next.includes(x)) : undefined,
                  });
                }}
              />
              {s}
            </label>
          ))}
          {spots.length === 0 && <span className="label normal-case">all of them</span>}
        </span>
      )}
    </div>
  );
}
