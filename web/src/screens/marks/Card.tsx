import type { Schemas } from "@/api/client";
import { Button } from "@/kit/Button";
import { menWords } from "@/parts/words";

interface Props {
  card: Schemas["SheetCard"];
  n: number;
  of: number;
  /** What it asks of the player at hand. */
  technique: string;
  place?: string;
  onPlace: (place: string) => void;
}

/** The card of the rep: what is shown, the right answer, and, where it asks by place, whose place the player has. */
export function Card({ card, n, of, technique, place, onPlace }: Props) {
  return (
    <section className="my-2 border-y border-hair py-2" aria-label="Card of this rep">
      <p className="flex flex-wrap items-baseline gap-x-2">
        <span className="label">
          Card {n} of {of}
        </span>
        <b className="say">{card.look}</b>
        <span className="label ml-auto">{technique}</span>
      </p>
      <p className="say">
        <span className="label">Right</span> {card.right}
        {card.row && <span> ({card.row})</span>}
        {card.invites && <span className="text-soft"> · invites: {card.invites}</span>}
        {card.men && <span className="text-soft"> · {menWords(card.men)}</span>}
      </p>
      {card.places && (
        <div className="mt-1 flex flex-wrap gap-1.5" role="group" aria-label="Place on this card">
          {card.places.map((p) => (
            <Button key={p.place} kind="quiet" pressed={p.place === place} onClick={() => onPlace(p.place)}>
              {p.place.toUpperCase()}
            </Button>
          ))}
        </div>
      )}
    </section>
  );
}
