import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { v7 as uuid } from "uuid";
import { upload, type Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useWhere } from "@/app/where";
import { ButtonLink, FileLink, FilePick } from "@/kit/Button";
import { Dialog } from "@/kit/Dialog";
import { Loading, Trouble, Refusal } from "@/kit/States";
import { Title } from "@/kit/Title";
import { LinesRead } from "@/parts/LinesRead";
import { listFiles } from "@/parts/lists";
import { count, filmTitle, weekdayDate } from "@/parts/words";
import { useEditable } from "@/screens/today/useEditable";
import { useSync } from "@/sync/context";
import { playMarkKey } from "@/sync/kinds";

/** What was worked out on a game, as files: out to keep or to change elsewhere, and in again. */
export function Files() {
  const { game = "" } = useParams();
  const { group, base } = useWhere();
  const plays = useQuery(queries.gamePlays(game));
  const frame = useQuery(queries.frame());
  const editable = useEditable(group);
  if (plays.error && !plays.data) return <Trouble error={plays.error} again={() => void plays.refetch()} />;
  if (!plays.data) return <Loading what="the files" />;
  const { game: g } = plays.data;
  const title = filmTitle(g);
  const name = frame.data?.groups.find((x) => x.key === group)?.name ?? group;
  const at = `/api/v1/games/${game}`;
  const both = (path: string, query = "") =>
    (["csv", "xlsx"] as const).map((f) => (
      <FileLink key={f} href={`${at}/${path}?${query}format=${f}`}>
        {f.toUpperCase()}
      </FileLink>
    ));
  return (
    <>
      <div className="mb-3 flex flex-wrap items-end gap-2">
        <div>
          <p className="label">{weekdayDate(g.date)} · files</p>
          <Title page={`Files: ${title}`}>{title}</Title>
        </div>
        <ButtonLink kind="main" className="ml-auto" to={`${base}/film/${game}`}>
          Grade
        </ButtonLink>
      </div>
      <ul className="grid max-w-3xl gap-2" aria-label="Files">
        <Part name="Plays" says="Every label, a line a play. Read again under Plays.">
          {both("plays-list")}
        </Part>
        <Part
          name={`Marks, ${name.toLowerCase()}`}
          says="A line a mark, by the names of players, techniques and faults."
        >
          {both("marks-list", `group=${group}&`)}
          {editable && <ReadMarks game={game} group={group} opponent={g.opponent} />}
        </Part>
        <Part
          name={`Grades, ${name.toLowerCase()}`}
          says="A line a player and one for all, by the club’s way of judging."
        >
          {both("grades-list", `group=${group}&`)}
        </Part>
        <Part
          name="Everything as one file"
          says="Plays, marks of all groups, where plays are in the videos, and drawings; no video. JSON, its form is in the README. Read again all of it is taken, or nothing."
        >
          <FileLink href={`${at}/bundle`} name={`film ${g.date} ${g.opponent}.json`}>
            JSON
          </FileLink>
          <ReadBundle game={game} />
        </Part>
      </ul>
    </>
  );
}

function Part({ name, says, children }: { name: string; says: string; children: React.ReactNode }) {
  return (
    <li className="sheet grid gap-1 p-3">
      <span className="flex flex-wrap items-center gap-2">
        <span className="head">{name}</span>
        <span className="ml-auto flex flex-wrap items-center gap-1.5">{children}</span>
      </span>
      <span className="say text-small text-soft">{says}</span>
    </li>
  );
}

/** A list of marks: every line is seen before anything is changed. */
function ReadMarks({ game, group, opponent }: { game: string; group: string; opponent: string }) {
  const { engine } = useSync();
  const { base } = useWhere();
  const [open, setOpen] = useState(false);
  const read = useMutation({
    mutationFn: (file: File) => {
      const form = new FormData();
      form.set("file", file);
      return upload<Schemas["MarkLines"]>(`/games/${game}/marks-list?group=${group}`, form);
    },
  });
  const lines = read.data?.lines ?? [];
  const take = () => {
    engine.edit(
      lines
        .filter((l) => l.mark && (l.action === "create" || l.action === "update"))
        .map(({ mark, title }) => {
          const content = { ...mark!, id: undefined, on: undefined, made_at: undefined };
          return {
            key: playMarkKey(game, content.player_id, content.play_id!, content.technique_key!),
            kind: "mark" as const,
            content,
            base: mark!.on ?? "",
            about: { says: `${title} against ${opponent}`, href: `${base}/film/${game}` },
          };
        }),
    );
    setOpen(false);
  };
  return (
    <>
      <FilePick
        accept={listFiles}
        onPick={(file) => {
          setOpen(true);
          read.mutate(file);
        }}
      >
        Read a list
      </FilePick>
      <Dialog open={open} onOpenChange={setOpen} title="Read a list of marks" wide>
        {read.isPending && <p className="say">Reading it</p>}
        {read.error && <Refusal className="text-small">{read.error.message}</Refusal>}
        {read.data && (
          <LinesRead
            one="mark"
            lines={lines.map((l) => ({
              number: l.line,
              action: l.action,
              title: l.title,
              says: l.says,
              column: l.column,
              details: [],
            }))}
            onTake={take}
            onLeave={() => setOpen(false)}
          />
        )}
      </Dialog>
    </>
  );
}

function ReadBundle({ game }: { game: string }) {
  const client = useQueryClient();
  const take = useMutation({
    mutationFn: (file: File) => {
      const form = new FormData();
      form.set("file", file);
      return upload<Schemas["BundleTaken"]>(`/games/${game}/bundle`, form, uuid());
    },
    onSuccess: () => void client.invalidateQueries(),
  });
  const t = take.data;
  return (
    <>
      <FilePick accept="application/json,.json" onPick={(file) => take.mutate(file)}>
        Read one
      </FilePick>
      <span role="status" aria-label="What was taken" className="say basis-full text-small">
        {take.isPending && "Reading it"}
        {t &&
          `Taken: ${count(t.plays, "play")}, ${count(t.marks, "mark")}, ${count(t.clips, "clip")}, ${count(t.drawings, "drawing")}, ${count(t.videos, "video")}; ${t.same} were there already.`}
      </span>
      {take.error && (
        <span role="alert" className="say basis-full border border-fault bg-fault-wash p-2 text-small">
          Nothing was taken: {take.error.message}
        </span>
      )}
    </>
  );
}
