import type { Player } from "./useRoster";

export type Column = "jersey" | "name" | "groups" | "position" | "height" | "weight" | "status" | "marks";

/** From the strictest to the loosest: who cannot play is what the list is asked for. */
const strict = ["head_hold", "out", "limited", "available"];

const keys: Record<Column, (p: Player) => string | number> = {
  jersey: (p) => (p.jersey === "" ? Number.MAX_SAFE_INTEGER : Number.parseInt(p.jersey, 10)),
  name: (p) => `${p.last_name} ${p.first_name}`.toLowerCase(),
  groups: (p) => p.groups.join(" "),
  position: (p) => p.position.toLowerCase(),
  height: (p) => p.height_in ?? 0,
  weight: (p) => p.weight_lb ?? 0,
  status: (p) => strict.indexOf(p.status),
  marks: (p) => p.marks,
};

const compare = (a: string | number, b: string | number) =>
  typeof a === "number" && typeof b === "number" ? a - b : String(a).localeCompare(String(b));

/** The order of two players by a column; those who are alike there stay in the order of the list, by number. */
const by = (column: Column) => (a: Player, b: Player) => compare(keys[column](a), keys[column](b));

export const orders = Object.fromEntries(
  (Object.keys(keys) as Column[]).map((column) => [column, by(column)]),
) as Record<Column, (a: Player, b: Player) => number>;

export interface Filter {
  words: string;
  group: string; // empty: all
  show: "here" | "held" | "archived";
}

/** The players that a filter lets through: words match a number, a name or a position from its beginning. */
export function filtered(list: Player[], f: Filter): Player[] {
  const words = f.words.toLowerCase().split(/\s+/).filter(Boolean);
  return list.filter((p) => {
    if (p.archived !== (f.show === "archived")) return false;
    if (f.show === "held" && p.status === "available") return false;
    if (f.group !== "" && !p.groups.includes(f.group)) return false;
    const has = [p.jersey, p.position, ...p.first_name.split(" "), ...p.last_name.split(/[ -]/)].map((x) =>
      x.toLowerCase(),
    );
    return words.every((w) => has.some((x) => x.startsWith(w)));
  });
}

/** Other entries that may be the same player, those spelled alike first. */
export function alike(list: Player[], p: Player): Player[] {
  const name = (x: Player) => `${x.first_name} ${x.last_name}`.toLowerCase().replace(/\s+/g, " ").trim();
  const flipped = `${p.last_name} ${p.first_name}`.toLowerCase().trim();
  const near = (x: Player) => {
    if (name(x) === name(p) || name(x) === flipped) return 0;
    if (x.last_name.toLowerCase() === p.last_name.toLowerCase()) return 1;
    return x.jersey !== "" && x.jersey === p.jersey ? 2 : 3;
  };
  return list
    .filter((x) => x.id !== p.id && x.editable)
    .sort((a, b) => near(a) - near(b) || name(a).localeCompare(name(b)));
}
