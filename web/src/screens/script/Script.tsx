import { useShorts } from "@/parts/shorts";
import { DndContext } from "@dnd-kit/core";
import { useQuery } from "@tanstack/react-query";
import { useMemo, useRef, useState } from "react";
import { useParams } from "react-router";
import { v7 as uuid } from "uuid";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { OutOfBounds } from "@/app/NotFound";
import { useWhere } from "@/app/where";
import { useCore } from "@/core";
import { Button, ButtonLink, FileLink } from "@/kit/Button";
import { Loading, Trouble } from "@/kit/States";
import { Tabs } from "@/kit/Tabs";
import { Title } from "@/kit/Title";
import { ContactBars } from "@/parts/ContactBars";
import type { Unsaved } from "@/sync/sheet";
import { HereToo } from "@/parts/HereToo";
import { AllNotSaved } from "@/parts/NotSaved";
import { clock, weekdayDate } from "@/parts/words";
import { usePresence } from "@/sync/presence";
import { UndoButtons } from "@/parts/UndoButtons";
import { Checks } from "./Checks";
import { FreeTogether } from "./FreeTogether";
import { Heat } from "./Heat";
import { LateWindow } from "./LateWindow";
import { Minutes } from "./Minutes";
import { Acts, Panel } from "./Panel";
import * as P from "./periods";
import { actsOf, useScriptKeys } from "./scriptKeys";
import { TextWindow } from "./TextWindow";
import { useScriptDrag } from "./useScriptDrag";
import { WallScript } from "./WallScript";
import { useScript, type Editing } from "./useScript";

/** The master script of a practice, to be written: by pointer, by keys, or as text. */
export function Script() {
  const { id = "" } = useParams();
  const { group, week } = useWhere();
  const practice = useQuery(queries.practice(id, group));
  const frame = useQuery(queries.frame());
  if (practice.error && !practice.data)
    return <Trouble error={practice.error} again={() => void practice.refetch()} />;
  if (!practice.data || !frame.data) return <Loading what="the script" />;
  const its = practice.data.week;
  if (its !== week)
    return (
      <OutOfBounds
        ways={
          <ButtonLink to={`/g/${group}/w/${its}/practice/${id}/script`}>Open it in week {its}</ButtonLink>
        }
      >
        This practice is in week {its}, not in week {week}.
      </OutOfBounds>
    );
  return <Sheet key={id} practice={practice.data} groups={frame.data.groups} />;
}

interface SheetProps {
  practice: Schemas["Practice"];
  groups: Schemas["GroupRef"][];
}

