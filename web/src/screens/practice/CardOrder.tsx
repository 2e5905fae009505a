import type { Schemas } from "@/api/client";
import { Button } from "@/kit/Button";
import { Popover } from "@/kit/Popover";
import { Sortable } from "@/kit/Sortable";
import { reorder } from "@/kit/reorder";
import { inPack } from "./arrange";

type Drill = Schemas["Drill"];

interface Props {
  drill: Drill;
  /** Keys of the cards in the order of this placement; absent: as the library has them. */
  order?: string[];
  editable: boolean;
  onChange: (order: string[] | undefined) => void;
}

/** The cards of a drill in the order in which they are shown here; those taken out are not shown. */
export function CardOrder({ drill, order, editable, onChange }: Props) {
  const pack = inPack(drill, order);
  const out = (drill.cards ?? []).filter((c) => !pack.includes(c));
  const put = (cards: NonNullable<Drill["cards"]>) => {
    const keys = cards.map((c) => c.key);
    onChange(keys.join() === drill.cards?.map((c) => c.key).join() ? undefined : keys);
  };
  return (
    <Popover
      label={`Cards of ${drill.name}`}
      className="max-h-[min(70vh,var(--radix-popover-content-available-height))] w-[26rem] max-w-[95vw] overflow-auto p-3"
      trigger={
        <Button kind="text">
          {order ? `${pack.length} cards, own order` : "cards"}
          <span className="sr-only"> of {drill.name}</span>
        </Button>
      }
    >
      <h3 className="head mb-1">Rep 1 shows the first</h3>
      {editable ? (
        <Sortable
          label="Cards"
          one="card"
          items={pack}
          keyOf={(c) => c.key}
          onMove={(from, to) => put(reorder(pack, from, to))}
        >
          {(c, _, moves) => (
            <>
              <span className="say min-w-0 flex-1 text-small">{c.look}</span>
              <span className="flex gap-1">
                {moves}
                {pack.length > 1 && (
                  <Button kind="quiet" onClick={() => put(pack.filter((x) => x !== c))}>
                    out<span className="sr-only">: {c.look}</span>
                  </Button>
                )}
              </span>
            </>
          )}
        </Sortable>
      ) : (
        <ol className="say grid list-inside list-decimal gap-1 text-small">
          {pack.map((c) => (
            <li key={c.key}>{c.look}</li>
          ))}
        </ol>
      )}
      {editable && out.length > 0 && (
        <ul className="mt-2 grid gap-1" aria-label="Not shown">
          {out.map((c) => (
            <li key={c.key} className="flex items-baseline gap-2 text-small text-soft">
              <span className="say min-w-0 flex-1">{c.look}</span>
              <Button kind="quiet" onClick={() => put([...pack, c])}>
                show<span className="sr-only">: {c.look}</span>
              </Button>
            </li>
          ))}
        </ul>
      )}
      {editable && order && (
        <Button className="mt-2" onClick={() => onChange(undefined)}>
          As the library has them
        </Button>
      )}
    </Popover>
  );
}
