import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, data } from "@/api/client";
import { makeAllOld } from "@/api/old";
import { once, useSending } from "@/api/sending";
import { Button, FileLink } from "@/kit/Button";
import { Dialog } from "@/kit/Dialog";
import { Field } from "@/kit/Field";
import { count } from "@/parts/words";
import { named, type Player } from "./useRoster";
import { Refusal } from "@/kit/States";

interface Props {
  player: Player;
  onClose: () => void;
  onGone: (text: string) => void;
}

/** What a club owes a player: all that is kept of him, in his hand; and to be known here no more. */
export function OwedWindow({ player: p, onClose, onGone }: Props) {
  const client = useQueryClient();
  const send = useSending();
  const [keep, setKeep] = useState(true);
  const [name, setName] = useState("");
  const elsewhere = send.elsewhere("last_name");
  const erase = async () => {
    const done = await send.run(() =>
      data(
        api.POST("/persons/{id}/erase", {
          params: { path: { id: p.id }, header: once() },
          body: { keep_marks: keep, last_name: name },
        }),
      ),
    );
    if (!done) return;
    onGone(`${named(p)} is erased.`);
    onClose();
    await makeAllOld(client);
  };
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} title={named(p)}>
      <section aria-label="Hand over" className="grid gap-2">
        <p className="say">Everything that is kept of {p.last_name}, as one file to hand over.</p>
        <span>
          <FileLink href={`/api/v1/persons/${p.id}/export`}>Take it out</FileLink>
        </span>
      </section>
      <form
        aria-label="Erase"
        className="mt-4 grid gap-2 border-t border-hair pt-3"
        onSubmit={(e) => {
          e.preventDefault();
          void erase();
        }}
      >
        <p className="say">
          Erase {p.last_name}: name, number, measures, availability, what was said of him, his clips. It
          cannot be undone.
        </p>
        <label className="flex min-h-7 items-center gap-1.5 pointer-coarse:min-h-11">
          <input type="checkbox" checked={keep} onChange={(e) => setKeep(e.target.checked)} />
          {count(p.marks, "mark")} of this season and all before stay in the numbers of the group, without a
          name
        </label>
        <Field label="His last name, to be sure" error={send.wrong("last_name")}>
          {(control) => (
            <input
              {...control}
              className="field w-full"
              maxLength={80}
              autoComplete="off"
              value={name}
              onChange={(e) => setName(e.target.value)}
            />
          )}
        </Field>
        {elsewhere && <Refusal>{elsewhere}</Refusal>}
        <Button type="submit" kind="main" className="justify-self-start" off={send.busy || !name.trim()}>
          Erase
        </Button>
      </form>
    </Dialog>
  );
}
