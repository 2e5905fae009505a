import { Button } from "@/kit/Button";
import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import type { Schemas } from "@/api/client";
import { queries, type Kind } from "@/api/queries";
import { useKeys } from "@/keys/react";
import { OutOfBounds } from "@/app/NotFound";
import { useWhere } from "@/app/where";
import { Loading, Trouble, Refusal } from "@/kit/States";
import { useSettled } from "@/kit/useSettled";
import { Both } from "@/parts/Both";
import { count } from "@/parts/words";
import { Field as Labelled } from "@/kit/Field";
import { Draft } from "@/kit/form/Draft";
import { part, shapeOf, wrongsOf } from "@/kit/form/shape";
import { useDraft } from "@/sync/drafts";
import { useUndo } from "@/sync/undo";
import { History, Shipped } from "./EntrySide";
import { blank, fieldsOf, inWords, keyFrom, shapeFor, shown, type Field } from "./fields";
import { FieldInput, spanOf } from "./Inputs";
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
  const [wrong, setWrong] = useState<Record<string, string>>({});
  const form = useRef<HTMLFormElement>(null);
  const save = async (what: Fields = fields) => {
    const found = await wrongsOf(shapeFor(kind), { ...what, key: key || undefined });
    setWrong(found);
    const first = Object.keys(found)[0]?.split(".")[0];
    if (first) {
      const field = form.current?.elements.namedItem(`f-${first}`);
      if (field instanceof HTMLElement) field.focus();
      return;
    }
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
        <Refusal className="mb-2">
          {inWords(entry.message).replace(/\.?$/, ".")} Nothing you typed is lost.
        </Refusal>
      )}
      {editable && steps.canUndo && key && !entry.message && (
        <Breaks kind={kind} entryKey={key} fields={fields} />
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
          ref={form}
          id="entry"
          noValidate
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
                {...{ kind, field: f, fields, library, entry, wrong }}
                groups={frame.data?.groups ?? []}
                onChange={(v) => type(f.name, v)}
              />
            ))}
            <Labelled id="note" label="Why, for those who look back" className="sm:col-span-12">
              {(control) => (
                <input
                  {...control}
                  className="field w-full"
                  maxLength={part(shapeOf("putEntry"), "note").maxLength}
                  value={note}
                  onChange={(e) => {
                    setNote(e.target.value);
                    draft.keep({ fields, note: e.target.value });
                  }}
                />
              )}
            </Labelled>
          </fieldset>
        </form>
        <div className="grid gap-3">
          {entry.data && <Shipped entry={entry} fields={fields} onPut={put} />}
          {entry.data && <History entry={entry} />}
        </div>
      </div>
    </>
  );
}

interface LineProps {
  kind: Kind;
  field: Field;
  fields: Fields;
  library: Schemas["Library"];
  groups: Schemas["GroupRef"][];
  entry: EntryState;
  /** What was found wrong before it was sent, by the path of the field. */
  wrong: Record<string, string>;
  onChange: (value: unknown) => void;
}

function Line({ kind, field: f, fields, library, groups, entry, wrong, onChange }: LineProps) {
  const here = Object.keys(wrong).find((path) => path.split(".")[0] === f.name);
  const refused = entry.field?.startsWith(`fields.${f.name}`)
    ? entry.message && inWords(entry.message)
    : undefined;
  return (
    <Labelled
      id={`f-${f.name}`}
      className={spanOf(f)}
      label={
        <>
          {f.label}
          {entry.data?.changed.includes(f.name) && <span className="ml-1 text-flag">house</span>}
        </>
      }
      hint={f.help}
      error={here ? wrong[here] : refused}
    >
      {(control) => (
        <FieldInput
          {...{ field: f, fields, library, groups, control, onChange }}
          takes={part(shapeFor(kind), f.name)}
          value={fields[f.name]}
          path={entry.field}
          names={entry.data?.names ?? {}}
        />
      )}
    </Labelled>
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
        name: fieldsOf[theirs.kind as Kind].find((f) => f.name === n)?.label ?? n.replaceAll("_", " "),
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

/** What the entry as it is being typed would break, said while it is typed. */
function Breaks({ kind, entryKey, fields }: { kind: Kind; entryKey: string; fields: Fields }) {
  const settled = useSettled(fields, 600);
  const check = useQuery({ ...queries.entryCheck(kind, entryKey, settled), placeholderData: (last) => last });
  const list = check.data?.breaks ?? [];
  return (
    <div role="status" aria-label="What it breaks" className="mb-2">
      {list.length > 0 && (
        <div className="border-l-4 border-watch bg-sheet p-3">
          <p className="say">
            <b>As it stands this breaks {count(list.length, "thing")}.</b>
          </p>
          <ul className="say list-disc pl-5">
            {list.map((says) => (
              <li key={says}>{inWords(says.replace(`${kind} ${entryKey}: `, ""))}</li>
            ))}
          </ul>
        </div>
      )}
    </div>
  );
}
