import { Button } from "@/kit/Button";
import { useController } from "react-hook-form";
import { FieldGroup } from "@/kit/Field";
import { Form, useFormOf } from "@/kit/form/Form";
import { CheckField, ChoiceField, NumberField, TextField, useFieldOf } from "@/kit/form/fields";
import { part, shapeOf } from "@/kit/form/shape";
import { useState, type KeyboardEvent } from "react";
import { Both, type Part } from "@/parts/Both";
import { feet } from "@/parts/words";
import { useDraft } from "@/sync/drafts";
import { useSave } from "@/sync/react";
import { inInches, typedHeight, type Height } from "./height";
import { inputOf, useSavePlayer, type Input, type Player } from "./useRoster";

interface Props {
  id: string;
  /** The version of the player that is edited; 0 for a new one. */
  version: number;
  input: Input;
  groups: { key: string; name: string; short: string; mine: boolean }[];
  onDone: () => void;
}

/** A player's line while it is edited, in its place in the list. Enter saves, Escape leaves it as it was. */
export function EditRow({ id, version, input, groups, onDone }: Props) {
  const fresh = version === 0;
  // What is typed is made on the version that the line began with, whatever comes in meanwhile.
  const [on] = useState(version);
  const draft = useDraft<Input>(fresh ? "player/new" : `player/${id}`, String(on));
  const of = useFormOf("putPlayer", input, draft);
  const save = useSavePlayer();
  const saving = useSave<Input>("player", `player/${id}`);
  const done = () => {
    draft.drop();
    onDone();
  };
  const submit = async (now: Input) => {
    if ((await save(id, on, now)).is === "saved") done();
  };
  const leave = () => {
    if (saving.refused) saving.drop();
    done();
  };
  const onKeyDown = (e: KeyboardEvent) => {
    if (e.key === "Escape") {
      e.stopPropagation();
      leave();
    }
  };
  return (
    // Escape leaves the form from any of its fields.
    <Form
      of={of}
      draft={draft}
      refused={saving.refused}
      onSave={(now) => void submit(now)}
      onKeyDown={onKeyDown}
      aria-label={fresh ? "A new player" : `${input.first_name} ${input.last_name}`}
      className="flex flex-wrap items-start gap-x-2 gap-y-2 bg-flag-wash p-2"
    >
      <TextField
        name="jersey"
        className="w-14"
        // eslint-disable-next-line jsx-a11y/no-autofocus -- the coach asked for this line
        autoFocus
      />
      <TextField name="first_name" className="w-32" />
      <TextField name="last_name" className="w-36" />
      <TextField name="position" className="w-20" />
      <HeightField />
      <NumberField name="weight_lb" className="w-16" />
      <ChoiceField
        name="groups"
        several
        options={groups.map((g) => ({ value: g.key, name: g.name, short: g.short }))}
      />
      <span className="self-center">
        <CheckField name="returning" />
      </span>
      <span className="ml-auto flex gap-2 self-center">
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
      {saving.conflict && (
        <TwoVersions
          mine={of.form.getValues()}
          theirs={saving.conflict.theirs as Player}
          message={saving.conflict.message}
          onSettle={(now) => void saving.settle(now).then((settled) => settled.is === "saved" && done())}
          onTheirs={() => {
            saving.drop();
            done();
          }}
        />
      )}
    </Form>
  );
}

/** Feet and inches, kept as they are typed; what is sent is inches. */
function HeightField() {
  const { label, error } = useFieldOf("height_in");
  const { field } = useController({ name: "height_in" });
  const value = field.value as number | null | undefined;
  const [typed, setTyped] = useState(() => typedHeight(value));
  const shown = inInches(typed) === (value ?? null) ? typed : typedHeight(value);
  const set = (next: Height) => {
    setTyped(next);
    field.onChange(inInches(next));
  };
  const one = (what: keyof Height, unit: string, mode: "numeric" | "decimal") => (
    <span className="inline-flex items-center gap-1">
      <input
        className="field w-12"
        inputMode={mode}
        aria-label={what}
        aria-invalid={error ? true : undefined}
        ref={what === "feet" ? field.ref : undefined}
        value={shown[what]}
        onBlur={field.onBlur}
        onChange={(e) => set({ ...shown, [what]: e.target.value })}
      />
      {unit}
    </span>
  );
  return (
    <FieldGroup label={label} error={error}>
      {one("feet", "ft", "numeric")}
      {one("inches", "in", "decimal")}
    </FieldGroup>
  );
}

const shape = shapeOf("putPlayer");
const fieldNames = Object.keys(shape.properties ?? {}) as (keyof Input)[];

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
  const fields = fieldNames.filter((f) => say(f, mine) !== say(f, other));
  const parts = fields.map((f): Part => ({
    key: f,
    name: part(shape, f).title ?? f,
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
