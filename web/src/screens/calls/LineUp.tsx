import {
  DndContext,
  MouseSensor,
  TouchSensor,
  pointerWithin,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
  type DragEndEvent,
} from "@dnd-kit/core";
import { useQuery } from "@tanstack/react-query";
import clsx from "clsx";
import { useCallback, useEffect, useMemo, useRef, useState, type KeyboardEvent, type ReactNode } from "react";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useWhere } from "@/app/where";
import { useKeys, type Key } from "@/keys/react";
import { Button } from "@/kit/Button";
import { Combobox } from "@/kit/Combobox";
import { changed } from "@/kit/reorder";
import { Empty, Loading, Trouble } from "@/kit/States";
import { Typed, TypedNumber } from "@/kit/Typed";
import { AllNotSaved } from "@/parts/NotSaved";
import { availability } from "@/parts/words";
import { SeasonHead } from "@/screens/season/SeasonHead";
import { useSheet } from "@/sync/sheet";
import { UndoButtons } from "@/parts/UndoButtons";
import { undoKeys } from "@/parts/undoKeys";
import * as L from "./lineup";

/** Who is expected on the field: the coach's own order at each spot, carried from week to week. */
export function LineUp() {
  const { group, week } = useWhere();
  const lineUp = useQuery(queries.lineUp(group, week));
  const frame = useQuery(queries.frame());
  if (lineUp.error && !lineUp.data)
    return <Trouble error={lineUp.error} again={() => void lineUp.refetch()} />;
  if (!lineUp.data || !frame.data) return <Loading what="the line-up" />;
  const here = frame.data.groups.find((g) => g.key === group);
  return <Sheet key={`${group}/${week}`} lineUp={lineUp.data} name={here?.name ?? group} />;
}

/** What can be done with a line-up. */
interface Doing {
  spots: L.Spots;
  change: (spots: L.Spots) => void;
  players: ReadonlyMap<string, Schemas["Player"]>;
  may: boolean;
  /** Moves a player with the keyboard, which goes along. */
  carry: (player: string, from: number, to: number, place: number) => void;
  register: (id: string, chip: HTMLElement | null) => void;
}

function Sheet({ lineUp, name }: { lineUp: Schemas["LineUp"]; name: string }) {
  const { week } = useWhere();
  const of = useMemo(() => L.lineUpOf(lineUp.group, week, name), [lineUp.group, week, name]);
  const server = useMemo(() => new Map([[lineUp.group, lineUp.spots as L.Spots]]), [lineUp]);
  const versions = useMemo(() => new Map([[lineUp.group, lineUp.version]]), [lineUp]);
  const editing = useSheet(server, versions, of);
  const spots = editing.items.get(lineUp.group) ?? [];
  const change = (next: L.Spots) => editing.change(new Map([[lineUp.group, next]]));
  const players = useMemo(() => new Map(lineUp.players.map((p) => [p.id, p])), [lineUp.players]);
  const may = lineUp.editable;
  const chips = useRef(new Map<string, HTMLElement>());
  const follows = useRef(""); // the chip with which the keyboard goes along
  useEffect(() => {
    const chip = chips.current.get(follows.current);
    if (!chip) return;
    follows.current = "";
    chip.focus();
  });
  const register = useCallback((id: string, chip: HTMLElement | null) => {
    if (chip) chips.current.set(id, chip);
    else chips.current.delete(id);
  }, []);
  const carry = (player: string, from: number, to: number, place: number) => {
    change(L.put(spots, player, from, to, place));
    // The keyboard goes along with what it moved.
    follows.current = chipID(to, player);
  };
  const doing: Doing = { spots, change, players, may, carry, register };
  const keys: Key[] = [];
  if (may) keys.push({ keys: "n", does: "New spot", run: () => change(L.withSpot(spots)) });
  keys.push(...undoKeys(editing));
  useKeys(keys);
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 4 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: 250, tolerance: 6 } }),
  );
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    const { player, from } = active.data.current as { player: string; from?: number };
    const to = over?.data.current as { spot?: number; place?: number } | undefined;
    if (!to) return;
    if (to.spot !== undefined) change(L.put(spots, player, from, to.spot, to.place ?? 99));
    else if (from !== undefined) change(L.out(spots, player, from));
  };
  return (
    <DndContext sensors={sensors} collisionDetection={pointerWithin} onDragEnd={onDragEnd} autoScroll={false}>
      <SeasonHead title={`Line-up, ${name}`} over={since(lineUp, week)}>
        {may && (
          <span className="flex flex-wrap gap-1.5">
            <Button onClick={() => change(L.withSpot(spots))} off={spots.length >= 20}>
              New spot <span className="kbd">n</span>
            </Button>
            <UndoButtons steps={editing} />
          </span>
        )}
      </SeasonHead>
      <p className="say mb-2 max-w-3xl text-small text-soft">
        Your own order at each spot, with the share of the next game&apos;s snaps you expect. It holds until
        you change it. Drag a player, or with the keyboard on him press Alt and an arrow.
      </p>
      <AllNotSaved editing={editing} />
      {spots.length === 0 ? (
        <Empty
          action={
            may &&
            lineUp.positions.length > 0 && (
              <Button kind="main" onClick={() => change(L.begin(lineUp))}>
                Begin with the positions
              </Button>
            )
          }
        >
          No line-up yet. Without one nobody can say whether a call will be ready: who is on the field
          decides.
        </Empty>
      ) : (
        <div className="grid items-start gap-3 grid-cols-[minmax(0,1fr)] md:grid-cols-[minmax(0,1fr)_230px]">
          <ol className="grid gap-3 grid-cols-[repeat(auto-fill,minmax(230px,1fr))]" aria-label="Spots">
            {spots.map((s, i) => (
              <SpotCard key={i} spot={s} at={i} doing={doing} />
            ))}
          </ol>
          <Bench doing={doing} />
        </div>
      )}
    </DndContext>
  );
}

