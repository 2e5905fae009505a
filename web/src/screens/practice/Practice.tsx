import { useShorts } from "@/parts/shorts";
import { Button, ButtonLink } from "@/kit/Button";
import { Tabs } from "@/kit/Tabs";
import {
  DndContext,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
  type DragMoveEvent,
  type DragStartEvent,
} from "@dnd-kit/core";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState, type RefObject } from "react";
import { useNavigate, useParams } from "react-router";
import { v7 as uuid } from "uuid";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useKeys } from "@/keys/react";
import { OutOfBounds } from "@/app/NotFound";
import { useWhere } from "@/app/where";
import { Title } from "@/kit/Title";
import { HereToo } from "@/parts/HereToo";
import { Needs } from "@/parts/Needs";
import { Empty, Loading, Trouble } from "@/kit/States";
import { clock, weekdayDate } from "@/parts/words";
import { usePresence } from "@/sync/presence";
import { Clash } from "./Clash";
import { DrawnPaper } from "./DrawnPaper";
import { DrillList } from "./DrillList";
import { Lanes } from "./Lanes";
import { OwnPeriod } from "./OwnPeriod";
import { PocketCard } from "./PocketCard";
import { PrintSheet } from "./PrintSheet";
import { Returning } from "./Returning";
import { RotationWindow } from "./RotationWindow";
import { Sets } from "./Sets";
import { Suggested } from "./Suggested";
import { WeekLoad } from "./WeekLoad";
import { firstRoom, move, resize, type Placed } from "./arrange";
import { usePlan } from "./usePlan";

/** One practice: the master script, and the coach's own period under it. */
export function Practice() {
  const { id = "" } = useParams();
  const { group, week } = useWhere();
  const practice = useQuery(queries.practice(id, group));
  const library = useQuery(queries.library(group));
  const error = practice.error ?? library.error;
  if (error && !practice.data) return <Trouble error={error} again={() => void practice.refetch()} />;
  if (!practice.data || !library.data) return <Loading what="the practice" />;
  const its = practice.data.week;
  if (its !== week)
    return (
      <OutOfBounds
        ways={<ButtonLink to={`/g/${group}/w/${its}/practice/${id}`}>Open it in week {its}</ButtonLink>}
      >
        This practice is in week {its}, not in week {week}.
      </OutOfBounds>
    );
  return <Sheet key={`${id}/${group}`} practice={practice.data} library={library.data} group={group} />;
}

/** What goes to paper. */
type Paper = "practice" | "pocket" | "drawn";

const printNow = () => window.print();

interface SheetProps {
  practice: Schemas["Practice"];
  library: Schemas["Library"];
  group: string;
}

function Sheet({ practice, library, group }: SheetProps) {
  const short = useShorts();
  const own = practice.periods.filter((p) => p.own);
  const [chosen, setChosen] = useState(own[0]?.id);
  const period = own.find((p) => p.id === chosen) ?? own[0];
  const p = practice.practice;
  const others = usePresence(`practice/${p.id}`, period?.id);
  const navigate = useNavigate();
  const { base, week } = useWhere();
  const frame = useQuery(queries.frame());
  const today = useQuery(queries.today(group, week));
  const name = frame.data?.groups.find((g) => g.key === group)?.name ?? group;
  const [paper, setPaper] = useState<Paper>("practice");
  const [asked, setAsked] = useState(0); // prints that were asked for
  const print = (which: Paper) => {
    setPaper(which);
    setAsked((n) => n + 1);
  };
  // What needs nothing more goes to paper once it is drawn.
  useEffect(() => {
    if (asked > 0 && paper !== "drawn") window.print();
  }, [asked, paper]);
  useKeys([
    { keys: "p", does: "Print the practice on one page", run: () => print("practice") },
    { keys: "k", does: "Print the pocket card", run: () => print("pocket") },
    { keys: "e", does: "The master script", run: () => void navigate(`${base}/practice/${p.id}/script`) },
  ]);
  return (
    <>
      <div className="screen-only">
        <div className="mb-1 flex flex-wrap items-end gap-3">
          <div>
            <p className="label">
              {[
                practice.theme,
                `${clock(p.start_minute)}–${clock(p.start_minute + p.minutes)}`,
                `${p.minutes} minutes`,
                practice.place,
                practice.heat[0]?.index !== undefined && `heat index ${practice.heat[0].index}`,
              ]
                .filter(Boolean)
                .join(" · ")}
            </p>
            <Title page={`${p.title}, ${weekdayDate(p.date)}`}>
              {p.title}, {weekdayDate(p.date)}
            </Title>
            <HereToo
              others={others}
              name={(id) => {
                const x = practice.periods.find((e) => e.id === id);
                return x
                  ? `${x.name} ${x.groups.length < 3 ? x.groups.map(short).join(" ") : ""}`.trim()
                  : "";
              }}
            />
          </div>
          <span className="ml-auto flex flex-wrap gap-1.5">
            <ButtonLink to={`${base}/practice/${p.id}/script`}>
              Script <span className="kbd">e</span>
            </ButtonLink>
            <Button onClick={() => print("practice")}>
              Print <span className="kbd">p</span>
            </Button>
            <Button onClick={() => print("pocket")}>
              Pocket card <span className="kbd">k</span>
            </Button>
            <Button onClick={() => print("drawn")}>With drawings</Button>
          </span>
        </div>
        <Lanes
          practice={practice}
          group={group}
          chosen={period?.id}
          onChoose={own.length > 1 ? setChosen : undefined}
        />
        <div className="mt-3">
          <Returning practice={practice} />
          {period ? (
            <Planner key={period.id} {...{ practice, period, library, group }} />
          ) : (
            <Empty>The master script gives this group no period of its own in this practice.</Empty>
          )}
        </div>
      </div>
      {paper === "practice" && <PrintSheet practice={practice} library={library} group={group} />}
      {paper === "pocket" && (
        <PocketCard {...{ practice, library, group, name }} needs={today.data?.needs ?? []} />
      )}
      {paper === "drawn" && <DrawnPaper key={asked} {...{ practice, library, name }} onReady={printNow} />}
    </>
  );
}

