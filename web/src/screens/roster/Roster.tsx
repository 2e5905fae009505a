import { Button } from "@/kit/Button";
import { Select } from "@/kit/Select";
import { useQuery } from "@tanstack/react-query";
import clsx from "clsx";
import { useMemo, useState } from "react";
import { Link } from "react-router";
import { v7 as uuid } from "uuid";
import { queries } from "@/api/queries";
import { useKeys } from "@/keys/react";
import { Title } from "@/kit/Title";
import { useWhere } from "@/app/where";
import { Empty, Loading, Trouble } from "@/parts/States";
import { count, weekdayDate } from "@/parts/words";
import { AvailabilityWindow } from "./Availability";
import { EditRow } from "./EditRow";
import { MergeWindow } from "./MergeWindow";
import { Row } from "./Row";
import { filtered, sorted, type Column, type Filter } from "./sort";
import { blank, inputOf, useSavePlayer, type Player } from "./useRoster";

const columns: { key: Column; name: string; className: string }[] = [
  { key: "jersey", name: "No.", className: "" },
  { key: "name", name: "Player", className: "" },
  { key: "groups", name: "Groups", className: "max-sm:hidden" },
  { key: "position", name: "Position", className: "max-md:hidden" },
  { key: "height", name: "Height", className: "max-lg:hidden" },
  { key: "weight", name: "Weight", className: "max-lg:hidden" },
  { key: "status", name: "Status", className: "" },
  { key: "marks", name: "Marks", className: "max-md:hidden" },
];

/** The list of the players: who they are, where they play, and what they may take part in today. */
export function Roster() {
  const { group } = useWhere();
  return <List key={group} />; // another group in the frame: its players, and nothing half done
}

