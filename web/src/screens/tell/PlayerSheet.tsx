import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link, useParams } from "react-router";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useWhere } from "@/app/where";
import { useKeys } from "@/keys/react";
import { Button, ButtonLink } from "@/kit/Button";
import { Field } from "@/kit/Field";
import { Select } from "@/kit/Select";
import { Loading, Trouble } from "@/kit/States";
import { Title } from "@/kit/Title";
import { AllNotSaved } from "@/parts/NotSaved";
import { UndoButtons } from "@/parts/UndoButtons";
import { undoKeys } from "@/parts/undoKeys";
import { weekdayDate } from "@/parts/words";
import { Deck, usual } from "@/screens/film/picture/deck";
import { shotsOf } from "@/screens/film/picture/frames";
import { Picture } from "@/screens/film/picture/Picture";
import { useDrawings } from "@/screens/film/picture/useDrawings";
import { situation } from "@/screens/film/plays";
import { useSheet, type Of } from "@/sync/sheet";
import { inputOf, shown } from "./content";
import { onScreen, useFullScreen } from "./fullScreen";
import { SheetPaper } from "./SheetPaper";

type Input = Schemas["FeedbackInput"];
type Point = Schemas["Point"];

const feedbackOf = (game: string, group: string): Of<Input> => ({
  idOf: (key) => (key.startsWith(`feedback/${game}/${group}/`) ? key.split("/")[3] : undefined),
  keyOf: (id) => `feedback/${game}/${group}/${id}`,
  read: (_key, content) => content as Input,
  write: (_id, f) => f ?? null,
  alike: (a, b) => JSON.stringify(a) === JSON.stringify(b),
  says: () => "What a player is told",
});

/** What a player is told of a game: written on in seconds, shown to him, printed on one page. */
export function PlayerSheet() {
  const { game = "", player = "" } = useParams();
  const { group } = useWhere();
  const sheet = useQuery(queries.feedback(game, group, player));
  const footage = useQuery(queries.gameFootage(game));
  const list = useQuery(queries.feedbacks(game, group));
  if (sheet.error && !sheet.data) return <Trouble error={sheet.error} again={() => void sheet.refetch()} />;
  if (!sheet.data || footage.isPending) return <Loading what="the sheet" />;
  return (
    <Sheet
      key={`${game}/${player}`}
      of={sheet.data}
      footage={footage.data}
      players={(list.data?.players ?? []).map((p) => p.player_id)}
    />
  );
}

/** What is seen: a play, or one that was wrong beside one that was right. */
type Shown = { play: string } | { wrong: string; right: string };
const sameShown = (a: Shown | undefined, b: Shown) => JSON.stringify(a) === JSON.stringify(b);

interface SheetProps {
  of: Schemas["Feedback"];
  footage?: Schemas["Footage"];
  players: string[];
}