/** Since when it holds. */
function since(l: Schemas["LineUp"], week: number) {
  if (l.week === 0) return `Week ${week}`;
  if (l.week === week) return `Week ${week}, changed in it${l.changed_by ? ` by ${l.changed_by}` : ""}`;
  return `Week ${week}, as since week ${l.week}`;
}

const chipID = (spot: number, player: string) => `at-${spot}-${player}`;

function SpotCard({ spot, at, doing }: { spot: L.Spot; at: number; doing: Doing }) {
  const { spots, change, players, may } = doing;
  const { setNodeRef, isOver } = useDroppable({ id: `spot-${at}`, data: { spot: at } });
  const open = L.openAt(spot);
  const rename = (name: string) => change(changed(spots, at, { name }));
  const others = [...players.values()].filter((p) => !spot.players.some((x) => x.player_id === p.id));
  return (
    <li
      ref={setNodeRef}
      aria-label={spot.name}
      className={clsx("sheet grid content-start gap-1 p-2", isOver && "outline-2 outline-flag")}
    >
      <span className="flex items-center gap-2">
        {may ? (
          <Typed
            label="Spot"
            quiet
            className="grow"
            value={spot.name}
            max={30}
            onSay={(name) => name && rename(name)}
          />
        ) : (
          <h2 className="head grow">{spot.name}</h2>
        )}
        <span className={clsx("label normal-case whitespace-nowrap", open < 0 && "text-fault")}>
          {open > 0 ? `${open} % open` : open < 0 ? `${-open} % too much` : "full"}
        </span>
      </span>
      <ol className="grid gap-0.5" aria-label={`Players at ${spot.name}`}>
        {spot.players.map((p, place) => (
          <Place key={p.player_id} {...{ at, place, doing }} player={p.player_id} share={p.share} />
        ))}
      </ol>
      {may && (
        <span className="flex flex-wrap items-center gap-2">
          {others.length > 0 && spot.players.length < 12 && (
            <Combobox
              label={`Put a player at ${spot.name}`}
              word="Put a player here"
              options={others.map((p) => ({
                value: p.id,
                name: `${p.jersey} ${p.first_name} ${p.last_name}`,
                more: p.position,
              }))}
              onChoose={(id) => change(L.put(spots, id, undefined, at, 99))}
            />
          )}
          <Button kind="text" className="ml-auto" onClick={() => change(spots.filter((_, i) => i !== at))}>
            Take the spot out<span className="sr-only">: {spot.name}</span>
          </Button>
        </span>
      )}
    </li>
  );
}

interface PlaceProps {
  at: number;
  place: number;
  player: string;
  share: number;
  doing: Doing;
}

