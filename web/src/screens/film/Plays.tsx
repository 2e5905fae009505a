import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { useParams } from "react-router";
import { v7 as uuid } from "uuid";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useWhere } from "@/app/where";
import { useCore } from "@/core";
import { useKeys, type Key } from "@/keys/react";
import { Button, ButtonLink, FileLink } from "@/kit/Button";
import { Scroller } from "@/kit/Scroller";
import { Empty, Loading, Trouble } from "@/kit/States";
import { Title } from "@/kit/Title";
import { AllNotSaved } from "@/parts/NotSaved";
import { count, filmTitle, weekdayDate } from "@/parts/words";
import { useSheet } from "@/sync/sheet";
import { UndoButtons } from "@/parts/UndoButtons";
import { undoKeys } from "@/parts/undoKeys";
import { PlayForm } from "./PlayForm";
import { PlayList } from "./PlayList";
import { Bulk } from "./Bulk";
import { LabelWords } from "./LabelWords";
import { PlayHistory } from "./PlayHistory";
import { blank, gained, playsOf, situation } from "./plays";

type Play = Schemas["PlayInput"];

/** The plays of a game in the staff's words: typed while the film is watched, or read from a list. */
export function Plays() {
  const { game = "" } = useParams();
  const plays = useQuery(queries.gamePlays(game));
  if (plays.error && !plays.data) return <Trouble error={plays.error} again={() => void plays.refetch()} />;
  if (!plays.data) return <Loading what="the plays" />;
  return <Sheet key={game} of={plays.data} />;
}

function Sheet({ of: { game, plays, units } }: { of: Schemas["GamePlays"] }) {
  const { base, group } = useWhere();
  const kind = useMemo(() => playsOf(game.id), [game.id]);
  const server = useMemo(() => new Map(plays.map((p) => [p.id, p.play])), [plays]);
  const versions = useMemo(() => new Map(plays.map((p) => [p.id, p.version])), [plays]);
  const marks = useMemo(() => new Map(plays.map((p) => [p.id, p.marks])), [plays]);
  const frame = useQuery(queries.frame());
  const editing = useSheet(server, versions, kind);
  const core = useCore(units.length > 0);
  const [chosen, setChosen] = useState<string>();
  const [reading, setReading] = useState(false);
  const [naming, setNaming] = useState(false);
  const [only, setOnly] = useState<ReadonlySet<string>>(); // those that a correction is made to
  const [fresh, setFresh] = useState(0); // a new play was begun: the keyboard goes to it
  const list = [...editing.items].sort(([, a], [, b]) => a.number - b.number);
  const at = list.findIndex(([id]) => id === chosen);
  const play = list[at]?.[1];
  const mine = frame.data?.groups.find((g) => g.key === group)?.side ?? "offense";
  const unit = units.includes(mine) ? mine : units[0];
  const change = (part: Partial<Play>) =>
    chosen && play && editing.change(new Map(editing.items).set(chosen, { ...play, ...part }));
  const add = () => {
    if (!unit) return;
    const last = list.at(-1)?.[1];
    const from = play ?? last;
    const next = from && core ? core.next(from) : blank(1, unit);
    const number = (last?.number ?? 0) + 1;
    const id = uuid();
    editing.change(
      new Map(editing.items).set(id, {
        ...next,
        unit: units.includes(next.unit) ? next.unit : unit,
        number: list.some(([, p]) => p.number === next.number) ? number : next.number,
      }),
    );
    setChosen(id);
    setFresh((n) => n + 1);
  };
  const remove = () => {
    if (!chosen || !play || (marks.get(chosen) ?? 0) > 0) return;
    const next = new Map(editing.items);
    next.delete(chosen);
    editing.change(next);
    setChosen((list[at + 1] ?? list[at - 1])?.[0]);
  };
  const step = (by: number) => setChosen((list[at + by] ?? list[at] ?? list[0])?.[0]);
  const keys: Key[] = [
    { keys: "]", does: "Next play", run: () => step(1) },
    { keys: "[", does: "Play before", run: () => step(-1) },
  ];
  if (units.length > 0)
    keys.push(
      { keys: "n", does: "New play, after the chosen one", run: add },
      ...(play ? [{ keys: "Delete", does: "Take the play out", run: remove }] : []),
      ...undoKeys(editing),
    );
  useKeys(keys);
  const title = filmTitle(game);
  return (
    <>
      <div className="mb-2 flex flex-wrap items-end gap-2">
        <div>
          <p className="label">
            {weekdayDate(game.date)} · {count(list.length, "play")}
          </p>
          <Title page={`Plays: ${title}`}>{title}</Title>
        </div>
        <span className="ml-auto flex flex-wrap gap-1.5">
          {units.length > 0 && (
            <>
              <Button onClick={add}>
                New play <span className="kbd">n</span>
              </Button>
              <Button onClick={() => setReading(true)}>Read a list</Button>
              <Button onClick={() => setNaming(true)}>Words</Button>
              <UndoButtons steps={editing} />
            </>
          )}
          <FileLink href={`/api/v1/games/${game.id}/plays-list?format=csv`}>CSV</FileLink>
          <FileLink href={`/api/v1/games/${game.id}/plays-list?format=xlsx`}>XLSX</FileLink>
          <ButtonLink to={`${base}/film/${game.id}/videos`}>Videos</ButtonLink>
          <ButtonLink kind="main" to={`${base}/film/${game.id}`}>
            Grade
          </ButtonLink>
        </span>
      </div>
      <AllNotSaved
        editing={editing}
        says={(u) => u.mine && <p className="say text-small">Play {u.mine.number}</p>}
      />
      <div className="grid items-start gap-3 grid-cols-[minmax(0,1fr)] lg:grid-cols-[minmax(0,1fr)_340px]">
        <section className="sheet min-w-0 p-3" aria-label="The plays">
          {units.length > 0 && list.length > 1 && (
            <Bulk
              game={game.id}
              items={editing.items}
              mine={units}
              only={only}
              onOnly={setOnly}
              onChange={editing.change}
            />
          )}
          {list.length === 0 ? (
            <Empty>No play is written down yet. Type them as you watch, or read the list you have.</Empty>
          ) : (
            <Table
              {...{ chosen, marks }}
              list={only ? list.filter(([id]) => only.has(id)) : list}
              onChoose={setChosen}
            />
          )}
        </section>
        {play && chosen && (
          <div className="grid content-start gap-2">
            <PlayForm
              key={`${chosen} ${fresh}`}
              play={play}
              all={editing.items}
              units={units}
              marks={marks.get(chosen) ?? 0}
              fresh={fresh > 0}
              onChange={change}
              onNext={add}
              onRemove={remove}
            />
            <PlayHistory game={game.id} play={chosen} />
          </div>
        )}
      </div>
      <LabelWords open={naming} onClose={() => setNaming(false)} />
      {unit && (
        <PlayList
          game={game.id}
          unit={unit}
          open={reading}
          onClose={() => setReading(false)}
          onTake={(lines) => {
            const next = new Map(editing.items);
            for (const l of lines) if (l.id && l.play) next.set(l.id, l.play);
            editing.change(next);
          }}
        />
      )}
    </>
  );
}

