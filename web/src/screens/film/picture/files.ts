import type { Schemas } from "@/api/client";

/** Up to this size a video is fetched whole: then every frame of it is at hand, with or without a line. */
const whole = 24 << 20;
const keptAtMost = 12;

const kept = new Map<string, Promise<string>>();

export const addressOf = (film: Schemas["Film"]) => `/api/v1/films/${film.id}/content`;

async function fetched(film: Schemas["Film"]): Promise<string> {
  const answer = await fetch(addressOf(film)).catch(() => {
    throw new Error("there is no line to the server");
  });
  if (answer.status === 401) throw new Error("the session has ended");
  if (!answer.ok)
    throw new Error(answer.status === 404 ? "it is not in the film store" : "the server did not send it");
  return URL.createObjectURL(await answer.blob());
}

/** An address that a video element can play. Videos that were watched last are kept. */
export function playable(film: Schemas["Film"]): Promise<string> {
  if (film.size > whole) return Promise.resolve(addressOf(film));
  const known = kept.get(film.id);
  kept.delete(film.id);
  const url = known ?? fetched(film);
  kept.set(film.id, url);
  url.catch(() => kept.delete(film.id));
  for (const [id, old] of kept) {
    if (kept.size <= keptAtMost) break;
    kept.delete(id);
    void old.then((u) => URL.revokeObjectURL(u)).catch(() => undefined);
  }
  return url;
}
