import { Button } from "@/kit/Button";
import clsx from "clsx";
import { useState, type FormEvent, type KeyboardEvent } from "react";
import { Both, type Part } from "@/parts/Both";
import { Draft } from "@/parts/Draft";
import { feet } from "@/parts/words";
import { useDraft } from "@/sync/drafts";
import { useSave } from "@/sync/react";
import { inInches, typedHeight } from "./height";
import { inputOf, useSavePlayer, type Input, type Player } from "./useRoster";

interface Props {
  id: string;
  /** The version of the player that is edited; 0 for a new one. */
  version: number;
  input: Input;
  groups: { key: string; name: string; short: string; mine: boolean }[];
  span: number;
  onDone: () => void;
}

const texts = [
  { field: "jersey", label: "No.", width: "w-14", longest: 5 },
  { field: "first_name", label: "First name", width: "w-32", longest: 80 },
  { field: "last_name", label: "Last name", width: "w-36", longest: 80 },
  { field: "position", label: "Position", width: "w-16", longest: 40 },
] as const;

/** A line as it is typed: numbers are kept as they are typed ("1." on its way to "1.5") and read when they are sent. */
interface Typed {
  now: Input;
  height: { feet: string; inches: string };
  weight: string;
}

const typedOf = (input: Input): Typed => ({
  now: input,
  height: typedHeight(input.height_in),
  weight: input.weight_lb ? String(input.weight_lb) : "",
});

/** A player's line while it is edited, in its place in the list. Enter saves, Escape leaves it as it was. */
export function EditRow({ id, version, input, groups, span, onDone }: Props) {
  const fresh = version === 0;
  const [typed, setTyped] = useState(() => typedOf(input));
  // What is typed is made on the version that the line began with, whatever comes in meanwhile.
  const [on] = useState(version);
  const { now, height, weight } = typed;
  const draft = useDraft<Typed>(fresh ? "player/new" : `player/${id}`, String(on));
  const save = useSavePlayer();
  const saving = useSave<Input>("player", `player/${id}`);
  const field = saving.refused?.field;
  const put = (next: Typed) => {
    setTyped(next);
    draft.keep(next);
  };
  const set = (part: Partial<Input>) => put({ ...typed, now: { ...now, ...part } });
  const setHeight = (h: Typed["height"]) => put({ ...typed, height: h });
  const setWeight = (w: string) => put({ ...typed, weight: w });
  const sent = (): Input => ({
    ...now,
    height_in: inInches(height),
    weight_lb: Number.parseFloat(weight) || null,
  });
  const submit = async (e: FormEvent) => {
    e.preventDefault();
    const done = await save(id, on, sent());
    if (done.is !== "saved") return;
    draft.drop();
    onDone();
  };
  const leave = () => {
    draft.drop();
    if (saving.refused) saving.drop();
    onDone();
  };
  const onKeyDown = (e: KeyboardEvent) => {
    if (e.key === "Escape") {
      e.stopPropagation();
      leave();
    }
  };
  const invalid = (name: string) => field === name || undefined;
  return (
    <tr className="border-b border-ink bg-flag-wash">
      <td colSpan={span} className="p-2">
        {/* eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions -- Escape leaves the form from any of its fields */}
        <form
          onSubmit={(e) => void submit(e)}
          onKeyDown={onKeyDown}
          noValidate
          aria-label={fresh ? "A new player" : `${input.first_name} ${input.last_name}`}
          className="flex flex-wrap items-end gap-x-2 gap-y-2"
        >
          {texts.map((f) => (
            <label key={f.field} className="grid gap-0.5">
              <span className="label">{f.label}</span>
              <input
                className={clsx("field", f.width)}
                maxLength={f.longest}
                value={now[f.field]}
                aria-invalid={invalid(f.field)}
                // eslint-disable-next-line jsx-a11y/no-autofocus -- the coach asked for this line
                autoFocus={f.field === "jersey"}
                onChange={(e) => set({ [f.field]: e.target.value })}
              />
            </label>
          ))}
          <fieldset className="grid gap-0.5">
            <legend className="label">Height</legend>
            <span className="flex items-center gap-1">
              <input
                className="field w-11"
                inputMode="numeric"
                aria-label="feet"
                value={height.feet}
                aria-invalid={invalid("height_in")}
                onChange={(e) => setHeight({ ...height, feet: e.target.value })}
              />
              ft
              <input
                className="field w-12"
                inputMode="decimal"
                aria-label="inches"
                value={height.inches}
                aria-invalid={invalid("height_in")}
                onChange={(e) => setHeight({ ...height, inches: e.target.value })}
              />
              in
            </span>
          </fieldset>
          <label className="grid gap-0.5">
            <span className="label">Weight, lb</span>
            <input
              className="field w-16"
              inputMode="numeric"
              value={weight}
              aria-invalid={invalid("weight_lb")}
              onChange={(e) => setWeight(e.target.value)}
            />
          </label>
          <fieldset className={clsx("grid gap-0.5", invalid("groups") && "text-fault")}>
            <legend className="label">Groups</legend>
            <span className="flex flex-wrap gap-x-2 gap-y-1">
              {groups.map((g) => (
                <label key={g.key} className="flex min-h-7 items-center gap-1">
                  <input
                    type="checkbox"
                    checked={now.groups.includes(g.key)}
                    onChange={(e) =>
                      set({
                        groups: e.target.checked
                          ? [...now.groups, g.key]
                          : now.groups.filter((k) => k !== g.key),
                      })
                    }
                  />
                  <span aria-hidden>{g.short}</span>
                  <span className="sr-only">{g.name}</span>
                </label>
              ))}
            </span>
          </fieldset>
          <label className="flex min-h-7 items-center gap-1.5">
            <input
              type="checkbox"
              checked={now.returning}
              onChange={(e) => set({ returning: e.target.checked })}
            />
            Played here last season
          </label>
          <span className="ml-auto flex gap-2">
            <Button type="submit" kind="main" off={saving.busy}>
              {saving.busy ? "Saving" : fresh ? "Add" : "Save"}
            </Button>
            <Button kind="quiet" onClick={leave}>
              {saving.busy ? "Go on" : "Leave it"} <span className="kbd">Esc</span>
            </Button>
          </span>
          {saving.busy && (
            <p role="status" className="appear-late say w-full text-small text-soft">
              It is kept on this device and saved as soon as the server answers. You can go on.
            </p>
          )}
          {saving.refused && (
            <p role="alert" className="say w-full text-fault">
              {saving.refused.message}
            </p>
          )}
          <Draft
            draft={draft}
            onTake={(kept) => {
              setTyped(kept);
              draft.keep(kept);
            }}
          />
          {saving.conflict && (
            <TwoVersions
              mine={sent()}
              theirs={saving.conflict.theirs as Player}
              message={saving.conflict.message}
              onSettle={(input) =>
                void saving.settle(input).then((done) => {
                  if (done.is !== "saved") return;
                  draft.drop();
                  onDone();
                })
              }
              onTheirs={() => {
                saving.drop();
                draft.drop();
                onDone();
              }}
            />
          )}
        </form>
      </td>
    </tr>
  );
}

