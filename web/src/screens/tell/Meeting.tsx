import clsx from "clsx";
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { useParams } from "react-router";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useWhere } from "@/app/where";
import { useKeys } from "@/keys/react";
import { Button, ButtonLink } from "@/kit/Button";
import { Select } from "@/kit/Select";
import { Empty, Loading, Trouble } from "@/kit/States";
import { Title } from "@/kit/Title";
import { Typed } from "@/kit/Typed";
import { AllNotSaved } from "@/parts/NotSaved";
import { sizeOf } from "@/parts/paper";
import { UndoButtons } from "@/parts/UndoButtons";
import { undoKeys } from "@/parts/undoKeys";
import { count, filmTitle, weekdayDate } from "@/parts/words";
import { FilmOf } from "@/screens/film/picture/FilmOf";
import { useFilm } from "@/screens/film/picture/useFilm";
import { situation } from "@/screens/film/plays";
import { useSheet, type Of } from "@/sync/sheet";
import { onScreen, useFullScreen } from "./fullScreen";

type Item = Schemas["MeetingItem"];

const meetingOf = (game: string, group: string): Of<Item[]> => ({
  idOf: (key) => (key === `meeting/${game}/${group}` ? "meeting" : undefined),
  keyOf: () => `meeting/${game}/${group}`,
  read: (_key, content) => content as Item[],
  write: (_id, items) => items ?? [],
  alike: (a, b) => JSON.stringify(a) === JSON.stringify(b),
  says: () => "The plays the group meets over",
});

/** The plays that a group looks at together: in order, with notes, on the whole screen by one key. */
export function Meeting() {
  const { game = "" } = useParams();
  const { group } = useWhere();
  const meeting = useQuery(queries.meeting(game, group));
  const footage = useQuery(queries.gameFootage(game));
  const was = useQuery({ ...queries.watching(meeting.data?.id ?? ""), enabled: !!meeting.data });
  if (meeting.error && !meeting.data)
    return <Trouble error={meeting.error} again={() => void meeting.refetch()} />;
  if (!meeting.data || footage.isPending || was.isLoading) return <Loading what="the meeting" />;
  return <Sheet key={meeting.data.id} of={meeting.data} footage={footage.data} place={was.data?.place} />;
}

interface SheetProps {
  of: Schemas["Meeting"];
  footage?: Schemas["Footage"];
  place?: Schemas["Place"];
}

