import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo, useState, useSyncExternalStore } from "react";
import { v7 as uuid } from "uuid";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { Button, ButtonLink, FilePick } from "@/kit/Button";
import { AlertDialog, AlertWay } from "@/kit/AlertDialog";
import { Select } from "@/kit/Select";
import { Empty, Loading, Trouble, Refusal } from "@/kit/States";
import { Title } from "@/kit/Title";
import { AllNotSaved } from "@/parts/NotSaved";
import { count } from "@/parts/words";
import { useSheet, type Of } from "@/sync/sheet";
import { isHere, keepHere } from "../picture/files";
import { Bring } from "./Bring";
import { accept, cameras, gigabytes } from "./cameras";
import { isFile } from "./looked";
import { giveUp, send, sending } from "./sending";
import { markedIn, useSubject, type Subject } from "./subject";

type Film = Schemas["Film"];

const filmsOf = ({ id: subject, kind }: Subject): Of<Film> => ({
  idOf: (key) => (key.startsWith(`film/${subject}/`) ? key.split("/")[2] : undefined),
  keyOf: (id) => `film/${subject}/${id}`,
  read: (key, content) => {
    const { name, view, local } = content as Schemas["FilmInput"];
    return {
      id: key.split("/")[2]!,
      name,
      view,
      ...whose(subject, kind),
      local: local !== undefined,
      version: 0,
      work: "none",
      work_done: 0,
      fast: false,
      strip: false,
      mine: true,
      ...(local ?? blank),
    };
  },
  write: (_id, f, version) =>
    f
      ? {
          name: f.name,
          view: f.view,
          ...(version === 0 && {
            local: {
              game_id: f.game_id,
              placement_id: f.placement_id,
              media_type: f.media_type,
              digest: f.digest,
              size: f.size,
              width: f.width,
              height: f.height,
              fps_num: f.fps_num,
              fps_den: f.fps_den,
              frames: f.frames,
            },
          }),
        }
      : null,
  alike: (a, b) => a?.name === b?.name && a?.view === b?.view && (a === undefined) === (b === undefined),
  says: (f) => `Video ${f.name}`,
});
const whose = (id: string, kind: Subject["kind"]) =>
  kind === "game" ? { game_id: id } : { placement_id: id };
const blank = {
  media_type: "video/mp4",
  digest: "",
  size: 1,
  width: 1,
  height: 1,
  fps_num: 30,
  fps_den: 1,
  frames: 1,
};

/** The videos of a game or of a drill: sent to the server, or known here while the file stays where it is. */
export function Videos() {
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
  if (!subject || !videos.data) return <Loading what="the videos" />;
  return <Sheet key={subject.id} of={subject} videos={videos.data} />;
}

