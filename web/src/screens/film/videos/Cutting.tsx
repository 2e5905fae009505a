import clsx from "clsx";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState, useSyncExternalStore } from "react";
import { useParams } from "react-router";
import { v7 as uuid } from "uuid";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useKeys } from "@/keys/react";
import { Button, ButtonLink } from "@/kit/Button";
import { Empty, Loading, Trouble } from "@/kit/States";
import { Title } from "@/kit/Title";
import { AllNotSaved } from "@/parts/NotSaved";
import { UndoButtons } from "@/parts/UndoButtons";
import { undoKeys } from "@/parts/undoKeys";
import { count } from "@/parts/words";
import { useSheet, type Of } from "@/sync/sheet";
import { besidePicture } from "../picture/beside";
import { Deck, usual } from "../picture/deck";
import { isHere } from "../picture/files";
import { Picture } from "../picture/Picture";
import { nothingDrawn } from "../picture/useDrawings";
import { partOf, useSubject, type Subject } from "./subject";
import { cameraOf } from "./cameras";

type Clip = Schemas["ClipInput"];

const clipsOf = ({ id: subject, part }: Subject, film: string): Of<Clip> => ({
  idOf: (key) => (key.startsWith(`clip/${subject}/`) ? key.split("/")[2] : undefined),
  keyOf: (id) => `clip/${subject}/${id}`,
  read: (_key, content) => content as Clip,
  write: (_id, c) => c ?? null,
  alike: (a, b) =>
    a === b ||
    (!!a && !!b && partOf(a) === partOf(b) && a.first === b.first && a.last === b.last && a.snap === b.snap),
  says: () => `Where a ${part} is in a video (${film})`,
});

/** Where the plays or reps are in a long video: in, snap and out, by keys, while it runs. */
export function Cutting() {
  const { film = "" } = useParams();
  const { subject, error, refetch } = useSubject();
  const videos = useQuery({ ...queries.videos(subject?.id ?? "", subject?.kind), enabled: !!subject });
  const trouble = error ?? videos.error;
  if (trouble && (!subject || !videos.data))
    return (
      <Trouble
        error={trouble}
        again={() => {
          refetch();
          if (subject) void videos.refetch();
        }}
      />
    );
  if (!subject || !videos.data) return <Loading what="the video" />;
  const of = videos.data.videos.find((v) => v.id === film);
  if (!of)
    return (
      <>
        <Title page="Video">There is no such video</Title>
        <Empty action={<ButtonLink to={subject.videos}>To the videos</ButtonLink>}>
          It was taken out, or it is of another {subject.kind}.
        </Empty>
      </>
    );
  return (
    <Sheet key={film} film={of} subject={subject} clips={videos.data.clips} editable={videos.data.editable} />
  );
}

interface SheetProps {
  film: Schemas["Film"];
  subject: Subject;
  clips: Schemas["Clip"][];
  editable: boolean;
}