const names: Record<keyof Input, string> = {
  jersey: "Number",
  first_name: "First name",
  last_name: "Last name",
  position: "Position",
  height_in: "Height",
  weight_lb: "Weight",
  groups: "Groups",
  returning: "Played here last season",
  archived: "Archived",
};

function say(field: keyof Input, p: Input): string {
  const v = p[field];
  if (v === null || v === undefined || v === "") return "nothing";
  if (field === "height_in") return feet(v as number);
  if (field === "weight_lb") return `${v as number} lb`;
  if (Array.isArray(v)) return v.join(", ");
  return typeof v === "boolean" ? (v ? "yes" : "no") : String(v);
}

/** Two coaches changed one player: both versions, field by field. */
function TwoVersions({
  mine,
  theirs,
  message,
  onSettle,
  onTheirs,
}: {
  mine: Input;
  theirs: Player;
  message: string;
  onSettle: (input: Input) => void;
  onTheirs: () => void;
}) {
  const other = inputOf(theirs);
  const fields = (Object.keys(names) as (keyof Input)[]).filter((f) => say(f, mine) !== say(f, other));
  const parts = fields.map((f): Part => ({
    key: f,
    name: names[f],
    mine: say(f, mine),
    theirs: say(f, other),
  }));
  return (
    <Both
      title="Two versions of this player"
      message={message}
      parts={parts}
      onChosen={(own) => {
        const kept = Object.fromEntries(fields.filter((f) => own.has(f)).map((f) => [f, mine[f]]));
        onSettle({ ...other, ...kept });
      }}
      onTheirs={onTheirs}
    />
  );
}
