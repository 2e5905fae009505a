import { useState } from "react";
import { v7 as uuid } from "uuid";
import { api, data } from "@/api/client";
import { once, useSending, useMadeOld } from "@/api/sending";
import { Button } from "@/kit/Button";
import { Dialog } from "@/kit/Dialog";
import { secret } from "@/parts/secret";
import { Line, RoleFields, type Group, type Role } from "./fields";
import { Refusal } from "@/kit/States";
import { worksInGroups } from "@/parts/roles";

interface Props {
  groups: Group[];
  mails: boolean;
  onClose: () => void;
}

/** Asks somebody onto the staff: a link that works once, sent or handed over. */
export function Ask({ groups, mails, onClose }: Props) {
  const madeOld = useMadeOld();
  const send = useSending();
  const [who, setWho] = useState({ name: "", email: "", title: "" });
  const [role, setRole] = useState<Role>("coach");
  const [own, setOwn] = useState<string[]>([]);
  const [link, setLink] = useState("");
  const elsewhere = send.elsewhere("name", "email", "title", "role", "groups");
  const ask = async () => {
    const key = secret();
    const done = await send.run(() =>
      data(
        api.PUT("/staff/invites/{id}", {
          params: { path: { id: uuid() }, header: once() },
          body: { ...who, role, groups: worksInGroups(role) ? own : [], secret: key },
        }),
      ),
    );
    if (!done) return;
    setLink(`${location.origin}/join#${key}`);
    void madeOld("invite");
  };
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} title="Ask somebody onto the staff">
      {link ? (
        <div role="status" className="grid gap-2">
          <p className="say">
            {mails
              ? `A letter with the link went to ${who.email}. You can hand it over yourself, too:`
              : "Hand this link over. Whoever has it comes in with it, once, within seven days:"}
          </p>
          <input
            className="field w-full font-mono text-small"
            readOnly
            aria-label={`Link for ${who.name}`}
            value={link}
            onFocus={(e) => e.target.select()}
          />
          <p className="say text-small text-soft">It is not shown again; take it back under Staff.</p>
          <span className="flex gap-2">
            <Button onClick={() => void navigator.clipboard.writeText(link)}>Copy it</Button>
            <Button kind="main" onClick={onClose}>
              Done
            </Button>
          </span>
        </div>
      ) : (
        <form
          className="grid gap-3"
          onSubmit={(e) => {
            e.preventDefault();
            void ask();
          }}
        >
          <Line
            label="Name"
            value={who.name}
            max={120}
            wrong={send.wrong("name")}
            onChange={(name) => setWho({ ...who, name })}
          />
          <Line
            label="E-mail"
            type="email"
            value={who.email}
            max={200}
            wrong={send.wrong("email")}
            onChange={(email) => setWho({ ...who, email })}
          />
          <Line
            label="Title"
            hint="As the staff calls it, such as Offensive line."
            value={who.title}
            max={120}
            wrong={send.wrong("title")}
            onChange={(title) => setWho({ ...who, title })}
          />
          <RoleFields
            role={role}
            groups={own}
            all={groups}
            wrong={send.wrong}
            onRole={setRole}
            onGroups={setOwn}
          />
          {elsewhere && <Refusal>{elsewhere}</Refusal>}
          <Button type="submit" kind="main" className="justify-self-start" off={send.busy}>
            Make the link
          </Button>
        </form>
      )}
    </Dialog>
  );
}
