import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import type { Schemas } from "@/api/client";
import { queries, type Kind } from "@/api/queries";
import { useKeys } from "@/app/keys";
import { useWhere } from "@/app/where";
import { Empty, Loading, Trouble } from "@/parts/States";
import { dayMonth } from "@/parts/words";
import { Drawing } from "./Drawing";
import { blank, fieldsOf, keyFrom, shown, type Field } from "./fields";
import { FieldInput } from "./Inputs";
import { TeachingHead } from "./Tabs";
import { useEntry, type EntryState, type Fields } from "./useEntry";

/** Changing an entry of the library to house terms: its fields, what ships, and every version of it. */
export function Editor() {
  const { kind = "", key = "" } = useParams();
  if (!(kind in fieldsOf)) return <Empty>There are no entries of this kind.</Empty>;
  return <Loader key={`${kind}/${key}`} kind={kind as Kind} entryKey={key} />;
}

function Loader({ kind, entryKey }: { kind: Kind; entryKey: string }) {
  const [params] = useSearchParams();
  const { group } = useWhere();
  const fresh = entryKey === "new";
  const library = useQuery(queries.library(group));
  const read = useQuery({ ...queries.entry(kind, entryKey), enabled: !fresh });
  const error = library.error ?? read.error;
  if (error) return <Trouble error={error} again={() => void read.refetch()} />;
  if (!library.data || (!fresh && !read.data)) return <Loading what="the entry" />;
  const technique = params.get("technique");
  const start: Fields = fresh
    ? { ...blank[kind], ...(technique ? { technique } : {}) }
    : (read.data?.fields ?? {});
  return <Form {...{ kind, fresh, start }} entryKey={entryKey} library={library.data} />;
}

interface FormProps {
  kind: Kind;
  entryKey: string;
  fresh: boolean;
  start: Fields;
  library: Schemas["Library"];
}

function Form({ kind, entryKey, fresh, start, library }: FormProps) {
  const navigate = useNavigate();
  const { base } = useWhere();
  const frame = useQuery(queries.frame());
  const [fields, setFields] = useState<Fields>(start);
  const [note, setNote] = useState("");
  // Typed text lives in some inputs; a new start makes them anew.
  const [round, setRound] = useState(0);
  const key = fresh ? keyFrom(typeof fields.name === "string" ? fields.name : "") : entryKey;
  const entry = useEntry(kind, key || "new", fresh);
  const editable = fresh || (entry.data?.editable ?? false);
  const put = (next: Fields) => {
    setFields(next);
    setRound((n) => n + 1);
  };
  const save = async () => {
    const saved = await entry.save(fields, { note: note || undefined });
    if (!saved) return;
    setNote("");
    put(saved.fields);
    if (fresh) void navigate(`${base}/teaching/edit/${kind}/${saved.key}`, { replace: true });
  };
  useKeys([{ keys: "Ctrl+s", does: "Save", run: () => void save() }]);
  const name = typeof fields.name === "string" && fields.name ? fields.name : `New ${kind}`;
  return (
    <>
      <TeachingHead title={name}>
        <button type="button" className="btn btn-quiet" onClick={() => void navigate(-1)}>
          Back
        </button>
        {editable && (
          <button
            type="submit"
            form="entry"
            className="btn btn-main"
            disabled={entry.saving || (fresh && !key)}
          >
            Save as a version
          </button>
        )}
      </TeachingHead>
      {!editable && (
        <p className="say mb-2 text-watch">
          This is taught by another group&apos;s coach. You can read it here; he or the head coach changes it.
        </p>
      )}
      {entry.clash && (
        <Clash
          entry={entry}
          mine={fields}
          theirs={entry.clash}
          onMine={() => void save()}
          onTheirs={() => {
            put(entry.clash!.fields);
            entry.takeTheirs();
          }}
        />
      )}
      {entry.message && !entry.clash && (
        <p role="alert" className="say mb-2 border border-fault bg-fault-wash p-2" data-testid="entry-error">
          {entry.message} Nothing you typed is lost.
        </p>
      )}
      <div className="grid items-start gap-3 xl:grid-cols-[minmax(0,1fr)_330px]">
        <form
          id="entry"
          className="sheet p-3"
          onSubmit={(e) => {
            e.preventDefault();
            void save();
          }}
        >
          <fieldset disabled={!editable} className="grid gap-x-5 gap-y-3 sm:grid-cols-12">
            <legend className="sr-only">{name}</legend>
            {fieldsOf[kind].map((f) => (
              <Line
                key={`${f.name} ${round}`}
                {...{ field: f, fields, library, entry }}
                groups={frame.data?.groups ?? []}
                onChange={(v) => setFields((old) => ({ ...old, [f.name]: v }))}
              />
            ))}
            <div className="sm:col-span-12">
              <label className="label" htmlFor="note">
                Why, for those who look back
              </label>
              <input
                id="note"
                className="field w-full"
                maxLength={300}
                value={note}
                onChange={(e) => setNote(e.target.value)}
              />
            </div>
          </fieldset>
        </form>
        <div className="grid gap-3">
          {kind === "drill" && <Preview fields={fields} name={name} />}
          {entry.data && <Shipped entry={entry} fields={fields} onPut={put} />}
          {entry.data && <History entry={entry} />}
        </div>
      </div>
    </>
  );
}

