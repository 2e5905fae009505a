import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, data, type Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { once, useSending, useMadeOld } from "@/api/sending";
import { useWhere } from "@/app/where";
import { Button, ButtonLink } from "@/kit/Button";
import { Dialog } from "@/kit/Dialog";
import { FieldGroup } from "@/kit/Field";
import { Form, useFormOf } from "@/kit/form/Form";
import { NumberField } from "@/kit/form/fields";
import { Loading, Trouble, Refusal } from "@/kit/States";
import { Title } from "@/kit/Title";
import { useToast } from "@/kit/Toast";
import { Line } from "./fields";
import { keyOfWords } from "@/parts/words";

type Group = Schemas["ClubGroup"];

const sides: Record<string, string> = { offense: "Offense", defense: "Defense", units: "Kicking" };

/** The club: what it is called, where it is, and its position groups. */
export function Club() {
  const club = useQuery(queries.club());
  const [editing, setEditing] = useState<{ group?: Group; place: number }>();
  if (club.error) return <Trouble error={club.error} again={() => void club.refetch()} />;
  if (!club.data) return <Loading what="the club" />;
  const { groups, editable } = club.data;
  return (
    <>
      <Title page="Club">Club</Title>
      <div className="mt-3 grid max-w-5xl items-start gap-3 lg:grid-cols-[1fr_2fr]">
        <div className="grid gap-3">
          <Named club={club.data} />
          {editable && <Kept />}
        </div>
        <section aria-label="Position groups" className="sheet p-3">
          <div className="flex flex-wrap items-center justify-between gap-2">
            <h2 className="head">Position groups</h2>
            {editable && (
              <Button onClick={() => setEditing({ place: groups.length + 1 })}>Add a group</Button>
            )}
          </div>
          <ol className="mt-1 divide-y divide-hair">
            {groups.map((g, i) => (
              <li key={g.key} className="flex flex-wrap items-center gap-x-3 py-1.5">
                <span className="min-w-0 flex-1">
                  <b className="name">{g.name}</b> <span className="label">{g.short}</span>{" "}
                  <span className="say text-small text-soft">
                    {sides[g.side]}: {g.positions.join(", ") || "no positions"}
                  </span>
                </span>
                {editable && (
                  <Button
                    kind="quiet"
                    aria-label={`Change ${g.name}`}
                    onClick={() => setEditing({ group: g, place: i + 1 })}
                  >
                    Change
                  </Button>
                )}
              </li>
            ))}
          </ol>
        </section>
      </div>
      {editing && (
        <GroupWindow
          {...editing}
          taken={groups.map((g) => g.key)}
          last={groups.length}
          onClose={() => setEditing(undefined)}
        />
      )}
    </>
  );
}

/** For how long the club keeps what is about people. */
function Kept() {
  const kept = useQuery(queries.retention());
  if (kept.error) return <Trouble error={kept.error} again={() => void kept.refetch()} />;
  if (!kept.data) return <Loading what="what is kept" />;
  return <KeptForm kept={kept.data} />;
}

function KeptForm({ kept }: { kept: Schemas["Retention"] }) {
  const { base } = useWhere();
  const of = useFormOf("putRetention", {
    archived: kept.archived ?? null,
    spells: kept.spells ?? null,
    changes: kept.changes ?? null,
  });
  const send = useSending();
  const tell = useToast();
  return (
    <section aria-label="What is kept" className="sheet grid gap-2 p-3">
      <h2 className="head">What is kept</h2>
      <p className="say text-small text-soft">
        Empty: for as long as the club is here. What is older goes in the night; an archived player is then
        erased, and his marks stay without a name.
      </p>
      <Form
        of={of}
        refused={send.refused}
        onSave={(body) =>
          send
            .run(() => data(api.PUT("/retention", { params: { header: once() }, body })))
            .then((ok) => ok && tell({ text: "It is kept for that long." }))
        }
        className="grid gap-2"
      >
        <NumberField name="archived" />
        <NumberField name="spells" />
        <NumberField name="changes" />
        <Button type="submit" className="justify-self-start" off={send.busy}>
          Save
        </Button>
      </Form>
      <ButtonLink kind="way" to={`${base}/log`}>
        Who changed what
      </ButtonLink>
    </section>
  );
}