function Place({ at, place, player, share, doing }: PlaceProps) {
  const { spots, change, players, may, carry } = doing;
  const p = players.get(player);
  const { setNodeRef, isOver } = useDroppable({ id: `place-${at}-${place}`, data: { spot: at, place } });
  const onKeyDown = (e: KeyboardEvent) => {
    if (!e.altKey || e.ctrlKey || e.metaKey || !may) return;
    const to = {
      ArrowUp: [at, place - 1],
      ArrowDown: [at, place + 1],
      ArrowLeft: [at - 1, 99],
      ArrowRight: [at + 1, 99],
    }[e.key];
    if (!to) return;
    e.preventDefault();
    e.stopPropagation();
    const [spot = 0, next = 0] = to;
    if (spots[spot] && next >= 0) carry(player, at, spot, next);
  };
  return (
    <li ref={setNodeRef} className={clsx("flex items-center gap-1", isOver && "border-t-2 border-flag")}>
      <Chip
        id={chipID(at, player)}
        player={player}
        from={at}
        off={!may}
        register={doing.register}
        onKeyDown={onKeyDown}
      >
        <span className="w-5 text-right text-soft">{place + 1}</span> <b>{p?.jersey}</b>{" "}
        <span className="truncate">{p?.last_name ?? "gone"}</span>
        {p && p.status !== "available" && <span className="text-fault">{availability[p.status]}</span>}
      </Chip>
      {may ? (
        <>
          <TypedNumber
            label={`Share of ${p?.last_name}, per cent`}
            quiet
            className="w-14"
            value={share}
            least={0}
            most={L.mostAt(spots, at, player)}
            onSay={(n) => change(L.given(spots, player, at, n))}
            onNone={() => change(L.given(spots, player, at, 0))}
          />
          <Button kind="text" className="min-w-7" onClick={() => change(L.out(spots, player, at))}>
            <span aria-hidden>×</span>
            <span className="sr-only">Take {p?.last_name} out</span>
          </Button>
        </>
      ) : (
        <span className="w-14 text-right">{share} %</span>
      )}
    </li>
  );
}

interface ChipProps {
  id: string;
  player: string;
  from?: number;
  off: boolean;
  register?: (id: string, chip: HTMLElement | null) => void;
  onKeyDown?: (e: KeyboardEvent) => void;
  children: ReactNode;
}

/** A player that can be dragged. */
function Chip({ id, player, from, off, register, onKeyDown, children }: ChipProps) {
  const { setNodeRef, listeners, transform, isDragging } = useDraggable({
    id,
    data: { player, from },
    disabled: off,
  });
  return (
    <Button
      kind="bare"
      ref={(e) => {
        register?.(id, e);
        setNodeRef(e);
      }}
      {...listeners}
      onKeyDown={onKeyDown}
      style={transform ? { translate: `${transform.x}px ${transform.y}px` } : undefined}
      className={clsx(
        "flex min-h-7 min-w-0 grow items-center gap-1.5 border border-hair bg-paper px-1.5 text-left text-small pointer-coarse:min-h-11",
        !off && "cursor-grab",
        isDragging && "relative z-10 border-flag",
      )}
    >
      {children}
    </Button>
  );
}

/** Everybody of the group with the snaps he is expected to play: who is dropped here is taken out. */
function Bench({ doing }: { doing: Doing }) {
  const { spots, players, may } = doing;
  const [idle, setIdle] = useState(false);
  const { setNodeRef, isOver } = useDroppable({ id: "bench", data: {} });
  const list = [...players.values()].filter((p) => !idle || L.shareOf(spots, p.id) === 0);
  return (
    <section
      ref={setNodeRef}
      aria-label="The group"
      className={clsx("sheet grid content-start gap-1 p-2", isOver && "outline-2 outline-flag")}
    >
      <h2 className="head">The group</h2>
      <label className="flex min-h-7 items-center gap-1.5 text-small pointer-coarse:min-h-11">
        <input type="checkbox" checked={idle} onChange={(e) => setIdle(e.target.checked)} />
        Only who is not expected to play
      </label>
      <ul className="grid gap-0.5">
        {list.map((p) => (
          <li key={p.id} className="flex items-center gap-1">
            <Chip id={`bench-${p.id}`} player={p.id} off={!may}>
              <b>{p.jersey}</b> <span className="truncate">{p.last_name}</span>
              <span className="text-soft">{p.position}</span>
            </Chip>
            <span className="w-12 text-right text-small text-soft">{L.shareOf(spots, p.id)} %</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
