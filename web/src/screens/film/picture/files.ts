import type { Schemas } from "@/api/client";

/** Up to this size a video is fetched whole: then every frame of it is at hand, with or without a line. */
const whole = 24 << 20;
const keptAtMost = 12;

/** Files of videos that stay on this machine, as they were chosen since the page was opened. */
const here = new Map<string, { file: File; url: string }>();

/** Makes the file of a video that stays here known. */
export function keepHere(digest: string, file: File) {
  if (!here.has(digest)) here.set(digest, { file, url: URL.createObjectURL(file) });
}

/** Whether its file was chosen. */
export const isHere = (film: Schemas["Film"]) => here.has(film.digest);

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
  if (film.local) {
    const chosen = here.get(film.digest);
    return chosen
      ? Promise.resolve(chosen.url)
      : Promise.reject(
          new Error(`it stays on the machine of whoever has it; choose “${film.name}” under Videos`),
        );
  }
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
