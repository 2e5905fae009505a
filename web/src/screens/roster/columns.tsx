import { Button } from "@/kit/Button";
import clsx from "clsx";
import { Link } from "react-router";
import { Menu, MenuItem } from "@/kit/Menu";
import type { Column } from "@/kit/Table";
import { availability, dayMonth, feet } from "@/parts/words";
import { orders } from "./sort";
import type { Player } from "./useRoster";

/** Shape and colour of a status; the word stands beside them. */
export const statuses: Record<Player["status"], { shape: string; tone: string }> = {
  available: { shape: "●", tone: "text-soft" },
  limited: { shape: "◧", tone: "text-watch" },
  out: { shape: "○", tone: "text-soft" },
  head_hold: { shape: "■", tone: "text-fault" },
};

interface Doing {
  groups: { key: string; short: string; name: string }[];
  base: string;
  /** The player whose line was edited just now: the keyboard goes on there. */
  back?: string;
  onEdit: (p: Player) => void;
  onSpells: (p: Player) => void;
  onArchive: (p: Player) => void;
  onMerge: (p: Player) => void;
  /** What is kept of him is handed over or taken away; the head coach's alone. */
  onOwed?: (p: Player) => void;
}

const nameOf = (p: Player) => `${p.jersey} ${p.first_name} ${p.last_name}`.trim();

/** What the roster shows of a player, and what can be done with him. */
export function rosterColumns(doing: Doing): Column<Player>[] {
  const { groups, base } = doing;
  const short = (p: Player) => p.groups.map((k) => groups.find((g) => g.key === k)?.short ?? k).join(", ");
  return [
    {
      id: "jersey",
      head: "No.",
      order: orders.jersey,
      className: "w-12 font-semibold",
      cell: (p) => p.jersey || "–",
    },
    {
      id: "name",
      head: "Player",
      order: orders.name,
      heads: true,
      className: "name",
      cell: (p) => (
        <>
          <Link className="hover:underline" to={`${base}/players/${p.id}`}>
            {p.first_name} {p.last_name}
          </Link>
          {p.returning && <span className="label ml-2 max-sm:hidden">returns</span>}
          <span className="block text-label text-soft sm:hidden">
            {short(p)} {p.position}
          </span>
        </>
      ),
    },
    { id: "groups", head: "Groups", order: orders.groups, className: "max-sm:hidden", cell: short },
    {
      id: "position",
      head: "Position",
      order: orders.position,
      className: "max-md:hidden",
      cell: (p) => p.position,
    },
    {
      id: "height",
      head: "Height",
      order: orders.height,
      className: "whitespace-nowrap max-lg:hidden",
      cell: (p) => (p.height_in ? feet(p.height_in) : ""),
    },
    {
      id: "weight",
      head: "Weight",
      order: orders.weight,
      className: "whitespace-nowrap max-lg:hidden",
      cell: (p) => (p.weight_lb ? `${p.weight_lb} lb` : ""),
    },
    {
      id: "status",
      head: "Status",
      order: orders.status,
      className: "py-1",
      cell: (p) => <Status player={p} onSpells={() => doing.onSpells(p)} />,
    },
    {
      id: "marks",
      head: "Marks",
      order: orders.marks,
      className: "text-right max-md:hidden",
      cell: (p) => p.marks,
    },
    {
      id: "do",
      head: <span className="sr-only">What can be done</span>,
      className: "whitespace-nowrap py-1 text-right",
      cell: (p) => p.editable && <Do player={p} doing={doing} />,
    },
  ];
}

function Status({ player: p, onSpells }: { player: Player; onSpells: () => void }) {
  const s = statuses[p.status];
  return (
    <Button kind="bare" className="relative px-1 py-1 text-left hover:underline" onClick={onSpells}>
      <span className={p.status === "available" ? "text-soft" : clsx("font-semibold", s.tone)}>
        <span aria-hidden>{s.shape}</span> {availability[p.status]}
      </span>
      {p.until && <span className="text-soft"> to {dayMonth(p.until)}</span>}
      {p.note && <span className="say block max-w-72 text-label text-soft max-md:hidden">{p.note}</span>}
      <span className="sr-only">: availability of {nameOf(p)}</span>
    </Button>
  );
}

function Do({ player: p, doing }: { player: Player; doing: Doing }) {
  const name = nameOf(p);
  return (
    <span className="inline-flex gap-1">
      <Button
        kind="quiet"
        className="max-sm:hidden"
        onClick={() => doing.onEdit(p)}
        // eslint-disable-next-line jsx-a11y/no-autofocus -- the keyboard goes on where it left the line
        autoFocus={doing.back === p.id}
      >
        Edit<span className="sr-only"> {name}</span>
      </Button>
      <Menu label="⋯" title={`More for ${name}`}>
        <MenuItem onSelect={() => doing.onEdit(p)}>Edit</MenuItem>
        <MenuItem onSelect={() => doing.onSpells(p)}>Availability</MenuItem>
        <MenuItem onSelect={() => doing.onMerge(p)}>Same player as …</MenuItem>
        <MenuItem onSelect={() => doing.onArchive(p)}>{p.archived ? "Bring back" : "Archive"}</MenuItem>
        {doing.onOwed && <MenuItem onSelect={() => doing.onOwed?.(p)}>Hand over or erase …</MenuItem>}
      </Menu>
    </span>
  );
}