function List() {
  const { group, base } = useWhere();
  const roster = useQuery(queries.roster());
  const frame = useQuery(queries.frame());
  const [filter, setFilter] = useState<Filter>({ words: "", group, show: "here" });
  const [order, setOrder] = useState<{ by: Column; down: boolean }>({ by: "jersey", down: false });
  const [editing, setEditing] = useState<string>(); // id of a player, or of a new one
  const [back, setBack] = useState<string>(); // id of the player whose line was left: the keyboard goes on there
  const [fresh, setFresh] = useState<string>(); // id of a player who is being added
  const [spells, setSpells] = useState<Player>();
  const [merging, setMerging] = useState<Player>();
  const [said, setSaid] = useState<{ text: string; undo?: () => void }>();
  const save = useSavePlayer();
  const add = () => {
    const id = uuid();
    setFresh(id);
    setEditing(id);
  };
  const { players: all, editable = false, on = "" } = roster.data ?? {};
  useKeys(editable ? [{ keys: "a", does: "Add a player", run: add }] : []);
  const shown = useMemo(
    () => sorted(filtered(all ?? [], filter), order.by, order.down),
    [all, filter, order],
  );
  if (roster.error) return <Trouble error={roster.error} again={() => void roster.refetch()} />;
  if (!all || !frame.data) return <Loading what="the roster" />;
  const groups = frame.data.groups;
  const here = all.filter((p) => !p.archived);
  const held = here.filter((p) => p.status !== "available");
  const archive = async (p: Player, archived: boolean) => {
    const settled = await save(p.id, p.version, { ...inputOf(p), archived });
    if (settled.is !== "saved") return;
    const now = settled.answer as Player;
    setSaid({
      text: `${p.jersey} ${p.last_name} ${archived ? "is archived: on no list, plan or count; his marks stay." : "is back."}`,
      undo: () => void archive(now, !archived),
    });
  };
  const done = () => {
    setBack(editing);
    setEditing(undefined);
    setFresh(undefined);
  };
  return (
    <>
      <div className="mb-2 flex flex-wrap items-end gap-x-4 gap-y-2">
        <div>
          <Title page="Roster">Roster</Title>
          <p className="say text-small text-soft">
            {weekdayDate(on)}: {count(here.length, "player")} in the club
            {held.length > 0 && `, ${held.length} not fully available`}
          </p>
        </div>
        <div className="ml-auto flex flex-wrap gap-2">
          {editable && (
            <>
              <Button kind="main" onClick={add}>
                Add a player <span className="kbd bg-transparent text-invert max-md:hidden">a</span>
              </Button>
              <Link className="btn" to={`${base}/roster/import`}>
                Import a list
              </Link>
            </>
          )}
          <a className="btn btn-quiet" href="/api/v1/roster/export?format=csv" download>
            Export CSV
          </a>
          <a className="btn btn-quiet" href="/api/v1/roster/export?format=xlsx" download>
            XLSX
          </a>
        </div>
      </div>
      <Filters filter={filter} groups={groups} here={group} onChange={setFilter} />
      {said && (
        <p
          role="status"
          className="say mb-2 flex flex-wrap items-center gap-3 border border-rule bg-sheet p-2 text-small"
        >
          {said.text}
          {said.undo && (
            <Button
              kind="quiet"
              onClick={() => {
                said.undo?.();
                setSaid(undefined);
              }}
            >
              Undo
            </Button>
          )}
        </p>
      )}
      <div className="sheet">
        <table className="w-full text-small">
          <thead>
            <tr className="border-b border-ink text-left">
              {columns.map((c) => (
                <th
                  key={c.key}
                  scope="col"
                  className={clsx("p-0", c.className)}
                  aria-sort={order.by !== c.key ? undefined : order.down ? "descending" : "ascending"}
                >
                  <button
                    type="button"
                    className={clsx(
                      "label min-h-7 w-full px-2 hover:text-ink",
                      c.key === "marks" ? "text-right" : "text-left",
                    )}
                    onClick={() => setOrder({ by: c.key, down: order.by === c.key && !order.down })}
                  >
                    {c.name} <span aria-hidden>{order.by !== c.key ? "" : order.down ? "▾" : "▴"}</span>
                  </button>
                </th>
              ))}
              <th scope="col" className="label p-2 text-right">
                <span className="sr-only">What can be done</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {fresh && (
              <EditRow
                id={fresh}
                version={0}
                input={blank(group)}
                groups={groups}
                span={columns.length + 1}
                onDone={done}
              />
            )}
            {shown.map((p) =>
              editing === p.id ? (
                <EditRow
                  key={p.id}
                  id={p.id}
                  version={p.version}
                  input={inputOf(p)}
                  groups={groups}
                  span={columns.length + 1}
                  onDone={done}
                />
              ) : (
                <Row
                  key={p.id}
                  player={p}
                  groups={groups}
                  sheet={`${base}/players/${p.id}`}
                  left={back === p.id}
                  onEdit={() => setEditing(p.id)}
                  onSpells={() => setSpells(p)}
                  onArchive={() => void archive(p, !p.archived)}
                  onMerge={() => setMerging(p)}
                />
              ),
            )}
          </tbody>
        </table>
        {shown.length === 0 && !fresh && (
          <Empty>
            {all.length === 0
              ? "Nobody is on the roster yet. Add players one by one, or import the list you have."
              : "Nobody fits what you look for."}
          </Empty>
        )}
      </div>
      {spells && <AvailabilityWindow player={spells} onClose={() => setSpells(undefined)} />}
      {merging && (
        <MergeWindow
          player={merging}
          all={all}
          onClose={() => setMerging(undefined)}
          onMerged={(text) => setSaid({ text })}
        />
      )}
    </>
  );
}

interface FiltersProps {
  filter: Filter;
  groups: { key: string; name: string; short: string }[];
  here: string;
  onChange: (next: Filter) => void;
}

const shows: { key: Filter["show"]; word: string }[] = [
  { key: "here", word: "Everybody" },
  { key: "held", word: "Not fully available" },
  { key: "archived", word: "Archived" },
];

function Filters({ filter, groups, here, onChange }: FiltersProps) {
  return (
    <div className="mb-2 flex flex-wrap items-end gap-2" role="search">
      <label className="grid gap-0.5 max-sm:w-full">
        <span className="label">Number, name or position</span>
        <input
          className="field sm:w-56"
          type="search"
          value={filter.words}
          onChange={(e) => onChange({ ...filter, words: e.target.value })}
        />
      </label>
      <span className="grid gap-0.5">
        <span className="label" aria-hidden>
          Group
        </span>
        <Select
          label="Group"
          value={filter.group}
          options={[
            { value: "", name: "All groups" },
            ...groups.map((g) => ({
              value: g.key,
              name: g.name,
              more: g.key === here ? "this one" : undefined,
            })),
          ]}
          onChange={(key) => onChange({ ...filter, group: key })}
        />
      </span>
      <span className="grid gap-0.5">
        <span className="label" aria-hidden>
          Show
        </span>
        <Select
          label="Show"
          value={filter.show}
          options={shows.map((x) => ({ value: x.key, name: x.word }))}
          onChange={(show) => onChange({ ...filter, show: show as Filter["show"] })}
        />
      </span>
    </div>
  );
}