function Sheet({ of, videos }: { of: Subject; videos: Schemas["Videos"] }) {
  const client = useQueryClient();
  const kind = useMemo(() => filmsOf(of), [of]);
  const server = useMemo(() => new Map(videos.videos.map((v) => [v.id, v])), [videos.videos]);
  const versions = useMemo(() => new Map(videos.videos.map((v) => [v.id, v.version])), [videos.videos]);
  const editing = useSheet(server, versions, kind);
  const onWay = useSyncExternalStore(sending.listen, sending.now).filter((s) => s.subject === of.id);
  const [, again] = useState(0); // a file was chosen
  const [wrong, setWrong] = useState("");
  const list = [...editing.items.values()].map((v) => ({
    ...server.get(v.id),
    ...v,
    ...kept(server.get(v.id)),
  }));
  const cut = (id: string) => videos.clips.filter((c) => c.film_id === id).length;
  const change = (f: Film | undefined, id: string) => {
    const next = new Map(editing.items);
    if (f) next.set(id, f);
    else next.delete(id);
    editing.change(next);
  };
  return (
    <>
      <div className="mb-3 flex flex-wrap items-end gap-2">
        <div>
          <p className="label">
            {of.date} · {count(list.length, "video")}
          </p>
          <Title page={`Videos: ${of.title}`}>{of.title}</Title>
        </div>
        <span className="ml-auto flex flex-wrap gap-1.5">
          {of.kind === "game" && <ButtonLink to={`${of.marks}/plays`}>Plays</ButtonLink>}
          <ButtonLink kind="main" to={of.marks}>
            {of.kind === "game" ? "Grade" : "Mark it"}
          </ButtonLink>
        </span>
      </div>
      <AllNotSaved
        editing={editing}
        says={(u) => u.mine && <p className="say text-small">{u.mine.name}</p>}
      />
      {videos.editable && (
        <Bring
          videos={videos}
          usual={of.kind === "game" ? "wide" : "side"}
          onSend={(file, view, seen) =>
            void send(
              of,
              file,
              view,
              seen,
              () => void client.invalidateQueries({ queryKey: queries.videos(of.id).queryKey }),
            )
          }
          onStay={(file, view, seen, digest) => {
            keepHere(digest, file);
            const known = list.find((v) => v.local && v.digest === digest);
            if (known) return again((n) => n + 1);
            const id = uuid();
            change(
              {
                ...blank,
                ...seen,
                id,
                name: file.name.slice(0, 200),
                view,
                digest,
                ...whose(of.id, of.kind),
                local: true,
                version: 0,
                work: "none",
                work_done: 0,
                fast: false,
                strip: false,
                mine: true,
              },
              id,
            );
          }}
        />
      )}
      {onWay.length > 0 && (
        <section className="sheet mt-3 max-w-3xl p-3" aria-labelledby="on-the-way">
          <h2 id="on-the-way" className="label">
            On the way
          </h2>
          <ul className="divide-y divide-hair">
            {onWay.map((s) => (
              <li key={s.key} className="grid gap-1 py-2" aria-label={s.name}>
                <span className="flex flex-wrap items-baseline gap-x-3">
                  <span className="name text-head">{s.name}</span>
                  <span className="say text-small text-soft" role="status">
                    {s.trouble
                      ? ""
                      : `${gigabytes(s.sent)} of ${gigabytes(s.size)}${s.broken ? ": the line broke, it goes on by itself" : ""}`}
                  </span>
                  <Button kind="text" className="ml-auto" onClick={() => void giveUp(s.key)}>
                    {s.trouble ? "Take it off the list" : "Give it up"}
                  </Button>
                </span>
                {s.trouble ? (
                  <span role="alert" className="say text-small text-fault">
                    It was not taken: {s.trouble}.
                  </span>
                ) : (
                  <progress
                    className="sent w-full"
                    aria-label={`${s.name}, sent`}
                    max={s.size}
                    value={s.sent}
                  />
                )}
              </li>
            ))}
          </ul>
        </section>
      )}
      {wrong && <Refusal className="mt-3 max-w-3xl">{wrong}</Refusal>}
      {list.length === 0 ? (
        <div className="mt-3 max-w-3xl">
          <Empty>
            No video of this {of.kind} yet. Send one, or work on one that stays on this machine; marks are the
            same.
          </Empty>
        </div>
      ) : (
        <ul className="mt-3 grid max-w-3xl gap-2" aria-label="Videos">
          {list.map((v) => (
            <li key={v.id} className="sheet grid gap-1 p-3" aria-label={v.name}>
              <span className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
                <span className="head min-w-0 break-words">{v.name}</span>
                <span className="say text-small text-soft">
                  {v.width} × {v.height}, {Math.round((100 * v.fps_num) / v.fps_den) / 100} a second,{" "}
                  {clockOf(v)} · {gigabytes(v.size)}
                </span>
              </span>
              <span className="flex flex-wrap items-center gap-x-4 gap-y-1">
                <span className="say text-small">
                  {markedIn(cut(v.id), of.part)} <Standing film={v} />
                </span>
                <span className="ml-auto flex flex-wrap items-center gap-1.5">
                  {v.local && !isHere(v) && (
                    <FilePick
                      accept={accept}
                      onPick={(file) =>
                        void isFile(file, v.digest).then((same) => {
                          if (same) keepHere(v.digest, file);
                          else setWrong(`${file.name} is another file than ${v.name}.`);
                          again((n) => n + 1);
                        })
                      }
                    >
                      Choose its file
                    </FilePick>
                  )}
                  {videos.editable && (
                    <Select
                      label={`Camera of ${v.name}`}
                      value={v.view}
                      options={
                        cameras.some((c) => c.value === v.view)
                          ? cameras
                          : [...cameras, { value: v.view, name: v.view }]
                      }
                      onChange={(view) => change({ ...v, view }, v.id)}
                    />
                  )}
                  <ButtonLink to={`${of.videos}/${v.id}`}>Mark its {of.part}s</ButtonLink>
                  {v.mine && (
                    <TakeOut
                      film={v}
                      part={of.part}
                      clips={cut(v.id)}
                      onOut={() => change(undefined, v.id)}
                    />
                  )}
                </span>
              </span>
            </li>
          ))}
        </ul>
      )}
      <p className="say mt-3 text-small text-soft">
        {gigabytes(videos.used)} of {gigabytes(videos.limit)} kept for the club. Only its staff can see them.
      </p>
    </>
  );
}

/** What the server knows of a video, over what is written of it. */
const kept = (v: Film | undefined): Partial<Film> =>
  v
    ? { work: v.work, work_done: v.work_done, fast: v.fast, strip: v.strip, mine: v.mine, version: v.version }
    : {};

const clockOf = (v: Film) => {
  const seconds = Math.round((v.frames * v.fps_den) / v.fps_num);
  return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}`;
};

function Standing({ film: v }: { film: Film }) {
  if (v.local)
    return (
      <span className="text-soft">
        {isHere(v) ? "It stays on this machine." : "It stays on the machine of whoever has the file."}
      </span>
    );
  const says: Record<Film["work"], string> = {
    none: "",
    waits: "It waits to be made quick to step.",
    runs: `It is made quick to step: ${v.work_done} of 100.`,
    done: "Quick to step.",
    failed: "It could not be made quick to step; it plays as it was sent.",
  };
  return (
    <span className="text-soft" role="status" aria-label={`How ${v.name} is coming on`}>
      {says[v.work]}
    </span>
  );
}

function TakeOut({
  film,
  part,
  clips,
  onOut,
}: {
  film: Film;
  part: Subject["part"];
  clips: number;
  onOut: () => void;
}) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button kind="quiet" onClick={() => setOpen(true)}>
        Take it out
      </Button>
      {open && (
        <AlertDialog
          title={`Take ${film.name} out?`}
          says={[
            clips > 0
              ? `Where ${clips === 1 ? `its ${part} is` : `its ${clips} ${part}s are`} goes with it, and what is drawn on it. Marks stay.`
              : "Marks stay.",
            film.local
              ? "The file itself is left where it is."
              : "It cannot be brought back but by sending it again.",
          ].join(" ")}
          ways={
            <>
              <AlertWay>
                <Button onClick={() => setOpen(false)}>Leave it</Button>
              </AlertWay>
              <AlertWay main>
                <Button
                  kind="main"
                  onClick={() => {
                    setOpen(false);
                    onOut();
                  }}
                >
                  Take it out
                </Button>
              </AlertWay>
            </>
          }
        />
      )}
    </>
  );
}
