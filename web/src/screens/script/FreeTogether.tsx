import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { Button } from "@/kit/Button";
import { clock } from "@/parts/words";

type Window = Schemas["FreeWindow"];

interface Props {
  look: Schemas["ScriptLook"];
  practice: Schemas["Practice"];
  groups: Schemas["GroupRef"][];
  /** Who goes on with what in those minutes. */
  meanwhile: (w: Window) => string;
  onLay?: (w: Window) => void;
  /** Lays a period for two of the groups, with a drill in it. */
  onDrill?: (w: Window, d: Schemas["DrillTogether"]) => void;
}

/** Groups that are free together: time that is there for the asking, and drills that need just them. */
export function FreeTogether({ look, groups, ...more }: Props) {
  const long = look.free.filter((w) => w.end - w.start >= 5);
  if (long.length === 0)
    return <p className="say text-soft">No two groups are free together for five minutes or more.</p>;
  return (
    <ul className="grid grid-cols-[minmax(0,1fr)] gap-2.5">
      {long.map((w) => (
        <Free key={`${w.start}${w.groups.join()}`} {...{ w, groups, ...more }} />
      ))}
    </ul>
  );
}

function Free({ w, practice, groups, meanwhile, onLay, onDrill }: Omit<Props, "look"> & { w: Window }) {
  const start = practice.practice.start_minute;
  const drills = useQuery(queries.drillsTogether(w.groups, w.end - w.start));
  const name = (key: string) => groups.find((g) => g.key === key)?.name ?? key;
  const names = groups.filter((g) => w.groups.includes(g.key)).map((g) => g.name);
  const who =
    names.length === groups.length ? "Everybody" : `${names.slice(0, -1).join(", ")} and ${names.at(-1)}`;
  return (
    <li className="grid gap-1">
      <p className="say text-small">
        <b>
          {clock(start + w.start)}–{clock(start + w.end)}
        </b>{" "}
        {who} are free{meanwhile(w)}
        {drills.data && drills.data.length > 0 ? ":" : "."}
      </p>
      {drills.data && drills.data.length > 0 && (
        <ul className="grid gap-1">
          {drills.data.map((d) => (
            <li key={d.drill} className="flex flex-wrap items-baseline gap-x-2">
              {onDrill ? (
                <Button className="text-small" onClick={() => onDrill(w, d)}>
                  {d.name}
                </Button>
              ) : (
                <b className="text-small">{d.name}</b>
              )}
              <span className="label">
                {name(d.of)} with {name(d.with)}, {d.minutes} min, {d.contact}
              </span>
            </li>
          ))}
        </ul>
      )}
      {onLay && (
        <span>
          <Button kind="text" className="text-small" onClick={() => onLay(w)}>
            Put them together without a drill
          </Button>
        </span>
      )}
    </li>
  );
}
