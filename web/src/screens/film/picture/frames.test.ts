import fc from "fast-check";
import { expect, test } from "vitest";
import type { Schemas } from "@/api/client";
import { alongside, around, frameOf, rocked, shotsOf, sinceSnap, timeOf, type Shot } from "./frames";

const film = (fps_num: number, fps_den: number, frames = 5000): Schemas["Film"] => ({
  id: `film ${fps_num}/${fps_den}`,
  name: "play",
  media_type: "video/webm",
  size: 1,
  width: 960,
  height: 540,
  fps_num,
  fps_den,
  frames,
  digest: "",
  view: "wide",
  local: false,
  version: 1,
  work: "none",
  work_done: 0,
  fast: false,
  strip: false,
  mine: false,
});
const shot = (view: string, first: number, last: number, snap?: number, f = film(30, 1)): Shot => ({
  film: f,
  clip: { id: view, film_id: f.id, view, first, last, snap, play_id: "p", version: 1 },
});
const rates = fc.constantFrom<[number, number]>([30, 1], [25, 1], [30000, 1001], [60000, 1001], [24, 1]);

test("the middle of a frame is that frame, and so is the time at which it begins", () => {
  fc.assert(
    fc.property(rates, fc.integer({ min: 0, max: 4999 }), ([num, den], frame) => {
      const f = film(num, den);
      expect(frameOf(timeOf(frame, f), f)).toBe(frame);
      // As containers tell it: in thousandths or millionths of a second, rounded up, down or to the nearest.
      for (const unit of [1e3, 1e6])
        for (const round of [Math.ceil, Math.floor, Math.round])
          expect(frameOf(round(((frame * den) / num) * unit) / unit, f)).toBe(frame);
    }),
  );
});

test("cameras are in step at the snap, and there and back is the same frame", () => {
  const wide = shot("wide", 0, 149, 36);
  const end = shot("end", 1000, 1149, 1050);
  expect(alongside(36, wide, end)).toBe(1050);
  expect(alongside(46, wide, end)).toBe(1060);
  expect(alongside(149, wide, end)).toBe(1149); // the other ends earlier
  expect(alongside(0, shot("a", 0, 10), shot("b", 70, 90))).toBe(70); // no snap was marked: their beginnings
  fc.assert(
    fc.property(fc.integer({ min: 20, max: 120 }), (f) => {
      expect(alongside(alongside(f, wide, end), end, wide)).toBe(f);
    }),
  );
  // At another rate it is the moment that counts: one second after the snap.
  expect(alongside(66, wide, shot("x", 0, 300, 60, film(60, 1)))).toBe(120);
});

test("back and forth turns where the frames end, one at a time", () => {
  const has = (f: number) => f >= 3 && f <= 6;
  let s: { at: number; way: 1 | -1 } = { at: 4, way: 1 };
  const seen = Array.from({ length: 9 }, () => (s = rocked(s.at, s.way, has)).at);
  expect(seen).toEqual([5, 6, 5, 4, 3, 4, 5, 6, 5]);
  expect(rocked(9, 1, () => false)).toEqual({ at: 9, way: 1 });
});

test("near frames are fetched first, and rather where it goes", () => {
  expect(around(5, 3, 0, 7, -1)).toEqual([4, 6, 3, 7, 2]);
});

test("what shows a play, wide first", () => {
  const a = shot("end", 0, 9);
  const b = shot("wide", 0, 9);
  const other = { ...a.clip, id: "other", play_id: "q" };
  const footage = {
    drawings: [],
    films: [a.film],
    clips: [a.clip, other, b.clip, { ...a.clip, id: "lost", film_id: "?" }],
  };
  expect(shotsOf(footage, (c) => c.play_id === "p").map((s) => s.clip.view)).toEqual(["wide", "end"]);
  expect(shotsOf(undefined, () => true)).toEqual([]);
});

test("when a frame is, from the snap", () => {
  const s = shot("wide", 0, 149, 36);
  expect([sinceSnap(24, s), sinceSnap(36, s), sinceSnap(66, s)]).toEqual(["−0.40 s", "+0.00 s", "+1.00 s"]);
  expect(sinceSnap(3, shot("wide", 0, 9))).toBeUndefined();
});