const spans: Partial<Record<Field["as"], string>> = {
  number: "sm:col-span-3",
  choice: "sm:col-span-3",
  pair: "sm:col-span-4",
  flag: "sm:col-span-6",
};

interface LineProps {
  field: Field;
  fields: Fields;
  library: Schemas["Library"];
  groups: Schemas["GroupRef"][];
  entry: EntryState;
  onChange: (value: unknown) => void;
}

function Line({ field: f, fields, library, groups, entry, onChange }: LineProps) {
  const wrong = entry.field?.startsWith(`fields.${f.name}`) ?? false;
  const changed = entry.data?.changed.includes(f.name);
  return (
    <div className={spans[f.as] ?? "sm:col-span-12"}>
      <label className="label" htmlFor={`f-${f.name}`}>
        {f.label}
        {changed && <span className="ml-1 text-flag">house</span>}
      </label>
      <div>
        <FieldInput
          {...{ field: f, fields, library, groups, onChange }}
          value={fields[f.name]}
          invalid={wrong}
          path={entry.field}
        />
      </div>
      {f.help && <p className="say text-small text-soft">{f.help}</p>}
      {wrong && <p className="say text-small text-fault">{entry.message}</p>}
    </div>
  );
}

/** Both versions of an entry that two coaches changed at once. */
function Clash({
  entry,
  mine,
  theirs,
  onMine,
  onTheirs,
}: {
  entry: EntryState;
  mine: Fields;
  theirs: Schemas["Entry"];
  onMine: () => void;
  onTheirs: () => void;
}) {
  const names = Object.keys({ ...mine, ...theirs.fields }).filter(
    (k) => JSON.stringify(mine[k]) !== JSON.stringify(theirs.fields[k]),
  );
  return (
    <section role="alert" className="mb-3 border-2 border-watch bg-sheet p-3" aria-label="Two versions">
      <p className="say">
        <b>{theirs.versions[0]?.by || "Someone else"} changed this entry while you did.</b> Nothing of yours
        is lost; choose which one holds.
      </p>
      <SideBySide left="Yours" right="Theirs" rows={names.map((n) => [n, mine[n], theirs.fields[n]])} />
      <p className="mt-2 flex gap-2">
        <button type="button" className="btn btn-main" disabled={entry.saving} onClick={onMine}>
          Keep mine
        </button>
        <button type="button" className="btn" onClick={onTheirs}>
          Take theirs
        </button>
      </p>
    </section>
  );
}

export function SideBySide({
  left,
  right,
  rows,
}: {
  left: string;
  right: string;
  rows: [string, unknown, unknown][];
}) {
  return (
    <table className="mt-1 w-full table-fixed text-small">
      <thead>
        <tr className="label text-left">
          <th className="w-24">Field</th>
          <th>{left}</th>
          <th>{right}</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(([name, a, b]) => (
          <tr key={name} className="border-t border-hair align-top">
            <td className="pr-2 font-semibold">{name.replaceAll("_", " ")}</td>
            <td className="say break-words whitespace-pre-wrap pr-3">{shown(a)}</td>
            <td className="say break-words whitespace-pre-wrap">{shown(b)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What ships, beside what the house made of it; and what an update of ours asks to decide. */
function Shipped({
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
        <div className="mt-2 border-l-4 border-watch pl-2" data-testid="conflicts">
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
              <button type="button" className="btn" onClick={() => void entry.save(fields)}>
                Keep ours
              </button>
              <button
                type="button"
                className="btn"
                onClick={() => {
                  const next = { ...fields };
                  for (const c of data.conflicts) next[c.field] = c.theirs;
                  onPut(next);
                  void entry.save(next);
                }}
              >
                Take the new one
              </button>
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
            <button type="button" className="btn btn-quiet mt-2" onClick={() => onPut(data.shipped!)}>
              Fill in what ships
            </button>
          )}
        </>
      )}
      {data.editable && (
        <p className="mt-2">
          <button type="button" className="btn btn-quiet" disabled={entry.saving} onClick={retire}>
            {data.retired ? "Teach it again" : "Do not teach it here"}
          </button>
        </p>
      )}
    </section>
  );
}

function History({ entry }: { entry: EntryState }) {
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

function Preview({ fields, name }: { fields: Fields; name: string }) {
  const setup = fields.setup as
    | {
        things?: { is: string; at: [number, number]; says?: string }[];
        ways?: { is: string; points: number[][] }[];
      }
    | undefined;
  const space = (fields.space_yd as [number, number] | undefined) ?? [6, 4];
  if (!setup?.things?.every((t) => Array.isArray(t.at))) return null;
  return (
    <section className="sheet p-3" aria-label="Drawing">
      <Drawing
        drill={{
          name,
          roles: String(fields.roles ?? ""),
          equipment: "",
          lanes: 1,
          space_length_yd: space[0],
          space_width_yd: space[1],
          setup: {
            things: setup.things.map((t) => ({ is: t.is, x: t.at[0], y: t.at[1], says: t.says })),
            ways: (setup.ways ?? []).filter((w) => Array.isArray(w.points)),
          },
        }}
      />
    </section>
  );
}
