import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useLocation } from "react-router";
import { v7 as uuid } from "uuid";
import { queries } from "@/api/queries";
import { Button, FileLink } from "@/kit/Button";
import { Dialog } from "@/kit/Dialog";
import { Field } from "@/kit/Field";
import { Trouble } from "@/kit/States";
import { secret } from "@/parts/secret";
import { useSync } from "@/sync/context";

/** The season in other calendars: as a file, or by an address that is read again and can be revoked. */
export function CalendarWindow({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog open={open} onOpenChange={(o) => !o && onClose()} title="The season in other calendars">
      {open && <Ways />}
    </Dialog>
  );
}

function Ways() {
  const { engine } = useSync();
  const { pathname } = useLocation();
  const links = useQuery(queries.calendarLinks());
  const [name, setName] = useState("");
  const [made, setMade] = useState<{ name: string; address: string }>();
  const [trouble, setTrouble] = useState("");
  const make = async () => {
    const id = uuid();
    const s = secret();
    const said = name.trim();
    const done = await engine.submit({
      key: `calendarLink/${id}`,
      kind: "calendarLink",
      content: { name: said, secret: s },
      base: "0",
      about: { says: `Calendar address ${said}`, href: pathname },
    });
    if (done.is !== "saved") {
      setTrouble(engine.record(`calendarLink/${id}`)?.trouble?.message ?? "It was not taken.");
      engine.drop(`calendarLink/${id}`);
      return;
    }
    setTrouble("");
    setName("");
    setMade({ name: said, address: `${location.origin}/api/v1/calendar/${s}.ics` });
  };
  const revoke = (id: string, of: string) =>
    void engine.submit({
      key: `calendarLink/${id}`,
      kind: "calendarLink",
      content: null,
      base: "0",
      about: { says: `Calendar address ${of} revoked`, href: pathname },
    });
  return (
    <div className="grid gap-3">
      <p className="say text-small text-soft">
        Practices and games with their places and themes. No player and no mark is in it.
      </p>
      <span>
        <FileLink href="/api/v1/season/calendar">As a file, for once</FileLink>
      </span>
      <form
        className="grid gap-1.5 border-t border-hair pt-2"
        onSubmit={(e) => {
          e.preventDefault();
          if (name.trim()) void make();
        }}
      >
        <Field
          label="An address to subscribe to"
          hint="Whoever knows it reads the calendar, without signing in, until you revoke it."
        >
          {(control) => (
            <input
              {...control}
              className="field w-full"
              maxLength={80}
              placeholder="Where it is used, such as Phone"
              value={name}
              onChange={(e) => setName(e.target.value)}
            />
          )}
        </Field>
        <span>
          <Button type="submit" off={!name.trim()}>
            Make the address
          </Button>
        </span>
      </form>
      {trouble && (
        <p role="alert" className="say text-small text-fault">
          {trouble}
        </p>
      )}
      {made && (
        <div role="status" className="grid gap-1 border border-good bg-good-wash p-2 text-small">
          <b>{made.name}: copy it now, it is not shown again.</b>
          <input
            className="field w-full font-mono"
            readOnly
            aria-label={`Address for ${made.name}`}
            value={made.address}
            onFocus={(e) => e.target.select()}
          />
        </div>
      )}
      {links.error && !links.data && <Trouble error={links.error} again={() => void links.refetch()} />}
      {links.data && links.data.length > 0 && (
        <ul className="divide-y divide-hair border-t border-hair" aria-label="Addresses in use">
          {links.data.map((l) => (
            <li key={l.id} className="flex items-center gap-2 py-1.5 text-small">
              <span className="min-w-0 flex-1">
                <b>{l.name}</b>{" "}
                <span className="text-soft">
                  {l.read_at ? `read last on ${l.read_at.slice(0, 10)}` : "not read yet"}
                </span>
              </span>
              <Button kind="quiet" onClick={() => revoke(l.id, l.name)}>
                Revoke<span className="sr-only"> {l.name}</span>
              </Button>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
