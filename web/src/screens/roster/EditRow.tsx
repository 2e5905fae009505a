import clsx from "clsx";
import { useState, type FormEvent, type KeyboardEvent } from "react";
import { feet } from "@/parts/words";
import { inInches, typedHeight } from "./height";
import { standing, useSavePlayer, type Input, type Player } from "./useRoster";

interface Props {
  id: string;
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

/** A player's line while it is edited, in its place in the list. Enter saves, Escape leaves it as it was. */
export function EditRow({ id, input, groups, span, onDone }: Props) {
  const [now, setNow] = useState(input);
  // Numbers are kept as they are typed ("1." on its way to "1.5") and read when they are sent.
  const [height, setHeight] = useState(() => typedHeight(input.height_in));
  const [weight, setWeight] = useState(input.weight_lb ? String(input.weight_lb) : "");
  const save = useSavePlayer();
  const theirs = standing(save.error);
  const field = save.error?.field;
  const set = (part: Partial<Input>) => setNow((old) => ({ ...old, ...part }));
  const sent = (): Input => ({
    ...now,
    height_in: inInches(height),
    weight_lb: Number.parseFloat(weight) || null,
  });
  const submit = (e: FormEvent) => {
    e.preventDefault();
    save.mutate({ id, input: sent() }, { onSuccess: onDone });
  };
  const onKeyDown = (e: KeyboardEvent) => {
    if (e.key === "Escape") {
      e.stopPropagation();
      onDone();
    }
  };
  const invalid = (name: string) => field === name || undefined;
  return (
    <tr className="border-b border-ink bg-flag-wash">
      <td colSpan={span} className="p-2">
        {/* eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions -- Escape leaves the form from any of its fields */}
        <form
          onSubmit={submit}
          onKeyDown={onKeyDown}
          noValidate
          aria-label={input.version === 0 ? "A new player" : `${input.first_name} ${input.last_name}`}
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
                  <abbr title={g.name} className="no-underline">
                    {g.short}
                  </abbr>
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
            <button type="submit" className="btn btn-main" disabled={save.isPending}>
              {input.version === 0 ? "Add" : "Save"}
            </button>
            <button type="button" className="btn btn-quiet" onClick={onDone}>
              Leave it <span className="kbd">Esc</span>
            </button>
          </span>
          {save.error && !theirs && (
            <p role="alert" className="say w-full text-fault">
              {save.error.message}
            </p>
          )}
          {theirs && (
            <Both
              theirs={theirs}
              message={save.error!.message}
              onTheirs={onDone}
              onMine={() =>
                save.mutate({ id, input: { ...sent(), version: theirs.version } }, { onSuccess: onDone })
              }
            />
          )}
        </form>
      </td>
    </tr>
  );
}

function Both({
  theirs: p,
  message,
  onTheirs,
  onMine,
}: {
  theirs: Player;
  message: string;
  onTheirs: () => void;
  onMine: () => void;
}) {
  return (
    <div role="alert" className="w-full border border-watch bg-sheet p-2">
      <p className="say">{message}</p>
      <p className="say mt-1">
        It now says: <b>{`${p.jersey} ${p.first_name} ${p.last_name}`.trim()}</b>,{" "}
        {p.position || "no position"}
        {p.height_in ? `, ${feet(p.height_in)}` : ""}
        {p.weight_lb ? `, ${p.weight_lb} lb` : ""}, {p.groups.join(", ")}
        {p.archived ? ", archived" : ""}. Yours is in the fields above.
      </p>
      <span className="mt-2 flex gap-2">
        <button type="button" className="btn" onClick={onMine}>
          Save mine over it
        </button>
        <button type="button" className="btn btn-quiet" onClick={onTheirs}>
          Take theirs
        </button>
      </span>
    </div>
  );
}
