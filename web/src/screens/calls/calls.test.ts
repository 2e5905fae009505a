import { describe, expect, it } from "vitest";
import type { Schemas } from "@/api/client";
import * as C from "./calls";
import * as L from "./lineup";

const call = (name: string, more: Partial<C.Call> = {}): C.Call => ({
  name,
  side: "offense",
  kind: "",
  aliases: [],
  tags: [],
  share: 0,
  needs: [],
  ...more,
});

describe("calls", () => {
  it("are listed by side, the most expected first, then by name", () => {
    const calls = new Map([
      ["a", call("Zone")],
      ["b", call("Lead")],
      ["c", call("Cover", { side: "defense", share: 90 })],
      ["d", call("Drop", { share: 30 })],
    ]);
    expect(C.inOrder(calls).map(([id]) => id)).toEqual(["d", "b", "a", "c"]);
    expect(C.shareOf(calls, "offense")).toBe(30);
  });

  it("get a name that no other has", () => {
    const calls = new Map([
      ["a", call("New call")],
      ["b", call("New call 2")],
    ]);
    expect(C.fresh(calls, "units")).toMatchObject({ name: "New call 3", side: "units" });
  });

  it("are changed and taken out without touching the others", () => {
    const calls = new Map([
      ["a", call("Lead")],
      ["b", call("Zone")],
    ]);
    const next = C.changed(calls, "a", { share: 12 });
    expect([next.get("a")?.share, next.get("b")]).toEqual([12, calls.get("b")]);
    expect(C.changed(calls, "x", { share: 1 })).toBe(calls);
    expect([...C.without(calls, "a").keys()]).toEqual(["b"]);
    expect(calls.size).toBe(2);
  });

  it("are alike when nothing but what is left out differs", () => {
    const { alike } = C.callsOf;
    const need = { group: "ol", technique: "base_block" };
    expect(alike(call("Lead", { needs: [need] }), call("Lead", { needs: [{ ...need, spots: [] }] }))).toBe(
      true,
    );
    expect(alike(call("Lead"), call("Lead", { install: "2026-10-20" }))).toBe(false);
    expect(alike(undefined, call("Lead"))).toBe(false);
  });

  it("are flagged the earliest install first", () => {
    const list: [string, C.Call][] = [
      ["a", call("Late", { install: "2026-10-22" })],
      ["b", call("Soon", { install: "2026-10-14" })],
      ["c", call("Ready")],
    ];
    const of = (id: string, verdict: Schemas["Verdict"]) => ({ id, verdict }) as Schemas["CallReadiness"];
    const ready = {
      calls: [of("a", "will_not"), of("b", "will_not"), of("c", "ready")],
    } as Schemas["Readiness"];
    expect(C.flagged(list, ready).map(([id]) => id)).toEqual(["b", "a"]);
    expect(C.flagged(list, undefined)).toEqual([]);
  });

  it("that are installed already are spoken of as such", () => {
    expect(C.says("will_not", "2026-10-01", "2026-10-13").says).toBe("Installed, not ready");
    expect(C.says("will_not", "2026-10-21", "2026-10-13").says).toBe("Will not be ready");
    expect(C.says("ready", "2026-10-01", "2026-10-13").says).toBe("Ready");
  });

  it("read words between commas", () => {
    expect(C.words(" gap,  short yardage ,,")).toEqual(["gap", "short yardage"]);
  });
});

const at = (player_id: string, share: number) => ({ player_id, share });
const spots: L.Spots = [
  { name: "LG", players: [at("64", 80), at("75", 20)] },
  { name: "C", players: [at("52", 70)] },
];

describe("a line-up", () => {
  it("gives a player of the bench what is open when nobody is before him", () => {
    const next = L.put(L.withSpot(spots), "52", undefined, 2, 99);
    expect(next[2]).toEqual({ name: "Spot 3", players: [at("52", 30)] }); // of his own snaps 30 are left
    expect(L.put(spots, "99", undefined, 1, 99)[1]?.players).toEqual([at("52", 70), at("99", 0)]);
  });

  it("lets a player bring his share along as far as it is open", () => {
    const next = L.put(spots, "64", 0, 1, 0);
    expect(next[0]?.players).toEqual([at("75", 20)]);
    expect(next[1]?.players).toEqual([at("64", 30), at("52", 70)]);
  });

  it("moves a player within his spot, and not to where he stands already", () => {
    expect(L.put(spots, "75", 0, 0, 0)[0]?.players.map((p) => p.player_id)).toEqual(["75", "64"]);
    expect(L.put(spots, "64", 0, 0, 1)[0]?.players.map((p) => p.player_id)).toEqual(["75", "64"]);
    const twice = L.put(spots, "64", undefined, 1, 99);
    expect(L.put(twice, "64", 0, 1, 0)).toBe(twice);
    expect(L.put(spots, "64", 0, 9, 0)).toBe(spots);
  });

  it("knows what may be given", () => {
    expect(L.mostAt(spots, 0, "64")).toBe(80);
    expect(L.mostAt(spots, 1, "52")).toBe(100);
    expect(L.mostAt(L.put(spots, "64", undefined, 1, 99), 1, "64")).toBe(20); // 80 of his snaps are at LG
    expect(L.given(spots, "52", 1, 90)[1]?.players).toEqual([at("52", 90)]);
    expect(L.out(spots, "75", 0)[0]?.players).toEqual([at("64", 80)]);
  });

  it("begins with the positions of the group", () => {
    const player = (id: string, position: string) => ({ id, position }) as Schemas["Player"];
    const lineUp = {
      positions: ["C", "LG"],
      players: [player("52", "C"), player("64", "LG"), player("66", "C")],
    } as Schemas["LineUp"];
    expect(L.begin(lineUp)).toEqual([
      { name: "C", players: [at("52", 100), at("66", 0)] },
      { name: "LG", players: [at("64", 100)] },
    ]);
  });

  it("names new spots as no other is", () => {
    expect(L.withSpot([{ name: "Spot 2", players: [] }])[1]?.name).toBe("Spot 3");
  });
});