function Planner({ practice, period, library, group }: SheetProps & { period: Schemas["Period"] }) {
  const { week } = useWhere();
  const plan = usePlan(practice, period, group);
  const today = useQuery(queries.today(group, week));
  const drills = useMemo(() => new Map(library.drills.map((d) => [d.key, d])), [library]);
  const [chosen, setChosen] = useState<string>();
  const [rotation, setRotation] = useState<string>();
  const [tab, setTab] = useState("suggested");
  const [searching, setSearching] = useState(false); // the keyboard is asked for in the list of drills
  const [full, setFull] = useState("");

  const add = (drill: Schemas["Drill"]) => {
    const room = firstRoom(plan.drills, period.minutes, drill.minutes);
    if (!room) {
      setFull(`The ${period.minutes} minutes are full. Shorten a drill and ${drill.name} fits.`);
      return;
    }
    setFull("");
    const id = uuid();
    plan.change([
      ...plan.drills,
      { id, drill: drill.key, technique: drill.technique, lanes: drill.lanes, ...room },
    ]);
    setChosen(id);
    setSearching(false);
    // Back to the plan: the next keys are for the drill that was added.
    if (document.activeElement instanceof HTMLInputElement) document.activeElement.blur();
  };
  // One after the other into what room there is: one step of undo.
  const putSet = (set: Schemas["SetDrill"][]) => {
    const next = [...plan.drills];
    let left = 0;
    for (const s of set) {
      const room = firstRoom(next, period.minutes, s.minutes);
      const drill = drills.get(s.drill);
      if (!room || !drill || room.minutes < Math.min(s.minutes, drill.min_minutes)) {
        left++;
        continue;
      }
      next.push({
        id: uuid(),
        drill: s.drill,
        technique: s.technique ?? drill.technique,
        lanes: s.lanes,
        ...room,
      });
    }
    plan.change(next);
    return left;
  };
  const openDrills = () => {
    setTab("drills");
    setSearching(true);
  };
  useKeys(practice.editable ? [{ keys: "d", does: "Add a drill", run: openDrills }] : []);
  const track = useRef<HTMLDivElement>(null);
  const drag = useDrag(plan, period, drills, setChosen, track);
  return (
    <DndContext {...drag}>
      {plan.clash && <Clash clash={plan.clash} plan={plan} drills={drills} />}
      <div className="grid items-start gap-3 grid-cols-[minmax(0,1fr)] lg:grid-cols-[minmax(0,1fr)_330px]">
        <OwnPeriod
          {...{ practice, period, drills, plan, chosen }}
          onChoose={setChosen}
          onRotation={setRotation}
          onAdd={openDrills}
          track={track}
        />
        <section className="sheet min-w-0 p-3" aria-label="What to put in">
          {full && (
            <p role="alert" className="say mb-2 text-fault">
              {full}
            </p>
          )}
          <Tabs
            label="What to put in"
            value={tab}
            onChange={setTab}
            tabs={[
              {
                value: "suggested",
                name: "Suggested",
                content: (
                  <Suggested
                    group={group}
                    period={period.id}
                    editable={practice.editable}
                    placed={new Set(plan.drills.map((d) => d.drill))}
                    onAdd={(key) => {
                      const drill = drills.get(key);
                      if (drill) add(drill);
                    }}
                  />
                ),
              },
              {
                value: "needs",
                name: "What hurts most",
                content:
                  today.data && today.data.needs.length > 0 ? (
                    <Needs
                      needs={today.data.needs}
                      editable={practice.editable}
                      onPut={plan.adopt}
                      onBack={plan.putBack}
                    />
                  ) : (
                    <p className="say text-soft">No faults on record in the last four weeks.</p>
                  ),
              },
              {
                value: "drills",
                name: (
                  <>
                    Drills <span className="kbd">d</span>
                  </>
                ),
                content: (
                  <>
                    <DrillList
                      drills={library.drills}
                      onAdd={add}
                      editable={practice.editable}
                      searching={searching}
                    />
                  </>
                ),
              },
              {
                value: "sets",
                name: "Sets",
                content: (
                  <Sets
                    group={group}
                    editable={practice.editable}
                    plan={plan.drills}
                    drills={drills}
                    onPut={putSet}
                  />
                ),
              },
            ]}
          />
        </section>
      </div>
      <WeekLoad group={group} week={week} />
      <RotationWindow
        practice={practice.practice.id}
        drill={rotation}
        version={period.version}
        onClose={() => setRotation(undefined)}
      />
    </DndContext>
  );
}

