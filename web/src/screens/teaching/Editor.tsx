import { Button } from "@/kit/Button";
import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import type { Schemas } from "@/api/client";
import { queries, type Kind } from "@/api/queries";
import { useKeys } from "@/keys/react";
import { OutOfBounds } from "@/app/NotFound";
import { useWhere } from "@/app/where";
import { Loading, Trouble } from "@/parts/States";
import { Both } from "@/parts/Both";
import { Draft } from "@/parts/Draft";
import { dayMonth } from "@/parts/words";
import { useDraft } from "@/sync/drafts";
import { useUndo } from "@/sync/undo";
import { Drawing } from "./Drawing";
import { blank, fieldsOf, keyFrom, shown, type Field } from "./fields";
import { FieldInput } from "./Inputs";
import { TeachingHead } from "./Tabs";
import { useEntry, type EntryState, type Fields } from "./useEntry";

/** Changing an entry of the library to house terms: its fields, what ships, and every version of it. */
export function Editor() {
  const { kind = "", key = "" } = useParams();
  if (!(kind in fieldsOf)) return <OutOfBounds>The library has no entries of this kind.</OutOfBounds>;
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

/** What is typed in an editor. */
interface Typed {
  fields: Fields;
  note: string;
}

const typingPause = 1500; // ms after which typing on in a field is a new step

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
  // What is typed is made on the version that the form began with, whatever comes in meanwhile.
  const [on, setOn] = useState(entry.data?.version);
  const draft = useDraft<Typed>(`entry/${kind}/${entryKey}`, String(on ?? 0));
  const show = (next: Fields) => {
    setFields(next);
    setRound((n) => n + 1);
  };
  const steps = useUndo<Fields>((next) => {
    show(next);
    draft.keep({ fields: next, note });
  });
  /** Puts other fields in place of these, as a step that can be taken back. */
  const put = (next: Fields) => {
    steps.record(fields, next);
    show(next);
    draft.keep({ fields: next, note });
  };
  // Typing on in a field is one step, until he pauses or goes elsewhere.
  const typing = useRef<{ field: string; end: ReturnType<typeof setTimeout> }>(undefined);
  const type = (field: string, value: unknown) => {
    const next = { ...fields, [field]: value };
    if (typing.current?.field === field) steps.amend(next);
    else steps.record(fields, next);
    clearTimeout(typing.current?.end);
    typing.current = { field, end: setTimeout(() => (typing.current = undefined), typingPause) };
    setFields(next);
    draft.keep({ fields: next, note });
  };
  const saved = (now: Schemas["Entry"]) => {
    setNote("");
    draft.drop();
    steps.forget();
    setOn(now.version);
    show(now.fields);
    if (fresh) void navigate(`${base}/teaching/edit/${kind}/${now.key}`, { replace: true });
  };
  const save = async (what: Fields = fields) => {
    const now = await entry.save(what, { note: note || undefined }, on);
    if (now) saved(now);
  };
  // Nothing is typed yet: what somebody else has saved is taken over.
  const latest = entry.data;
  if (
    latest &&
    on !== undefined &&
    latest.version !== on &&
    !steps.canUndo &&
    !entry.saving &&
    !entry.clash
  ) {
    setOn(latest.version);
    if (JSON.stringify(latest.fields) !== JSON.stringify(fields)) show(latest.fields);
  }
  const may = editable && !entry.saving && !(fresh && !key);
  useKeys([
    ...(may ? [{ keys: "Ctrl+s", does: "Save", inFields: true, run: () => void save() }] : []),
    ...(steps.canUndo ? [{ keys: "Ctrl+z", does: "Undo", run: () => void steps.undo() }] : []),
    ...(steps.canRedo
      ? [{ keys: "Ctrl+Shift+z Ctrl+y", does: "Do it again", run: () => void steps.redo() }]
      : []),
  ]);
  const name = typeof fields.name === "string" && fields.name ? fields.name : `New ${kind}`;
  return (
    <>
      <TeachingHead title={name}>
        <Button kind="quiet" onClick={() => void navigate(-1)}>
          Back
        </Button>
        {editable && (
          <>
            <Button kind="quiet" off={!steps.canUndo} onClick={() => void steps.undo()}>
              Undo
            </Button>
            <Button kind="quiet" off={!steps.canRedo} onClick={() => void steps.redo()}>
              Redo
            </Button>
            <Button type="submit" form="entry" kind="main" off={!may}>
              {entry.saving ? "Saving" : "Save as a version"}
            </Button>
          </>
        )}
      </TeachingHead>
      {!editable && (
        <p className="say mb-2 text-watch">
          This is taught by another group&apos;s coach. You can read it here; he or the head coach changes it.
        </p>
      )}
      {entry.clash && (
        <Clash
          mine={fields}
          theirs={entry.clash}
          onChosen={(next) => {
            show(next);
            void save(next);
          }}
          onTheirs={() => {
            show(entry.clash!.fields);
            setOn(entry.clash!.version);
            draft.drop();
            steps.forget();
            entry.takeTheirs();
          }}
        />
      )}
      {entry.message && !entry.clash && (
        <p role="alert" className="say mb-2 border border-fault bg-fault-wash p-2">
          {entry.message} Nothing you typed is lost.
        </p>
      )}
      <div className="mb-2">
        <Draft
          draft={draft}
          onTake={(kept) => {
            steps.record(fields, kept.fields);
            show(kept.fields);
            setNote(kept.note);
            draft.keep(kept);
          }}
        />
      </div>
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
                onChange={(v) => type(f.name, v)}
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
                onChange={(e) => {
                  setNote(e.target.value);
                  draft.keep({ fields, note: e.target.value });
                }}
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

/** Both versions of an entry that two coaches changed at once, field by field. */
function Clash({
  mine,
  theirs,
  onChosen,
  onTheirs,
}: {
  mine: Fields;
  theirs: Schemas["Entry"];
  onChosen: (fields: Fields) => void;
  onTheirs: () => void;
}) {
  const names = Object.keys({ ...mine, ...theirs.fields }).filter(
    (k) => JSON.stringify(mine[k]) !== JSON.stringify(theirs.fields[k]),
  );
  return (
    <Both
      title="Two versions of this entry"
      message={`${theirs.versions[0]?.by || "Someone else"} changed this entry while you did.`}
      parts={names.map((n) => ({
        key: n,
        name: n.replaceAll("_", " "),
        mine: shown(mine[n]),
        theirs: shown(theirs.fields[n]),
      }))}
      onChosen={(own) => {
        const next = { ...mine };
        for (const n of names) if (!own.has(n)) next[n] = theirs.fields[n];
        onChosen(next);
      }}
      onTheirs={onTheirs}
    />
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
