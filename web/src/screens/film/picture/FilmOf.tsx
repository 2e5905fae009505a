import type { Film } from "./useFilm";
import { Picture } from "./Picture";

/** The play on film, or that it is not. */
export function FilmOf({ film, nothing = "This play is not on film." }: { film: Film; nothing?: string }) {
  if (film.deck) return <Picture deck={film.deck} drawings={film.drawings} onAgain={film.again} />;
  return (
    <section
      aria-label="The picture"
      className="grid aspect-video place-items-center border border-rule bg-rail p-6 text-rail-ink"
    >
      <p className="say">{nothing}</p>
    </section>
  );
}