interface TableProps {
  list: [string, Play][];
  chosen?: string;
  marks: ReadonlyMap<string, number>;
  onChoose: (id: string) => void;
}

const columns = [
  "Play",
  "Unit",
  "Drive",
  "Q",
  "Down, spot",
  "Formation",
  "Call",
  "Front",
  "Coverage",
  "Result",
  "Gain",
  "Marks",
];
const shorts = { offense: "O", defense: "D", units: "K" };

function Table({ list, chosen, marks, onChoose }: TableProps) {
  return (
    <Scroller label="The plays, line by line">
      <table className="w-full border-collapse text-small">
        <thead>
          <tr>
            {columns.map((c) => (
              <th key={c} scope="col" className="label border-b border-ink px-1 text-left">
                {c}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {list.map(([id, p]) => (
            <tr key={id} className={id === chosen ? "bg-flag-wash" : "hover:bg-stripe"}>
              <th scope="row" className="border-b border-hair px-1 text-left">
                <Button
                  kind="bare"
                  className="min-h-6 min-w-6 text-left font-bold underline pointer-coarse:min-h-11"
                  pressed={id === chosen}
                  onClick={() => onChoose(id)}
                >
                  <span className="sr-only">Play </span>
                  {p.number}
                </Button>
              </th>
              {[
                shorts[p.unit],
                p.drive || "",
                p.quarter || "",
                situation(p),
                p.formation,
                p.call,
                p.front,
                p.coverage,
                p.result,
                gained(p.gain),
                marks.get(id) ?? "",
              ].map((v, i) => (
                <td key={columns[i + 1]} className="border-b border-hair px-1 whitespace-nowrap">
                  {v}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </Scroller>
  );
}