function Sheet({ of, footage, players }: SheetProps) {
  const { base, group } = useWhere();
  const { part, on, toggle } = useFullScreen<HTMLDivElement>();
  const id = of.player.id;
  const game = of.game.id;
  const kind = useMemo(() => feedbackOf(game, group), [game, group]);
  const server = useMemo(() => new Map([[id, inputOf(of)]]), [id, of]);
  const versions = useMemo(() => new Map([[id, of.version]]), [id, of.version]);
  const editing = useSheet(server, versions, kind);
  const mine = editing.items.get(id) ?? inputOf(of);
  const s = shown(of, mine);
  const put = (next: Input) => editing.change(new Map(editing.items).set(id, next));
  const filmed = useMemo(() => new Set(footage?.clips.map((c) => c.play_id)), [footage]);
  const points: Point[] = [...(s.best ? [s.best] : []), ...s.fixes];
  const all: Shown[] = points.flatMap((p): Shown[] => [
    ...p.plays.map((play) => ({ play })),
    ...(p.pair ? [{ wrong: p.pair.wrong, right: p.pair.right }] : []),
  ]);
  const [at, setAt] = useState<Shown | undefined>(
    () => all.find((x) => filmed.has("play" in x ? x.play : x.wrong)) ?? all[0],
  );
  const [turn, setTurn] = useState(0);
  const [habits] = useState(usual);
  const deck = useMemo(() => {
    if (!at || !footage) return undefined;
    if ("play" in at) {
      const shots = shotsOf(footage, (c) => c.play_id === at.play);
      return shots.length > 0 ? new Deck(shots, habits) : undefined;
    }
    // One view of each, kept in step at the snap.
    const [wrong] = shotsOf(footage, (c) => c.play_id === at.wrong);
    const right = shotsOf(footage, (c) => c.play_id === at.right);
    const other = right.find((r) => r.clip.view === wrong?.clip.view) ?? right[0];
    return wrong && other ? new Deck([wrong, other], { ...usual(), both: true }) : undefined;
    // A turn asks for it anew.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [at, footage, habits, turn]);
  const drawings = useDrawings(footage);
  const step = (by: number) => {
    const i = all.findIndex((x) => sameShown(at, x));
    const next = all[i + by];
    if (next) setAt(next);
  };
  const near = (by: number) => players[players.indexOf(id) + by];
  useKeys([
    { keys: "Space", does: "Next play of the sheet", run: () => step(1) },
    { keys: "Shift+Space", does: "Play before", run: () => step(-1) },
    { keys: "Shift+f", does: "Full screen, or no longer", run: toggle },
    ...(of.editable ? undoKeys(editing) : []),
  ]);
  const numbers = new Map(s.plays.map((p) => [p.id, p.play]));
  const name = (play: string) => `Play ${numbers.get(play)?.number ?? "?"}`;
  const now = at && ("play" in at ? at.play : at.wrong);
  const seen = now ? s.plays.find((p) => p.id === now) : undefined;
  return (
    <>
      <div className="screen-only">
        <div className="mb-2 flex flex-wrap items-end gap-2">
          <div className="min-w-0">
            <p className="label">
              {of.game.opponent}, {weekdayDate(of.game.date)} ·{" "}
              {of.proposed && mine === server.get(id)
                ? "as proposed from the marks"
                : `written on${of.by ? ` by ${of.by}` : ""}`}
            </p>
            <Title page={`Sheet: ${of.player.jersey} ${of.player.last_name}`}>
              {of.player.jersey} {of.player.first_name} {of.player.last_name}
            </Title>
          </div>
          <span className="ml-auto flex flex-wrap gap-1.5">
            {of.editable && <UndoButtons steps={editing} />}
            {of.editable && !of.proposed && (
              <Button
                kind="quiet"
                onClick={() => {
                  const next = new Map(editing.items);
                  next.delete(id);
                  editing.change(next);
                }}
              >
                As proposed
              </Button>
            )}
            <Button onClick={() => window.print()}>Print</Button>
            <ButtonLink to={`${base}/film/${game}/sheets`}>All sheets</ButtonLink>
            {near(1) && (
              <ButtonLink kind="main" to={`${base}/film/${game}/sheets/${near(1)}`}>
                Next player
              </ButtonLink>
            )}
          </span>
        </div>
        <AllNotSaved editing={editing} />
        <div className="grid gap-3 lg:grid-cols-[min(56%,72vh)_minmax(0,1fr)]">
          <div
            ref={part}
            className={on ? "grid content-center bg-rail p-3 text-rail-ink" : "min-w-0 self-start"}
          >
            <div className={on ? onScreen : undefined}>
              {deck ? (
                <Picture deck={deck} drawings={drawings} onAgain={() => setTurn((n) => n + 1)} />
              ) : (
                <section
                  aria-label="The picture"
                  className="grid aspect-video place-items-center border border-rule bg-rail p-6 text-rail-ink"
                >
                  <p className="say">{at ? "This play is not on film." : "Choose a play to see it."}</p>
                </section>
              )}
              <p
                className="say mt-1 flex flex-wrap items-baseline gap-x-3"
                role="status"
                aria-label="What is seen"
              >
                {seen && (
                  <>
                    <b>
                      {at && "play" in at
                        ? name(at.play)
                        : `${name(now!)}, wrong, beside ${numbers.get(at && "right" in at ? at.right : "")?.number ?? "?"}, right`}
                    </b>
                    <span className="text-small">
                      {[situation(seen.play), seen.play.call, seen.play.front, seen.says]
                        .filter(Boolean)
                        .join(" · ")}
                    </span>
                  </>
                )}
                <Button kind={on ? "film" : "quiet"} className="ml-auto" pressed={on} onClick={toggle}>
                  Full screen <span className="kbd max-md:hidden">⇧F</span>
                </Button>
              </p>
            </div>
          </div>
          <div className="grid content-start gap-3">
            {s.best ? (
              <PointCard
                kind="Done best"
                point={s.best}
                {...{ s, at, name, filmed, editable: of.editable, onShow: setAt }}
                onChange={(p) => put({ ...mine, best: p })}
              />
            ) : (
              <p className="say sheet p-3 text-soft">Nothing of his was graded clean in this game.</p>
            )}
            {s.fixes.map((f, i) => (
              <PointCard
                key={`${f.technique} ${f.fault}`}
                kind={`To fix${s.fixes.length > 1 ? `, ${i + 1}` : ""}`}
                point={f}
                {...{ s, at, name, filmed, editable: of.editable, onShow: setAt }}
                onChange={(p) =>
                  put({ ...mine, fixes: p ? mine.fixes.with(i, p) : mine.fixes.toSpliced(i, 1) })
                }
              />
            ))}
            {s.fixes.length === 0 && (
              <p className="say sheet p-3 text-soft">No fault of his own was named.</p>
            )}
            <section className="sheet p-3">
              <Words
                label="A word to him"
                value={mine.note}
                off={!of.editable}
                onSay={(note) => put({ ...mine, note })}
              />
              <p className="say mt-2 text-small text-soft">
                <Link className="textual" to={`${base}/players/${id}`}>
                  His season: ladders, trend, marks
                </Link>
              </p>
            </section>
          </div>
        </div>
      </div>
      <SheetPaper sheet={s} />
    </>
  );
}

interface CardProps {
  kind: string;
  point: Point;
  s: Schemas["Feedback"];
  at?: Shown;
  filmed: ReadonlySet<string | undefined>;
  editable: boolean;
  name: (play: string) => string;
  onShow: (what: Shown) => void;
  onChange: (p: Schemas["PointInput"] | undefined) => void;
}

function PointCard({ kind, point: p, s, at, filmed, editable, name, onShow, onChange }: CardProps) {
  const input = (part: Partial<Schemas["PointInput"]>): Schemas["PointInput"] => ({
    technique: p.technique,
    fault: p.fault,
    text: p.text,
    plays: p.plays,
    pair: p.pair,
    drill: p.drill_key,
    ...part,
  });
  const rest = s.plays.filter((x) => x.his && !p.plays.includes(x.id));
  const pair = p.pair && { wrong: p.pair.wrong, right: p.pair.right };
  const mate = p.pair && p.pair.player_id !== s.player.id;
  return (
    <section className="sheet grid gap-2 p-3" aria-label={`${kind}: ${p.title}`}>
      <span className="flex flex-wrap items-baseline gap-x-3">
        <span className="label">{kind}</span>
        {p.safety && <span className="text-label font-bold text-fault">SAFETY</span>}
        <span className="ml-auto say text-small text-soft">
          {p.fault ? `${p.n} of ${p.of}` : `clean on ${p.n} of ${p.of}`}
        </span>
      </span>
      <h2 className="head">
        {p.title}
        {p.fault && <span className="say font-normal text-soft"> at {p.technique_name.toLowerCase()}</span>}
      </h2>
      <Words label="What to say" value={p.text} off={!editable} onSay={(text) => onChange(input({ text }))} />
      <span className="flex flex-wrap items-center gap-1.5">
        {p.plays.map((play) => (
          <span key={play} className="inline-flex">
            <Button kind="quiet" pressed={sameShown(at, { play })} onClick={() => onShow({ play })}>
              {name(play)}
              {!filmed.has(play) && <span className="sr-only">, not on film</span>}
            </Button>
            {editable && (
              <Button
                kind="text"
                aria-label={`Leave ${name(play)} out`}
                onClick={() => onChange(input({ plays: p.plays.filter((x) => x !== play) }))}
              >
                ×
              </Button>
            )}
          </span>
        ))}
        {pair && (
          <Button kind="quiet" pressed={sameShown(at, pair)} onClick={() => onShow(pair)}>
            {name(pair.wrong)} beside {name(pair.right).slice("Play ".length)}
            {mate && " of a teammate"}
          </Button>
        )}
        {editable && p.plays.length < 3 && rest.length > 0 && (
          <Select
            label={`A play for ${p.title}`}
            value=""
            options={[
              { value: "", name: "Another play" },
              ...rest.map((x) => ({ value: x.id, name: `${x.play.number}: ${x.says ?? ""}`.slice(0, 60) })),
            ]}
            onChange={(play) => play && onChange(input({ plays: [...p.plays, play] }))}
          />
        )}
      </span>
      {(p.drill ?? p.stage) && (
        <p className="say text-small">
          {p.drill && (
            <>
              <span className="label">Drill</span> {p.drill}
              {p.self_check && <span className="text-soft">: {p.self_check}</span>}{" "}
            </>
          )}
          {p.stage && (
            <>
              <span className="label">Stage</span> {p.stage}
            </>
          )}
        </p>
      )}
      {editable && p.fault && (
        <span>
          <Button kind="text" onClick={() => onChange(undefined)}>
            Leave it out
          </Button>
        </span>
      )}
    </section>
  );
}

/** A few lines of text, said as a whole when they are left. */
function Words({
  label,
  value,
  off,
  onSay,
}: {
  label: string;
  value: string;
  off?: boolean;
  onSay: (text: string) => void;
}) {
  const [typed, setTyped] = useState<string>();
  const say = () => {
    if (typed !== undefined && typed.trim() !== value) onSay(typed.trim());
    setTyped(undefined);
  };
  if (off) return value ? <p className="say">{value}</p> : null;
  return (
    <Field label={label}>
      {(control) => (
        <textarea
          {...control}
          className="field w-full"
          rows={2}
          maxLength={500}
          value={typed ?? value}
          onChange={(e) => setTyped(e.target.value)}
          onBlur={say}
          onKeyDown={(e) => (e.ctrlKey || e.metaKey) && e.key === "Enter" && say()}
        />
      )}
    </Field>
  );
}