function Sheet({ of, footage, place }: SheetProps) {
  const { base, group } = useWhere();
  const { part, on, toggle } = useFullScreen<HTMLDivElement>();
  const game = of.game.id;
  const kind = useMemo(() => meetingOf(game, group), [game, group]);
  const server = useMemo(() => new Map([["meeting", of.items]]), [of.items]);
  const versions = useMemo(() => new Map([["meeting", of.version]]), [of.version]);
  const editing = useSheet(server, versions, kind);
  const items = editing.items.get("meeting") ?? of.items;
  const put = (next: Item[]) => editing.change(new Map([["meeting", next]]));
  const plays = useMemo(() => new Map(of.plays.map((p) => [p.id, p.play])), [of.plays]);
  const who = useMemo(() => new Map(of.players.map((p) => [p.id, p])), [of.players]);
  const [at, setAt] = useState(() => {
    const clip = footage?.clips.find((c) => c.id === place?.clip_id);
    return Math.max(
      0,
      items.findIndex((x) => x.play_id === clip?.play_id),
    );
  });
  const i = Math.min(at, items.length - 1);
  const item = items[i];
  const play = item && plays.get(item.play_id);
  const film = useFilm({
    subject: of.id,
    footage,
    of: (c) => c.play_id === item?.play_id,
    at: item?.play_id ?? "",
    was: place,
  });
  const go = (to: number) => setAt(Math.max(0, Math.min(items.length - 1, to)));
  const change = (p: Partial<Item>) => item && put(items.with(i, { ...item, ...p }));
  const move = (by: number) => {
    const to = i + by;
    if (!item || to < 0 || to >= items.length) return;
    put(items.toSpliced(i, 1).toSpliced(to, 0, item));
    setAt(to);
  };
  const takeOut = () => item && put(items.toSpliced(i, 1));
  const left = of.plays.filter((p) => !items.some((x) => x.play_id === p.id));
  useKeys([
    { keys: "Space", does: "Next play", run: () => go(i + 1) },
    { keys: "Shift+Space", does: "Play before", run: () => go(i - 1) },
    { keys: "ArrowDown", does: "Next play", run: () => go(i + 1) },
    { keys: "ArrowUp", does: "Play before", run: () => go(i - 1) },
    { keys: "Shift+f", does: "Full screen, or no longer", run: toggle },
    ...(of.editable && item
      ? [
          { keys: "]", does: "The play comes later", run: () => move(1) },
          { keys: "[", does: "The play comes sooner", run: () => move(-1) },
          { keys: "Delete", does: "Take the play off the list", run: takeOut },
          ...undoKeys(editing),
        ]
      : []),
  ]);
  const names = (list: string[]) =>
    list
      .map((id) => who.get(id))
      .filter((p) => p !== undefined)
      .map((p) => `${p.jersey} ${p.last_name}`)
      .join(", ");
  const title = filmTitle(of.game);
  const sees = of.players
    .map((p) => ({
      p,
      plays: items.filter((x) => x.players.includes(p.id)).map((x) => plays.get(x.play_id)?.number ?? 0),
    }))
    .filter((x) => x.plays.length > 0);
  return (
    <>
      <div className="screen-only">
        <div className="mb-2 flex flex-wrap items-end gap-2">
          <div>
            <p className="label">
              {weekdayDate(of.game.date)} · {count(items.length, "play")} ·{" "}
              {of.proposed && items === of.items ? "as the sheets ask" : "as it was ordered"}
            </p>
            <Title page={`Meeting: ${title}`}>{title}</Title>
          </div>
          <span className="ml-auto flex flex-wrap gap-1.5">
            {of.editable && <UndoButtons steps={editing} />}
            <Button onClick={() => window.print()}>Print</Button>
            <ButtonLink to={`${base}/film/${game}/sheets`}>Sheets</ButtonLink>
            <Button kind="main" off={!item} onClick={toggle}>
              Full screen <span className="kbd">⇧F</span>
            </Button>
          </span>
        </div>
        <AllNotSaved editing={editing} />
        {items.length === 0 || !item || !play ? (
          <Empty>No play is on the list. Mark the game, or choose plays below.</Empty>
        ) : (
          <div className="grid gap-3 lg:grid-cols-[min(60%,76vh)_minmax(0,1fr)]">
            <div
              ref={part}
              className={on ? "grid content-center bg-rail p-3 text-rail-ink" : "min-w-0 self-start"}
            >
              <div className={on ? onScreen : undefined}>
                <FilmOf film={film} />
                <div
                  className={clsx("mt-2 grid gap-1", on && "text-head")}
                  role="status"
                  aria-label="What is looked at"
                >
                  <p className="flex flex-wrap items-baseline gap-x-3">
                    <b className="text-head">
                      {i + 1} of {items.length}: play {play.number}
                    </b>
                    <span className="say">
                      {[situation(play), play.call, play.front].filter(Boolean).join(" · ")}
                    </span>
                  </p>
                  {item.note && <p className="say">{item.note}</p>}
                  {item.players.length > 0 && <p className="say font-semibold">{names(item.players)}</p>}
                </div>
                {on && (
                  <p className="mt-2 flex gap-1.5">
                    <Button kind="film" onClick={() => go(i - 1)}>
                      Play before
                    </Button>
                    <Button kind="film" onClick={() => go(i + 1)}>
                      Next play
                    </Button>
                    <Button kind="film" onClick={toggle}>
                      Leave the full screen
                    </Button>
                  </p>
                )}
              </div>
              {of.editable && !on && (
                <section
                  className="sheet mt-2 grid gap-2 p-3"
                  aria-label={`Play ${play.number} in the meeting`}
                >
                  <Typed label="Note" value={item.note} max={300} onSay={(note) => change({ note })} />
                  <span className="flex flex-wrap gap-1.5" role="group" aria-label="Who has to see it">
                    {of.players.map((p) => (
                      <Button
                        key={p.id}
                        kind="quiet"
                        pressed={item.players.includes(p.id)}
                        onClick={() =>
                          change({
                            players: item.players.includes(p.id)
                              ? item.players.filter((x) => x !== p.id)
                              : [...item.players, p.id],
                          })
                        }
                      >
                        {p.jersey} {p.last_name}
                      </Button>
                    ))}
                  </span>
                  <span className="flex flex-wrap gap-1.5">
                    <Button kind="quiet" off={i === 0} onClick={() => move(-1)}>
                      Sooner <span className="kbd max-md:hidden">[</span>
                    </Button>
                    <Button kind="quiet" off={i === items.length - 1} onClick={() => move(1)}>
                      Later <span className="kbd max-md:hidden">]</span>
                    </Button>
                    <Button kind="quiet" onClick={takeOut}>
                      Off the list <span className="kbd max-md:hidden">Delete</span>
                    </Button>
                  </span>
                </section>
              )}
            </div>
            <section className="sheet min-w-0 p-2" aria-label="The plays, in order">
              <ol>
                {items.map((x, n) => {
                  const p = plays.get(x.play_id);
                  return (
                    <li key={x.play_id} aria-current={n === i || undefined}>
                      <Button
                        kind="bare"
                        className={clsx(
                          "grid w-full grid-cols-[2.5rem_minmax(0,1fr)] gap-x-2 border-b border-hair px-1 py-1 text-left",
                          n === i && "bg-stripe",
                        )}
                        onClick={() => go(n)}
                      >
                        <b className="tabular-nums">{p?.number}</b>
                        <span className="say min-w-0 text-small">
                          {x.note || (p && [situation(p), p.call].filter(Boolean).join(" · "))}
                          <span className="block text-soft">{names(x.players)}</span>
                        </span>
                      </Button>
                    </li>
                  );
                })}
              </ol>
            </section>
          </div>
        )}
        {of.editable && left.length > 0 && (
          <p className="mt-3 flex flex-wrap items-center gap-2">
            <Select
              label="Another play"
              value=""
              options={[
                { value: "", name: "Put another play on the list" },
                ...left.map((p) => ({
                  value: p.id,
                  name: `${p.play.number}: ${[situation(p.play), p.play.call].filter(Boolean).join(", ")}`,
                })),
              ]}
              onChange={(id) => {
                if (!id) return;
                put([...items, { play_id: id, note: "", players: [] }]);
                setAt(items.length);
              }}
            />
          </p>
        )}
        {sees.length > 0 && (
          <section className="sheet mt-3 max-w-3xl p-3" aria-labelledby="who-sees">
            <h2 id="who-sees" className="label">
              Who has to see what
            </h2>
            <ul className="mt-1 grid gap-x-6 sm:grid-cols-2">
              {sees.map(({ p, plays: list }) => (
                <li key={p.id} className="say">
                  <b>
                    {p.jersey} {p.last_name}
                  </b>
                  : {list.join(", ")}
                </li>
              ))}
            </ul>
          </section>
        )}
      </div>
      <div
        className="print-only"
        data-paper="meeting"
        style={{ fontSize: `${sizeOf(items.length, 490, 2.6, 11, 7.5)}pt` }}
      >
        <p style={{ fontSize: "16pt", fontWeight: 800 }}>{title}</p>
        <table>
          <tbody>
            {items.map((x) => {
              const p = plays.get(x.play_id);
              return (
                <tr key={x.play_id}>
                  <th scope="row" style={{ width: "5%" }}>
                    {p?.number}
                  </th>
                  <td style={{ width: "28%" }}>
                    {p && [situation(p), p.call, p.front].filter(Boolean).join(", ")}
                  </td>
                  <td>{x.note}</td>
                  <td style={{ width: "20%" }}>{names(x.players)}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
    </>
  );
}