function Named({ club }: { club: Schemas["Club"] }) {
  const send = useSending();
  const madeOld = useMadeOld();
  const tell = useToast();
  const [name, setName] = useState(club.name);
  const [timezone, setTimezone] = useState(club.timezone);
  return (
    <form
      aria-label="The club"
      className="sheet grid gap-2 p-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (!club.editable) return;
        void send
          .run(() => data(api.PUT("/club", { params: { header: once() }, body: { name, timezone } })))
          .then((ok) => ok && madeOld("putClub").then(() => tell({ text: "The club is saved." })));
      }}
    >
      <Line label="Name" value={name} max={120} wrong={send.wrong("name")} onChange={setName} />
      <Line
        label="Time zone"
        value={timezone}
        max={60}
        wrong={send.wrong("timezone")}
        hint="Such as Europe/Dublin: it says which day it is for everybody."
        onChange={setTimezone}
      />
      {club.editable && (
        <Button type="submit" className="justify-self-start" off={send.busy}>
          Save the club
        </Button>
      )}
    </form>
  );
}

/** A key from a name: small letters, digits and lines, which names the group for ever. */
const keyOf = (name: string, taken: string[]) => {
  const plain = keyOfWords(name, 16) || "group";
  for (let n = 1; ; n++) {
    const key = n === 1 ? plain : `${plain}_${n}`;
    if (!taken.includes(key)) return key;
  }
};

interface WindowProps {
  group?: Group;
  place: number;
  taken: string[];
  last: number;
  onClose: () => void;
}

function GroupWindow({ group: g, place, taken, last, onClose }: WindowProps) {
  const send = useSending();
  const madeOld = useMadeOld();
  const [name, setName] = useState(g?.name ?? "");
  const [short, setShort] = useState(g?.short ?? "");
  const [side, setSide] = useState(g?.side ?? "offense");
  const [positions, setPositions] = useState(g?.positions.join(", ") ?? "");
  const [at, setAt] = useState(String(place));
  const elsewhere = send.elsewhere("name", "short", "place", "side", "positions");
  const done = (ok: unknown) => ok && madeOld("putGroup").then(onClose);
  const save = () => {
    const group = g?.key ?? keyOf(name, taken);
    const body = {
      name: name.trim(),
      short: short.trim(),
      side: side as "offense" | "defense" | "units",
      positions: positions
        .split(",")
        .map((p) => p.trim())
        .filter(Boolean),
      place: Math.min(Math.max(Math.round(Number(at)) || last + 1, 1), 24),
    };
    return send
      .run(() => data(api.PUT("/club/groups/{group}", { params: { path: { group }, header: once() }, body })))
      .then(done);
  };
  const drop = () =>
    g &&
    send
      .run(() =>
        data(api.DELETE("/club/groups/{group}", { params: { path: { group: g.key }, header: once() } })),
      )
      .then(done);
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} title={g ? g.name : "A position group"}>
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void save();
        }}
      >
        <Line label="Name" value={name} max={60} wrong={send.wrong("name")} onChange={setName} />
        <div className="grid grid-cols-2 gap-2">
          <Line
            label="Short"
            value={short}
            max={6}
            wrong={send.wrong("short")}
            hint="For lanes, such as OL."
            onChange={setShort}
          />
          <Line
            label="Place"
            value={at}
            max={2}
            wrong={send.wrong("place")}
            hint="Among the groups."
            onChange={setAt}
          />
        </div>
        <FieldGroup label="Side" error={send.wrong("side")}>
          {Object.entries(sides).map(([value, word]) => (
            <label key={value} className="flex min-h-7 items-center gap-1.5 pointer-coarse:min-h-11">
              <input type="radio" name="side" checked={side === value} onChange={() => setSide(value)} />
              {word}
            </label>
          ))}
        </FieldGroup>
        <Line
          label="Positions"
          value={positions}
          max={800}
          wrong={send.wrong("positions")}
          hint="As your lists write them, with commas between: LG, Guard."
          onChange={setPositions}
        />
        {elsewhere && <Refusal>{elsewhere}</Refusal>}
        <span className="flex flex-wrap gap-2">
          <Button type="submit" kind="main" off={send.busy || !name.trim() || !short.trim()}>
            Save
          </Button>
          {g && !g.used && (
            <Button kind="quiet" off={send.busy} onClick={() => void drop()}>
              Take the group away
            </Button>
          )}
        </span>
      </form>
    </Dialog>
  );
}