function Sheet({ film, subject, clips, editable }: SheetProps) {
  const { parts } = subject;
  const kind = useMemo(() => clipsOf(subject, film.name), [subject, film.name]);
  const { server, versions } = useMemo(
    () => ({
      server: new Map<string, Clip>(clips.map((c) => [c.id, bare(c)])),
      versions: new Map(clips.map((c) => [c.id, c.version])),
    }),
    [clips],
  );
  const editing = useSheet(server, versions, kind);
  const [turn, setTurn] = useState(0);
  const [habits] = useState(usual);
  const [began] = useState(() => clips.filter((c) => c.film_id === film.id).at(-1)?.last);
  const deck = useMemo(() => {
    const whole: Schemas["Clip"] = {
      id: film.id,
      film_id: film.id,
      view: film.view,
      first: 0,
      last: film.frames - 1,
      version: 0,
    };
    return new Deck([{ clip: whole, film }], habits, { clip_id: film.id, frame: began ?? 0 });
    // The file, not what is said of it, decides.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [film.id, film.digest, film.frames, film.fast, habits, began, turn]);
  const s = useSyncExternalStore(deck.listen, deck.now);
  const mine = useMemo(
    () =>
      new Map(
        [...editing.items].flatMap(([id, c]) => (c.film_id === film.id ? [[partOf(c), { id, ...c }]] : [])),
      ),
    [editing.items, film.id],
  );
  const [at, setAt] = useState(() =>
    Math.max(
      0,
      parts.findIndex((p) => !clips.some((c) => c.film_id === film.id && partOf(c) === p.id)),
    ),
  );
  const [from, setFrom] = useState<{ in?: number; snap?: number }>({});
  const play = parts[at];
  const there = play && mine.get(play.id);
  const rate = film.fps_num / film.fps_den;
  const choose = (i: number) => {
    setAt(Math.max(0, Math.min(parts.length - 1, i)));
    setFrom({});
  };
  const put = (c: Clip, id: string = uuid()) => editing.change(new Map(editing.items).set(id, c));
  const markIn = () => {
    if (there && s.frame < there.last)
      put({ ...bare(there), first: s.frame, snap: within(there.snap, s.frame, there.last) }, there.id);
    else setFrom({ in: s.frame });
  };
  const markSnap = () => {
    if (there && s.frame >= there.first && s.frame <= there.last)
      put({ ...bare(there), snap: s.frame }, there.id);
    else if (from.in !== undefined && s.frame >= from.in) setFrom({ ...from, snap: s.frame });
    else setFrom({ in: Math.max(0, s.frame - Math.round(rate)), snap: s.frame }); // a play begins a second before its snap
  };
  const markOut = () => {
    if (!play) return;
    if (there && from.in === undefined) {
      if (s.frame > there.first)
        put({ ...bare(there), last: s.frame, snap: within(there.snap, there.first, s.frame) }, there.id);
      return;
    }
    if (from.in === undefined || s.frame <= from.in) return;
    put(
      {
        film_id: film.id,
        ...play.of,
        first: from.in,
        last: s.frame,
        snap: within(from.snap, from.in, s.frame),
      },
      there?.id,
    );
    choose(at + 1);
  };
  const takeOut = () => {
    if (!there) return;
    const next = new Map(editing.items);
    next.delete(there.id);
    editing.change(next);
  };
  const seconds = (n: number) => deck.step(Math.round(n * rate));
  useKeys([
    { keys: "Shift+ArrowRight", does: "A second on", run: () => seconds(1) },
    { keys: "Shift+ArrowLeft", does: "A second back", run: () => seconds(-1) },
    { keys: "PageDown", does: "Ten seconds on", run: () => seconds(10) },
    { keys: "PageUp", does: "Ten seconds back", run: () => seconds(-10) },
    { keys: "ArrowDown", does: `Next ${subject.part}`, run: () => choose(at + 1) },
    { keys: "ArrowUp", does: `The ${subject.part} before`, run: () => choose(at - 1) },
    ...(there
      ? [
          {
            keys: "Enter",
            does: `To the ${subject.part} in the video`,
            run: () => deck.to(there.snap ?? there.first),
          },
        ]
      : []),
    ...(editable && play
      ? [
          { keys: "i", does: `The ${subject.part} begins here`, run: markIn },
          { keys: "s", does: "The snap is here", run: markSnap },
          { keys: "o", does: `It ends here; on to the next ${subject.part}`, run: markOut },
          ...(there
            ? [{ keys: "Delete", does: `The ${subject.part} is not in this video`, run: takeOut }]
            : []),
          ...undoKeys(editing),
        ]
      : []),
  ]);
  const here = useRef<HTMLLIElement>(null);
  useEffect(() => {
    here.current?.scrollIntoView({ block: "nearest" });
  }, [at]);
  const moment = (frame: number) => {
    const t = frame / rate;
    return `${Math.floor(t / 60)}:${(t % 60).toFixed(2).padStart(5, "0")}`;
  };
  const missing = film.local && !isHere(film);
  return (
    <>
      <div className="mb-2 flex flex-wrap items-end gap-2">
        <div className="min-w-0">
          <p className="label">
            {cameraOf(film.view)} · {mine.size} of {count(parts.length, subject.part)} marked in it
          </p>
          <Title page={`${subject.title}: ${film.name}`}>{film.name}</Title>
        </div>
        <span className="ml-auto flex flex-wrap gap-1.5">
          {editable && <UndoButtons steps={editing} />}
          <ButtonLink to={subject.videos}>Videos</ButtonLink>
          <ButtonLink kind="main" to={subject.marks}>
            {subject.kind === "game" ? "Grade" : "Mark it"}
          </ButtonLink>
        </span>
      </div>
      <AllNotSaved editing={editing} />
      {missing ? (
        <Empty action={<ButtonLink to={subject.videos}>Choose its file</ButtonLink>}>
          {film.name} stays on the machine of whoever has it. Choose it under Videos and it can be seen here.
        </Empty>
      ) : (
        <div className={besidePicture}>
          <div className="min-w-0 self-start">
            <Picture deck={deck} drawings={nothingDrawn} onAgain={() => setTurn((n) => n + 1)} />
            {film.strip && (
              <Strip film={film} frame={s.frame} clips={[...mine.values()]} onGo={(f) => deck.to(f)} />
            )}
            <p className="say mt-1 text-small" role="status" aria-label="Where it stands">
              {moment(s.frame)}, frame {s.frame}
              {from.in !== undefined && ` · begins at ${moment(from.in)}`}
              {from.snap !== undefined && ` · snap at ${moment(from.snap)}`}
            </p>
            {editable && play && (
              <span
                className="mt-1 flex flex-wrap gap-1.5"
                role="group"
                aria-label={`${subject.kind === "game" ? "Play " : ""}${play.no}`}
              >
                <Button onClick={markIn}>
                  Begins here <span className="kbd max-md:hidden">i</span>
                </Button>
                <Button onClick={markSnap}>
                  Snap here <span className="kbd max-md:hidden">s</span>
                </Button>
                <Button kind="main" off={!there && from.in === undefined} onClick={markOut}>
                  Ends here <span className="kbd max-md:hidden">o</span>
                </Button>
                <Button kind="quiet" off={!there} onClick={takeOut}>
                  Not in this video <span className="kbd max-md:hidden">Delete</span>
                </Button>
                <Button kind="quiet" onClick={() => seconds(-10)}>
                  −10 s
                </Button>
                <Button kind="quiet" onClick={() => seconds(10)}>
                  +10 s
                </Button>
              </span>
            )}
          </div>
          <section className="sheet min-w-0 p-2" aria-label={`Its ${subject.part}s`}>
            {parts.length === 0 ? (
              <Empty action={<ButtonLink to={subject.missing.to}>{subject.missing.word}</ButtonLink>}>
                {subject.missing.says}
              </Empty>
            ) : (
              <ol className="max-h-[70vh] overflow-y-auto" tabIndex={-1}>
                {parts.map(({ id, no, says }, i) => {
                  const c = mine.get(id);
                  return (
                    <li key={id} ref={i === at ? here : undefined} aria-current={i === at || undefined}>
                      <Button
                        kind="bare"
                        className={clsx(
                          "flex w-full flex-wrap items-baseline gap-x-3 border-b border-hair px-1 py-1 text-left",
                          i === at && "bg-stripe",
                        )}
                        onClick={() => {
                          choose(i);
                          if (c) deck.to(c.snap ?? c.first);
                        }}
                      >
                        <b className="w-8 tabular-nums">{no}</b>
                        <span className="say min-w-0 flex-1 text-small">{says}</span>
                        <span className="say text-small tabular-nums text-soft">
                          {c
                            ? `${moment(c.first)}–${moment(c.last)}${c.snap === undefined ? ", no snap" : ""}`
                            : "not marked"}
                        </span>
                      </Button>
                    </li>
                  );
                })}
              </ol>
            )}
          </section>
        </div>
      )}
    </>
  );
}

const bare = ({ film_id, play_id, placement_id, player_id, rep, first, last, snap }: Clip): Clip => ({
  film_id,
  play_id,
  placement_id,
  player_id,
  rep,
  first,
  last,
  snap,
});
const within = (snap: number | undefined, first: number, last: number) =>
  snap !== undefined && snap >= first && snap <= last ? snap : undefined;

/** Of the pictures of a strip so many have room under the video. */
const tiles = 48;
const shown = 8;

/** Small pictures of the whole video, its plays on them, and where one is. A press goes there. */
function Strip({
  film,
  frame,
  clips,
  onGo,
}: {
  film: Schemas["Film"];
  frame: number;
  clips: { id: string; first: number; last: number }[];
  onGo: (frame: number) => void;
}) {
  const at = (f: number) => `${(100 * f) / film.frames}%`;
  return (
    // The same is done by the keys and the ruler above.
    // eslint-disable-next-line jsx-a11y/click-events-have-key-events, jsx-a11y/no-static-element-interactions
    <div
      className="relative mt-1 cursor-pointer overflow-hidden border border-rule"
      onClick={(e) => {
        const box = e.currentTarget.getBoundingClientRect();
        onGo(Math.round(((e.clientX - box.left) / box.width) * (film.frames - 1)));
      }}
    >
      <span aria-hidden className="flex">
        {Array.from({ length: shown }, (_, i) => (
          <span
            key={i}
            className="h-10 flex-1"
            style={{
              backgroundImage: `url(/api/v1/films/${film.id}/strip)`,
              backgroundSize: `${tiles * 100}% 100%`,
              backgroundPositionX: `${(100 * Math.round(((i + 0.5) * tiles) / shown - 0.5)) / (tiles - 1)}%`,
            }}
          />
        ))}
      </span>
      {clips.map((c) => (
        <span
          key={c.id}
          className="absolute bottom-0 h-1.5 bg-good"
          style={{ left: at(c.first), width: `max(2px, ${at(c.last - c.first)})` }}
        />
      ))}
      <span className="absolute inset-y-0 w-0.5 bg-flag" style={{ left: at(frame) }} />
    </div>
  );
}
