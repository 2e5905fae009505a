import { Button } from "@/kit/Button";
import clsx from "clsx";
import { DropdownMenu } from "radix-ui";
import { Link } from "react-router";
import { Menu } from "@/kit/Menu";
import { availability, dayMonth, feet } from "@/parts/words";
import type { Player } from "./useRoster";

/** Shape and colour of a status; the word stands beside them. */
export const statuses: Record<Player["status"], { shape: string; tone: string }> = {
  available: { shape: "●", tone: "text-soft" },
  limited: { shape: "◧", tone: "text-watch" },
  out: { shape: "○", tone: "text-soft" },
  head_hold: { shape: "■", tone: "text-fault" },
};

interface Props {
  player: Player;
  groups: { key: string; short: string; name: string }[];
  sheet: string;
  left: boolean; // its line was edited just now
  onEdit: () => void;
  onSpells: () => void;
  onArchive: () => void;
  onMerge: () => void;
}

/** One player of the roster. */
export function Row({ player: p, groups, sheet, left, onEdit, onSpells, onArchive, onMerge }: Props) {
  const s = statuses[p.status];
  const name = `${p.jersey} ${p.first_name} ${p.last_name}`.trim();
  const short = p.groups.map((k) => groups.find((g) => g.key === k)?.short ?? k).join(", ");
  return (
    <tr className="border-b border-hair align-top" data-player={name}>
      <td className="w-12 p-2 font-semibold">{p.jersey || "–"}</td>
      <th scope="row" className="name p-2 text-left">
        <Link className="hover:underline" to={sheet}>
          {p.first_name} {p.last_name}
        </Link>
        {p.returning && <span className="label ml-2 max-sm:hidden">returns</span>}
        <span className="block text-label text-soft sm:hidden">
          {short} {p.position}
        </span>
      </th>
      <td className="p-2 max-sm:hidden">{short}</td>
      <td className="p-2 max-md:hidden">{p.position}</td>
      <td className="whitespace-nowrap p-2 max-lg:hidden">{p.height_in ? feet(p.height_in) : ""}</td>
      <td className="whitespace-nowrap p-2 max-lg:hidden">{p.weight_lb ? `${p.weight_lb} lb` : ""}</td>
      <td className="p-1">
        <button
          type="button"
          className="relative min-h-7 px-1 py-1 text-left hover:underline pointer-coarse:min-h-11"
          onClick={onSpells}
        >
          <span className={p.status === "available" ? "text-soft" : clsx("font-semibold", s.tone)}>
            <span aria-hidden>{s.shape}</span> {availability[p.status]}
          </span>
          {p.until && <span className="text-soft"> to {dayMonth(p.until)}</span>}
          {p.note && <span className="say block max-w-72 text-label text-soft max-md:hidden">{p.note}</span>}
          <span className="sr-only">: availability of {name}</span>
        </button>
      </td>
      <td className="p-2 text-right max-md:hidden">{p.marks}</td>
      <td className="whitespace-nowrap p-1 text-right">
        {p.editable && (
          <span className="inline-flex gap-1">
            <Button
              kind="quiet"
              className="max-sm:hidden"
              onClick={onEdit}
              // eslint-disable-next-line jsx-a11y/no-autofocus -- the keyboard goes on where it left the line
              autoFocus={left}
            >
              Edit<span className="sr-only"> {name}</span>
            </Button>
            <Menu label="⋯" title={`More for ${name}`}>
              <DropdownMenu.Item className="menu-item" onSelect={onEdit}>
                Edit
              </DropdownMenu.Item>
              <DropdownMenu.Item className="menu-item" onSelect={onSpells}>
                Availability
              </DropdownMenu.Item>
              <DropdownMenu.Item className="menu-item" onSelect={onMerge}>
                Same player as …
              </DropdownMenu.Item>
              <DropdownMenu.Item className="menu-item" onSelect={onArchive}>
                {p.archived ? "Bring back" : "Archive"}
              </DropdownMenu.Item>
            </Menu>
          </span>
        )}
      </td>
    </tr>
  );
}
