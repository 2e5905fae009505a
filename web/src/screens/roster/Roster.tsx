import { Button, ButtonLink, FileLink } from "@/kit/Button";
import { Select } from "@/kit/Select";
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { v7 as uuid } from "uuid";
import { queries } from "@/api/queries";
import { useKeys } from "@/keys/react";
import { Title } from "@/kit/Title";
import { useWhere } from "@/app/where";
import { Empty, Loading, Trouble } from "@/kit/States";
import { count, weekdayDate } from "@/parts/words";
import { AvailabilityWindow } from "./Availability";
import { EditRow } from "./EditRow";
import { MergeWindow } from "./MergeWindow";
import { OwedWindow } from "./OwedWindow";
import { Proposals } from "./Proposals";
import { Field } from "@/kit/Field";
import { Table } from "@/kit/Table";
import { useToast } from "@/kit/Toast";
import { ToggleGroup } from "@/kit/ToggleGroup";
import { rosterColumns } from "./columns";
import { filtered, type Filter } from "./sort";
import { blank, inputOf, useSavePlayer, type Player } from "./useRoster";

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
  const [editing, setEditing] = useState<string>(); // id of a player, or of a new one
  const [back, setBack] = useState<string>(); // id of the player whose line was left: the keyboard goes on there
  const [fresh, setFresh] = useState<string>(); // id of a player who is being added
  const [spells, setSpells] = useState<Player>();
  const [merging, setMerging] = useState<Player>();
  const [owed, setOwed] = useState<Player>();
  const head = useQuery(queries.session()).data?.user?.role === "head";
  const tell = useToast();
  const save = useSavePlayer();
  const add = () => {
    const id = uuid();
    setFresh(id);
    setEditing(id);
  };
  const { players: all, editable = false, on = "" } = roster.data ?? {};
  useKeys(editable ? [{ keys: "a", does: "Add a player", run: add }] : []);
  const shown = useMemo(() => filtered(all ?? [], filter), [all, filter]);
  if (roster.error) return <Trouble error={roster.error} again={() => void roster.refetch()} />;
  if (!all || !frame.data) return <Loading what="the roster" />;
  const groups = frame.data.groups;
  const here = all.filter((p) => !p.archived);
  const held = here.filter((p) => p.status !== "available");
  const archive = async (p: Player, archived: boolean) => {
    const settled = await save(p.id, p.version, { ...inputOf(p), archived });
    if (settled.is !== "saved") return;
    const now = settled.answer as Player;
    tell({
      text: `${p.jersey} ${p.last_name} ${archived ? "is archived: on no list, plan or count; his marks stay." : "is back."}`,
      way: { word: "Undo", run: () => void archive(now, !archived) },
    });
  };
  const columns = rosterColumns({
    groups,
    base,
    back,
    onEdit: (p) => setEditing(p.id),
    onSpells: setSpells,
    onArchive: (p) => void archive(p, !p.archived),
    onMerge: setMerging,
    onOwed: head ? setOwed : undefined,
  });
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
              <ButtonLink to={`${base}/roster/import`}>Import a list</ButtonLink>
            </>
          )}
          <FileLink href="/api/v1/roster/export?format=csv">Export CSV</FileLink>
          <FileLink href="/api/v1/roster/export?format=xlsx">XLSX</FileLink>
        </div>
      </div>
      <Proposals
        list={roster.data?.proposals ?? []}
        groupName={(key) => groups.find((g) => g.key === key)?.name ?? key}
      />
      <Filters filter={filter} groups={groups} here={group} onChange={setFilter} />
      <div className="sheet">
        <Table
          label="Players"
          rows={shown}
          columns={columns}
          keyOf={(p) => p.id}
          by={{ id: "jersey" }}
          keep={editing}
          instead={(p) =>
            editing === p.id && (
              <EditRow id={p.id} version={p.version} input={inputOf(p)} groups={groups} onDone={done} />
            )
          }
          first={
            fresh && <EditRow id={fresh} version={0} input={blank(group)} groups={groups} onDone={done} />
          }
        />
        {shown.length === 0 && !fresh && (
          <Empty>
            {all.length === 0
              ? "Nobody is on the roster yet. Add players one by one, or import the list you have."
              : "Nobody fits what you look for."}
          </Empty>
        )}
      </div>
      {spells && <AvailabilityWindow player={spells} onClose={() => setSpells(undefined)} />}
      {owed && (
        <OwedWindow player={owed} onClose={() => setOwed(undefined)} onGone={(text) => tell({ text })} />
      )}
      {merging && (
        <MergeWindow
          player={merging}
          all={all}
          onClose={() => setMerging(undefined)}
          onMerged={(text) => tell({ text })}
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

const shows: { value: Filter["show"]; name: string }[] = [
  { value: "here", name: "Everybody" },
  { value: "held", name: "Not fully available" },
  { value: "archived", name: "Archived" },
];

function Filters({ filter, groups, here, onChange }: FiltersProps) {
  return (
    <div className="mb-2 flex flex-wrap items-end gap-2" role="search">
      <Field label="Number, name or position" className="max-sm:w-full">
        {(control) => (
          <input
            {...control}
            className="field sm:w-56"
            type="search"
            value={filter.words}
            onChange={(e) => onChange({ ...filter, words: e.target.value })}
          />
        )}
      </Field>
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
        <ToggleGroup
          label="Show"
          value={filter.show}
          options={shows}
          onChange={(show) => onChange({ ...filter, show })}
        />
      </span>
    </div>
  );
}
