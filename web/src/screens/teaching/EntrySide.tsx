import { Button } from "@/kit/Button";
import { dayMonth } from "@/parts/words";
import { SideBySide } from "./SideBySide";
import type { EntryState, Fields } from "./useEntry";

/** What ships, beside what the house made of it; and what an update of ours asks to decide. */
export function Shipped({
  entry,
  fields,
  onPut,
}: {
  entry: EntryState;
  fields: Fields;
  onPut: (f: Fields) => void;
}) {
  const data = entry.data!;
  const retire = () =>
    void entry.save(undefined, { retired: !data.retired }).then((saved) => saved && onPut(saved.fields));
  return (
    <section className="sheet p-3" aria-label="House and shipped">
      <h2 className="head">
        {data.added ? "The club's own" : data.changed.length === 0 ? "As it ships" : "Changed by the house"}
        {data.retired && ", not taught"}
      </h2>
      {data.conflicts.length > 0 && (
        <div className="mt-2 border-l-4 border-watch pl-2">
          <p className="say text-small">
            <b>The library was updated where you had changed it.</b> Yours holds until you decide.
          </p>
          <SideBySide
            left="Ours"
            right="As it ships now"
            rows={data.conflicts.map((c) => [c.field, c.ours, c.theirs])}
          />
          {data.editable && (
            <p className="mt-1 flex gap-2">
              <Button onClick={() => void entry.save(fields)}>Keep ours</Button>
              <Button
                onClick={() => {
                  const next = { ...fields };
                  for (const c of data.conflicts) next[c.field] = c.theirs;
                  onPut(next);
                  void entry.save(next);
                }}
              >
                Take the new one
              </Button>
            </p>
          )}
        </div>
      )}
      {data.shipped && data.changed.length > 0 && (
        <>
          <SideBySide
            left="House"
            right="Shipped"
            rows={data.changed.map((n) => [n, data.fields[n], data.shipped?.[n]])}
          />
          {data.editable && (
            <Button kind="quiet" className="mt-2" onClick={() => onPut(data.shipped!)}>
              Fill in what ships
            </Button>
          )}
        </>
      )}
      {data.editable && (
        <p className="mt-2">
          <Button kind="quiet" off={entry.saving} onClick={retire}>
            {data.retired ? "Teach it again" : "Do not teach it here"}
          </Button>
        </p>
      )}
    </section>
  );
}

/** Every version of an entry. */
export function History({ entry }: { entry: EntryState }) {
  const list = entry.data!.versions;
  if (list.length === 0) return null;
  return (
    <section className="sheet p-3" aria-label="Versions">
      <h2 className="head">Versions</h2>
      <ol className="mt-1 grid gap-1">
        {list.map((v) => (
          <li key={v.version} className="say text-small">
            <b>{v.version}</b> {dayMonth(v.at)} {v.by && `by ${v.by}`}: {v.summary}
          </li>
        ))}
      </ol>
      <p className="label mt-2 normal-case tracking-normal">Marks keep the version they were made by.</p>
    </section>
  );
}