function Sheet({ practice, groups }: SheetProps) {
  const { base } = useWhere();
  const editing = useScript(practice);
  const core = useCore(true);
  const [dragged, setDragged] = useState<P.Script>();
  const [chosen, setChosen] = useState<string>();
  const [tab, setTab] = useState("checks");
  const [typing, setTyping] = useState(false);
  const [late, setLate] = useState(false);
  const script = dragged ?? editing.items;
  const head = practice.settings.editable;
  const mine = useMay(practice, groups, editing.items);
  const lanes = P.lanesOf(practice, groups, script);
  const sheet = useMemo(() => P.sheetOf(practice, groups, script), [practice, groups, script]);
  const look = useMemo(() => core?.look(sheet) ?? practice.look, [core, sheet, practice.look]);
  const mends = useMemo(
    () => (core && head && !dragged ? (f: Schemas["Finding"]) => core.mends(sheet, f) : undefined),
    [core, head, dragged, sheet],
  );
  const track = useRef<HTMLDivElement>(null);
  const drag = useScriptDrag(editing, practice.practice.minutes, track, setDragged, setChosen);
  const lay = (start: number, minutes: number, keys: string[]) => {
    const ours = head ? keys : keys.filter((k) => groups.find((g) => g.key === k)?.mine);
    if (ours.length === 0) return;
    const id = uuid();
    editing.change(new Map(editing.items).set(id, P.fresh(start, minutes, ours)));
    setChosen(id);
  };
  const layDrill = (w: Schemas["FreeWindow"], d: Schemas["DrillTogether"]) => {
    const id = uuid();
    const period = P.fresh(w.start, w.end - w.start, [d.of, d.with]);
    const { drill, technique, minutes, lanes, of } = d;
    editing.add(id, { ...period, name: d.name.slice(0, 80), contact: d.contact }, [
      { id: uuid(), group: of, drill, technique, start: 0, minutes, lanes },
    ]);
    setChosen(id);
  };
  const mayLay = head || groups.some((g) => g.mine);
  const show = (f: Schemas["Finding"]) => f.periods[0] && setChosen(f.periods[0]);
  const p = practice.practice;
  const others = usePresence(`practice/${p.id}`, chosen);
  const period = chosen ? script.get(chosen) : undefined;
  useScriptKeys({
    editing,
    practice,
    groups,
    chosen,
    choose: setChosen,
    mine,
    core,
    openText: () => setTyping(true),
    openLate: () => setLate(true),
    lay: mayLay ? lay : undefined,
  });
  const take = (periods: Schemas["ScriptPeriod"][]) =>
    editing.change(new Map(periods.map((x) => [x.id, P.written(x)])));
  return (
    <DndContext {...drag}>
      <WallScript {...{ practice, script }} groups={lanes} />
      <div className="screen-only">
        <div className="mb-1 flex flex-wrap items-end gap-2">
          <div>
            <p className="label">
              {[
                practice.theme,
                `${clock(p.start_minute)}–${clock(p.start_minute + p.minutes)}`,
                practice.place,
              ]
                .filter(Boolean)
                .join(" · ")}
            </p>
            <Title page={`Script of ${p.title}, ${weekdayDate(p.date)}`}>
              Script of {p.title}, {weekdayDate(p.date)}
            </Title>
            <HereToo others={others} name={(id) => script.get(id)?.name ?? ""} />
          </div>
          <span className="ml-auto flex flex-wrap gap-1.5">
            <UndoButtons steps={editing} />
            {head && (
              <>
                <Button off={!core} onClick={() => setTyping(true)}>
                  As text <span className="kbd">t</span>
                </Button>
                <Button off={!core} onClick={() => setLate(true)}>
                  It runs late <span className="kbd">l</span>
                </Button>
              </>
            )}
            <Heat practice={practice} />
            <Button onClick={() => window.print()}>
              Print for the wall <span className="kbd">p</span>
            </Button>
            <FileLink href={`/api/v1/practices/${p.id}/script?format=csv`}>CSV</FileLink>
            <FileLink href={`/api/v1/practices/${p.id}/script?format=xlsx`}>XLSX</FileLink>
            <ButtonLink to={`${base}/practice/settings`}>Places and limits</ButtonLink>
            <ButtonLink to={`${base}/practice/${p.id}`}>Own period</ButtonLink>
          </span>
        </div>
        <AllNotSaved editing={editing} says={(u) => <Versions unsaved={u} />} />
        <Minutes
          {...{ practice, script, mine, chosen, track, others }}
          groups={lanes}
          findings={look.findings}
          onChoose={setChosen}
          onLay={mayLay ? lay : undefined}
        />
        <div className="mt-3 grid items-start gap-3 grid-cols-[minmax(0,1fr)] lg:grid-cols-[330px_minmax(0,1fr)]">
          <section className="sheet min-w-0 p-3" aria-label="The chosen period">
            {chosen && period ? (
              <Panel
                key={chosen}
                {...{ period, practice, groups }}
                editable={mine(chosen)}
                onChange={(change) => editing.change(P.changed(editing.items, chosen, change))}
              >
                <ChosenActs {...{ editing, chosen, groups, setChosen, mine }} />
              </Panel>
            ) : (
              <Nothing mayLay={mayLay} lay={() => layFirst(look, practice, lanes, lay)} />
            )}
          </section>
          <section className="sheet min-w-0 p-3" aria-label="What to look at">
            <Tabs
              label="What to look at"
              value={tab}
              onChange={setTab}
              tabs={[
                {
                  value: "checks",
                  name: `Checks (${look.findings.length})`,
                  content: <Checks look={look} onShow={show} mends={mends} onMend={(m) => take(m.periods)} />,
                },
                {
                  value: "free",
                  name: "Free together",
                  content: (
                    <FreeTogether
                      {...{ look, practice, groups }}
                      meanwhile={(w) => meanwhile(script, w)}
                      onLay={head ? (w) => lay(w.start, w.end - w.start, w.groups) : undefined}
                      onDrill={head ? layDrill : undefined}
                    />
                  ),
                },
                {
                  value: "contact",
                  name: "Contact",
                  content: <Contact {...{ look, practice, groups }} />,
                },
              ]}
            />
          </section>
        </div>
      </div>
      {core && (
        <>
          <TextWindow
            core={core}
            sheet={sheet}
            open={typing}
            onClose={() => setTyping(false)}
            onTake={take}
          />
          <LateWindow
            {...{ core, sheet, groups }}
            practice={p.id}
            from={period?.start ?? 0}
            open={late}
            onClose={() => setLate(false)}
            onTake={take}
          />
        </>
      )}
    </DndContext>
  );
}

