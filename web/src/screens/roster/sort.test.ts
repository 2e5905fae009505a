import { describe, expect, it } from "vitest";
import { alike, filtered, orders } from "./sort";
import type { Player } from "./useRoster";

export const player = (jersey: string, last_name: string, more: Partial<Player> = {}): Player => ({
  id: `${jersey}-${last_name}`,
  version: 1,
  jersey,
  first_name: "Jun",
  last_name,
  groups: ["ol"],
  position: "LG",
  returning: false,
  archived: false,
  status: "available",
  note: "",
  marks: 0,
  editable: true,
  recordable: true,
  spells: 0,
  ...more,
});

const list = [
  player("64", "Sato"),
  player("7", "Strand", { groups: ["qb"], position: "QB", height_in: 74 }),
  player("07", "Vosper", { status: "limited" }),
  player("", "Lind", { status: "head_hold", first_name: "Bo" }),
  player("58", "Oduya", { archived: true }),
];
const names = (players: Player[]) => players.map((p) => p.last_name);

describe("the order of the roster", () => {
  it("takes numbers as numbers, and players without one last", () => {
    expect(names([...list].sort(orders.jersey))).toEqual(["Strand", "Vosper", "Oduya", "Sato", "Lind"]);
  });
  it("puts who cannot play first by status, and turns round", () => {
    expect(names([...list].sort(orders.status)).slice(0, 2)).toEqual(["Lind", "Vosper"]);
    expect(names([...list].sort(orders.name).reverse())[0]).toBe("Vosper");
    expect(names([...list].sort(orders.height).reverse())[0]).toBe("Strand");
  });
});

describe("the filter", () => {
  const all = { words: "", group: "", show: "here" as const };
  it("hides archived players until they are asked for", () => {
    expect(names(filtered(list, all))).not.toContain("Oduya");
    expect(names(filtered(list, { ...all, show: "archived" }))).toEqual(["Oduya"]);
  });
  it("finds by number, name or position, all words together", () => {
    expect(names(filtered(list, { ...all, words: "64" }))).toEqual(["Sato"]);
    expect(names(filtered(list, { ...all, words: "jun qb" }))).toEqual(["Strand"]);
    expect(names(filtered(list, { ...all, words: "ato" }))).toEqual([]);
  });
  it("shows a group, or who is held out of something", () => {
    expect(names(filtered(list, { ...all, group: "qb" }))).toEqual(["Strand"]);
    expect(names(filtered(list, { ...all, show: "held" }))).toEqual(["Vosper", "Lind"]);
  });
});

describe("entries of one player", () => {
  it("come with the name spelled alike first, then the family name, then the number", () => {
    const me = player("64", "Sato", { id: "me" });
    const others = [
      player("1", "Ek"),
      player("64", "Marsh"),
      player("9", "Sato", { first_name: "Ken" }),
      player("8", "Jun", { first_name: "Sato" }),
    ];
    expect(names(alike([me, ...others], me))).toEqual(["Jun", "Sato", "Marsh", "Ek"]);
  });
  it("are never the player himself, nor one whom the coach may not change", () => {
    const me = player("64", "Sato", { id: "me" });
    expect(alike([me, player("65", "Sato", { editable: false })], me)).toEqual([]);
  });
});
