import type { Schemas } from "@/api/client";

/** What one camera saw of a play: where in which video. */
export interface Shot {
  clip: Schemas["Clip"];
  film: Schemas["Film"];
}

/** A moment in the middle of a frame: a browser that seeks there shows that frame, and no neighbour. */
export const timeOf = (frame: number, f: Schemas["Film"]) => ((frame + 0.5) * f.fps_den) / f.fps_num;

/**
 * The frame that begins at, or is shown at, a time of the video. Containers tell thousandths of a second, cut off or
 * rounded: up to a quarter of a frame before it begins, the time is that frame's.
 */
export const frameOf = (time: number, f: Schemas["Film"]) =>
  Math.max(0, Math.min(f.frames - 1, Math.floor((time * f.fps_num) / f.fps_den + 0.25)));

/** The frame of another camera at the same moment: they are in step at the snap, or at their beginning. */
export function alongside(frame: number, one: Shot, other: Shot): number {
  const both = one.clip.snap !== undefined && other.clip.snap !== undefined;
  const from = both ? one.clip.snap! : one.clip.first;
  const to = both ? other.clip.snap! : other.clip.first;
  const seconds = ((frame - from) * one.film.fps_den) / one.film.fps_num;
  const there = to + Math.round((seconds * other.film.fps_num) / other.film.fps_den);
  return Math.max(other.clip.first, Math.min(other.clip.last, there));
}

/** Views in the order in which they are gone through: wide first, then by their names. */
export const byView = (a: Shot, b: Shot) =>
  Number(b.clip.view === "wide") - Number(a.clip.view === "wide") || (a.clip.view < b.clip.view ? -1 : 1);

/** What of the footage shows a play. */
export function shotsOf(
  footage: Schemas["Footage"] | undefined,
  of: (c: Schemas["Clip"]) => boolean,
): Shot[] {
  const films = new Map(footage?.films.map((f) => [f.id, f]));
  return (footage?.clips ?? [])
    .filter(of)
    .flatMap((clip) => {
      const film = films.get(clip.film_id);
      return film ? [{ clip, film }] : [];
    })
    .sort(byView);
}

/**
 * The next frame of the picture that is run back and forth: one on, and back where it ends. It ends where frames
 * are not at hand yet, so that what is seen never stutters.
 */
export function rocked(
  at: number,
  way: 1 | -1,
  has: (frame: number) => boolean,
): { at: number; way: 1 | -1 } {
  if (has(at + way)) return { at: at + way, way };
  const back = way === 1 ? -1 : 1;
  return has(at + back) ? { at: at + back, way: back } : { at, way };
}

/** Frames around one in the order in which they are fetched: near ones first, and rather where it goes. */
export function around(at: number, reach: number, first: number, last: number, way: 1 | -1): number[] {
  const list: number[] = [];
  for (let d = 1; d <= reach; d++)
    for (const n of [at + way * d, at - way * d]) if (n >= first && n <= last) list.push(n);
  return list;
}

/** How fast it runs. */
export const paces = [0.25, 0.5, 1] as const;

/** When a frame is, from the snap: −0.40 s. */
export function sinceSnap(frame: number, s: Shot): string | undefined {
  if (s.clip.snap === undefined) return undefined;
  const seconds = ((frame - s.clip.snap) * s.film.fps_den) / s.film.fps_num;
  return `${seconds < 0 ? "−" : "+"}${Math.abs(seconds).toFixed(2)} s`;
}