/** Which periods the coach may change: what the server says of those it has, his own of those that are new. */
function useMay(practice: Schemas["Practice"], groups: Schemas["GroupRef"][], script: P.Script) {
  return (id: string) => {
    if (practice.settings.editable) return true;
    const known = practice.periods.find((p) => p.id === id);
    if (known) return known.editable;
    const p = script.get(id);
    return !!p && p.groups.every((k) => groups.find((g) => g.key === k)?.mine);
  };
}

const meanwhile = (script: P.Script, w: Schemas["FreeWindow"]) => {
  const names = [...script.values()]
    .filter((p) => p.start < w.end && w.start < p.start + p.minutes)
    .map((p) => p.name);
  return names.length > 0 ? ` while ${[...new Set(names)].join(" and ")} goes on` : "";
};

function Nothing({ mayLay, lay }: { mayLay: boolean; lay: () => void }) {
  return (
    <div className="grid gap-2">
      <p className="say text-small text-soft">
        Press a period to see and change it.
        {mayLay && (
          <span className="pointer-coarse:hidden"> Draw over free minutes to put a new one there.</span>
        )}
      </p>
      {mayLay && (
        <span>
          <Button onClick={lay}>
            New period <span className="kbd">n</span>
          </Button>
        </span>
      )}
    </div>
  );
}

/** Lays a new period into the first minutes in which groups are free together, else at the end. */
function layFirst(
  look: Schemas["ScriptLook"],
  practice: Schemas["Practice"],
  groups: Schemas["GroupRef"][],
  lay: (start: number, minutes: number, groups: string[]) => void,
) {
  const w = look.free.find((x) => x.end - x.start >= 5);
  if (w) lay(w.start, Math.min(10, w.end - w.start), w.groups);
  else
    lay(
      Math.max(0, practice.practice.minutes - 10),
      10,
      groups.map((g) => g.key),
    );
}

function ChosenActs({
  editing,
  chosen,
  groups,
  setChosen,
  mine,
}: {
  editing: Editing;
  chosen: string;
  groups: Schemas["GroupRef"][];
  setChosen: (id: string | undefined) => void;
  mine: (id: string) => boolean;
}) {
  const acts = actsOf(editing, chosen, groups, setChosen);
  const p = editing.items.get(chosen);
  if (!p) return null;
  const joinable = [...editing.items]
    .filter(
      ([id, x]) =>
        id !== chosen && mine(id) && x.start < p.start + p.minutes && p.start < x.start + x.minutes,
    )
    .map(([id, x]) => ({
      id,
      name: `${x.name}, ${groups
        .filter((g) => x.groups.includes(g.key))
        .map((g) => g.short)
        .join(" ")}`,
    }));
  return (
    <Acts
      joinable={joinable}
      onJoin={acts.join}
      onSplit={acts.split}
      onCopy={acts.copy}
      onOut={acts.out}
      canSplit={p.minutes > 1}
    />
  );
}

function Contact({ look, practice, groups }: SheetProps & { look: Schemas["ScriptLook"] }) {
  const most = practice.settings.limits.contact_minutes;
  return (
    <>
      <p className="say mb-2 text-small text-soft">
        Minutes of thud and live in this practice{most !== undefined && `; the club's limit is ${most}`}.
        Check your league&apos;s rule.
      </p>
      <ContactBars groups={groups} minutes={look.contact} most={most} />
    </>
  );
}

const inWords = (short: (key: string) => string, p?: P.Period | null) =>
  p
    ? `${p.name}, minute ${p.start}–${p.start + p.minutes}, ${p.groups.map(short).join(" ")}, ${p.contact}`
    : "taken out";

/** A period that is not saved, in both versions. */
function Versions({ unsaved: { trouble, mine } }: { unsaved: Unsaved<P.Period> }) {
  const short = useShorts();
  return (
    <>
      <p className="say text-small">Yours: {inWords(short, mine)}.</p>
      {trouble.why === "conflict" && (
        <p className="say text-small">
          Theirs: {inWords(short, (trouble.theirs as Schemas["SavedPeriod"]).period)}.
        </p>
      )}
    </>
  );
}