/** Dragging: a drill's body moves it, its edge sizes it, a drill of the list is laid in. */
function useDrag(
  plan: ReturnType<typeof usePlan>,
  period: Schemas["Period"],
  drills: Map<string, Schemas["Drill"]>,
  choose: (id: string) => void,
  track: RefObject<HTMLDivElement | null>,
) {
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const before = useRef<Placed[]>([]);
  const fresh = useRef("");
  const moved = useRef(false);
  const perMinute = () => (track.current?.clientWidth ?? 1) / period.minutes;
  // Where the hand is. The drag itself is told after the screen was drawn, so that on a slow machine what is let go
  // at once would stay where it was drawn last.
  const hand = useRef({ from: 0, at: 0 });
  const moves = (e: PointerEvent) => (hand.current.at = e.clientX);
  const hear = useRef<() => void>(undefined);
  const gone = () => hand.current.at - hand.current.from;
  useEffect(() => () => hear.current?.(), []);

  const follow = (e: DragMoveEvent | DragEndEvent) => {
    const [kind = "", id = ""] = String(e.active.id).split(":");
    const minutes = Math.round(gone() / perMinute());
    const was = before.current.find((d) => d.id === id);
    let next: Placed[] | undefined;
    if (kind === "move" && was) next = move(before.current, id, was.start + minutes, period.minutes);
    if (kind === "size" && was) next = resize(before.current, id, was.minutes + minutes, period.minutes);
    if (kind === "lib") next = layIn(e, drills.get(id));
    if (next) {
      // One drag is one step: what undo takes back is how it was before.
      plan.change(next, !moved.current);
      moved.current = true;
    }
  };
  const layIn = (e: DragMoveEvent | DragEndEvent, drill?: Schemas["Drill"]): Placed[] | undefined => {
    const there = track.current?.getBoundingClientRect();
    const at = e.active.rect.current.translated;
    if (!drill || !there || !at) return undefined;
    const inside = at.top < there.bottom + 20 && at.bottom > there.top - 20 && at.left < there.right;
    const used = before.current.reduce((sum, d) => sum + d.minutes, 0);
    const minutes = Math.min(drill.minutes, period.minutes - used);
    if (!inside || minutes < 1) return moved.current ? before.current : undefined;
    const d = {
      id: fresh.current,
      drill: drill.key,
      technique: drill.technique,
      minutes,
      lanes: drill.lanes,
      start: 0,
    };
    return move(
      [...before.current, d],
      d.id,
      Math.round((at.left - e.delta.x + gone() - there.left) / perMinute()),
      period.minutes,
    );
  };
  return {
    sensors,
    autoScroll: false,
    onDragStart: (e: DragStartEvent) => {
      hand.current.from = hand.current.at = (e.activatorEvent as PointerEvent).clientX;
      for (const type of ["pointermove", "pointerup"] as const) window.addEventListener(type, moves, true);
      hear.current = () => {
        for (const type of ["pointermove", "pointerup"] as const)
          window.removeEventListener(type, moves, true);
      };
      before.current = plan.drills;
      fresh.current = uuid();
      moved.current = false;
    },
    onDragMove: follow,
    onDragEnd: (e: DragEndEvent) => {
      hear.current?.();
      follow(e);
      const [kind, id] = String(e.active.id).split(":");
      choose(kind === "lib" ? fresh.current : (id ?? ""));
    },
    onDragCancel: () => {
      hear.current?.();
      if (moved.current) plan.change(before.current, false);
    },
  };
}
