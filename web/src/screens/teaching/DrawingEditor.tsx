import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import type { Schemas } from "@/api/client";
import { Button } from "@/kit/Button";
import { changed } from "@/kit/reorder";
import { Select } from "@/kit/Select";
import { choices } from "@/kit/form/shape";
import { Drawing, type Point } from "./Drawing";
import { entryShape } from "./fields";

type Setup = Schemas["Setup"];
type Thing = Schemas["SetupThing"];
type Way = Schemas["SetupWay"];

interface Props {
  setup?: Setup;
  space: [number, number];
  onChange: (setup: Setup) => void;
}

/** A point of the drawing: a thing, or a point of a way. */
type Handle = { thing: number } | { way: number; point: number };

const half = (yd: number) => Math.round(yd * 2) / 2;
const same = (a: Handle | undefined, b: Handle) => JSON.stringify(a) === JSON.stringify(b);

/** The things that can stand in a drawing, and the ways in it. */
const things = choices(entryShape("setup_thing"), "is");
const ways = choices(entryShape("setup_way"), "is");

/**
 * The drawing of a lane: what stands in it is dragged on the grid of half yards, or moved by the arrow keys. It is made of
 * things and ways, never of free lines.
 */
export function DrawingEditor({ setup, space, onChange }: Props) {
  const now: Required<Setup> = { things: setup?.things ?? [], ways: setup?.ways ?? [] };
  const [chosen, setChosen] = useState<Handle>();
  const drag = useRef<{ of: Handle; x: number; y: number; at: Point; scale: number }>(undefined);
  const put = (h: Handle, [x, y]: Point) => {
    const to = [half(x), half(y)];
    if ("thing" in h) return onChange({ ...now, things: changed(now.things, h.thing, { at: to }) });
    const points = now.ways[h.way]?.points.map((p, j) => (j === h.point ? to : p));
    onChange({ ...now, ways: changed(now.ways, h.way, { points }) });
  };
  const handles: { of: Handle; at: Point; says: string }[] = [
    ...now.ways.flatMap((w, i) =>
      w.points.map((p, j) => ({
        of: { way: i, point: j },
        at: [p[0] ?? 0, p[1] ?? 0] as Point,
        says: `${w.is}, point ${j + 1}`,
      })),
    ),
    ...now.things.map((t, i) => ({
      of: { thing: i },
      at: [t.at[0] ?? 0, t.at[1] ?? 0] as Point,
      says: t.says ? `${t.is} ${t.says}` : t.is,
    })),
  ];
  const onKey = (e: KeyboardEvent, of: Handle, at: Point) => {
    const by: Record<string, Point> = {
      ArrowLeft: [-0.5, 0],
      ArrowRight: [0.5, 0],
      ArrowUp: [0, -0.5],
      ArrowDown: [0, 0.5],
    };
    const step = by[e.key];
    if (step) put(of, [at[0] + step[0], at[1] + step[1]]);
    else if (e.key === "Delete" || e.key === "Backspace") remove(of);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  const remove = (of: Handle) => {
    setChosen(undefined);
    if ("thing" in of) return onChange({ ...now, things: now.things.filter((_, i) => i !== of.thing) });
    const way = now.ways[of.way]!;
    const points = way.points.filter((_, j) => j !== of.point);
    // A way has two points or is none.
    onChange({
      ...now,
      ways: now.ways.flatMap((w, i) => (i !== of.way ? [w] : points.length < 2 ? [] : [{ ...w, points }])),
    });
  };
  const begin = (e: PointerEvent, of: Handle, at: Point, scale: number) => {
    setChosen(of);
    const picture = (e.currentTarget as SVGElement).ownerSVGElement!;
    // The picture is drawn smaller where there is no room for it.
    const shrunk = picture.getBoundingClientRect().width / picture.viewBox.baseVal.width;
    drag.current = { of, x: e.clientX, y: e.clientY, at, scale: scale * (shrunk || 1) };
    e.currentTarget.setPointerCapture(e.pointerId);
  };
  const move = (e: PointerEvent) => {
    const d = drag.current;
    if (d) put(d.of, [d.at[0] + (e.clientX - d.x) / d.scale, d.at[1] + (e.clientY - d.y) / d.scale]);
  };
  const middle: Point = [half(space[0] / 2), half(space[1] / 2)];
  return (
    <div className="grid gap-2">
      <Drawing
        drill={{ name: "the drill", roles: "drag what stands in it", space_yd: space, setup: now }}
        over={(at, scale) =>
          handles.map(({ of, at: p, says }) => {
            const [x, y] = at(...p);
            return (
              <circle
                key={JSON.stringify(of)}
                role="button"
                tabIndex={0}
                aria-label={`${says}, ${p[0]} yards downfield, ${p[1]} across`}
                aria-pressed={same(chosen, of)}
                cx={x}
                cy={y}
                r={"thing" in of ? 12 : 6}
                className="cursor-move touch-none"
                fill={"thing" in of ? "transparent" : "var(--sheet)"}
                stroke={same(chosen, of) ? "var(--flag)" : "thing" in of ? "transparent" : "var(--soft)"}
                strokeWidth={2}
                onPointerDown={(e) => begin(e, of, p, scale)}
                onPointerMove={move}
                onPointerUp={() => (drag.current = undefined)}
                onFocus={() => setChosen(of)}
                onKeyDown={(e) => onKey(e, of, p)}
              />
            );
          })
        }
      />
      <p className="say text-small text-soft">
        Drag what stands in the lane, or move what is chosen with <span className="kbd">←</span>{" "}
        <span className="kbd">→</span> <span className="kbd">↑</span> <span className="kbd">↓</span> by half a
        yard; <span className="kbd">Del</span> takes it out.
      </p>
      {chosen && <Chosen of={chosen} now={now} onChange={onChange} onRemove={() => remove(chosen)} />}
      <p className="flex flex-wrap items-center gap-2 text-small">
        <Adds
          what="Add"
          options={things}
          onAdd={(is) => {
            onChange({ ...now, things: [...now.things, { is: is as Thing["is"], at: middle }] });
            setChosen({ thing: now.things.length });
          }}
        />
        <Adds
          what="Add a way"
          options={ways}
          onAdd={(is) => {
            const to: Point = [half(Math.min(middle[0] + 2, space[0])), middle[1]];
            onChange({ ...now, ways: [...now.ways, { is: is as Way["is"], points: [middle, to] }] });
            setChosen({ way: now.ways.length, point: 1 });
          }}
        />
      </p>
    </div>
  );
}

function Adds({ what, options, onAdd }: { what: string; options: string[]; onAdd: (is: string) => void }) {
  const [is, setIs] = useState(options[0]!);
  return (
    <span className="inline-flex items-center gap-1">
      <Select
        label={`${what}: which`}
        value={is}
        options={options.map((o) => ({ value: o, name: o }))}
        onChange={setIs}
      />
      <Button kind="quiet" onClick={() => onAdd(is)}>
        {what}
      </Button>
    </span>
  );
}

/** What is chosen in the drawing, and what can be said and done of it. */
function Chosen({
  of,
  now,
  onChange,
  onRemove,
}: {
  of: Handle;
  now: Required<Setup>;
  onChange: (s: Setup) => void;
  onRemove: () => void;
}) {
  const thing = "thing" in of ? now.things[of.thing] : undefined;
  const way = "way" in of ? now.ways[of.way] : undefined;
  if (!thing && !way) return null;
  return (
    <p
      className="flex flex-wrap items-center gap-2 border-l-2 border-flag pl-2 text-small"
      role="group"
      aria-label="Chosen"
    >
      <Select
        label="It is"
        value={(thing ?? way)!.is}
        options={(thing ? things : ways).map((o) => ({ value: o, name: o }))}
        onChange={(is) =>
          onChange(
            "thing" in of
              ? { ...now, things: changed(now.things, of.thing, { is: is as Thing["is"] }) }
              : { ...now, ways: changed(now.ways, of.way, { is: is as Way["is"] }) },
          )
        }
      />
      {thing && "thing" in of && (
        <input
          className="field w-36"
          aria-label="It says"
          placeholder="a word beside it"
          maxLength={40}
          value={thing.says ?? ""}
          onChange={(e) =>
            onChange({
              ...now,
              things: changed(now.things, of.thing, { says: e.target.value || undefined }),
            })
          }
        />
      )}
      {way && "way" in of && (
        <Button
          kind="quiet"
          off={way.points.length >= 20}
          onClick={() => {
            const last = way.points.at(-1)!;
            const points = [...way.points, [half((last[0] ?? 0) + 1), last[1] ?? 0]];
            onChange({ ...now, ways: changed(now.ways, of.way, { points }) });
          }}
        >
          one more point
        </Button>
      )}
      <Button kind="quiet" onClick={onRemove}>
        take it out
      </Button>
    </p>
  );
}
