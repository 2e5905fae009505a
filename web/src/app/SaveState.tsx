import { Button, ButtonLink } from "@/kit/Button";
import { Popover } from "@/kit/Popover";
import { count } from "@/parts/words";
import type { Rec } from "@/sync/machine";
import { kindOf } from "@/sync/kinds";
import { useRecords, useSaving } from "@/sync/react";
import { useSync } from "@/sync/context";
import type { Saving } from "@/sync/engine";

/** How the saving stands, in a few words: the one place that says so. */
export function stateOf(s: Saving): { text: string; tone: "quiet" | "waits" | "wrong" } | undefined {
  if (s.troubled > 0) return { text: `${s.troubled} not saved`, tone: "wrong" };
  if (s.waiting > 0)
    return { text: `${s.waiting} waiting${s.why ? `: ${s.why}` : ""}`, tone: s.why ? "wrong" : "waits" };
  if (s.savedAt) return { text: `Saved ${s.savedAt.toTimeString().slice(0, 5)}`, tone: "quiet" };
  return undefined;
}

const looks = {
  quiet: "border-rule",
  waits: "border-dashed border-watch text-watch",
  wrong: "border-fault text-fault",
};

/** The saving state of the frame; pressed, it lists what is not saved and what can be done about it. */
export function SaveState() {
  const saving = useSaving();
  const state = stateOf(saving);
  if (!state) return null;
  return (
    <Popover
      label="What is not saved"
      align="end"
      className="w-96 p-3"
      trigger={
        <Button
          kind="bare"
          className={`max-w-56 truncate border px-2 text-small font-semibold max-sm:max-w-28 ${looks[state.tone]}`}
        >
          <span role="status">{state.text}</span>
        </Button>
      }
    >
      <Waiting />
    </Popover>
  );
}

function Waiting() {
  const saving = useSaving();
  const list = [...useRecords().values()];
  const troubled = list.filter((r) => r.trouble);
  const waiting = list.length - troubled.length;
  return (
    <>
      <h2 className="head">
        {list.length === 0
          ? "All is saved"
          : troubled.length > 0
            ? "What is not saved"
            : "What waits to be saved"}
      </h2>
      {list.length === 0 && saving.savedAt && (
        <p className="say text-small text-soft">
          The last time at {saving.savedAt.toTimeString().slice(0, 5)}.
        </p>
      )}
      {waiting > 0 && (
        <p className="say text-small">
          {count(waiting, "change")} {waiting === 1 ? "waits" : "wait"}
          {saving.why ? `: ${saving.why}.` : "."}{" "}
          {saving.pageOnly
            ? "This browser keeps nothing: they live as long as this page."
            : "They are kept on this device and sent as soon as that is possible."}
        </p>
      )}
      {troubled.length > 0 && (
        <ul className="mt-2 divide-y divide-hair">
          {troubled.map((r) => (
            <TroubleLine key={r.key} rec={r} />
          ))}
        </ul>
      )}
    </>
  );
}

function TroubleLine({ rec }: { rec: Rec }) {
  const { engine } = useSync();
  const trouble = rec.trouble!;
  const what = rec.about?.says ?? kindOf(rec.kind)?.name ?? "A change";
  return (
    <li className="py-2">
      <p className="name">{what}</p>
      <p className="say text-small text-fault">{trouble.message}</p>
      <p className="mt-1 flex flex-wrap gap-2">
        {rec.about && (
          <ButtonLink to={rec.about.href}>
            Go there<span className="sr-only">: {what}</span>
          </ButtonLink>
        )}
        {trouble.why === "refused" && (
          <Button kind="quiet" onClick={() => engine.again(rec.key)}>
            Try again<span className="sr-only">: {what}</span>
          </Button>
        )}
        <Button kind="quiet" onClick={() => engine.drop(rec.key)}>
          Let it go<span className="sr-only">: {what}</span>
        </Button>
      </p>
    </li>
  );
}
