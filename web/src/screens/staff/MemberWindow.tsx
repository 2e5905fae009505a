import { useState } from "react";
import { api, data, type Schemas } from "@/api/client";
import { once, useSending, useMadeOld } from "@/api/sending";
import { Button } from "@/kit/Button";
import { Dialog } from "@/kit/Dialog";
import { count } from "@/parts/words";
import { Line, RoleFields, type Group } from "./fields";
import { Refusal } from "@/kit/States";
import { worksInGroups } from "@/parts/roles";

interface Props {
  member: Schemas["Member"];
  groups: Group[];
  onClose: () => void;
}

/** What a member of the staff is: title, role, groups; kept out for a while; signed out everywhere. */
export function MemberWindow({ member: m, groups, onClose }: Props) {
  const madeOld = useMadeOld();
  const send = useSending();
  const [title, setTitle] = useState(m.title);
  const [role, setRole] = useState(m.role);
  const [own, setOwn] = useState(m.groups);
  const [suspended, setSuspended] = useState(m.suspended);
  const elsewhere = send.elsewhere("title", "role", "groups");
  const save = async () => {
    const done = await send.run(() =>
      data(
        api.PUT("/staff/{id}", {
          params: { path: { id: m.id }, header: { ...once(), "If-Match": `"${m.version}"` } },
          body: { title, role, groups: worksInGroups(role) ? own : [], suspended },
        }),
      ),
    );
    await madeOld("putMember");
    if (done) onClose();
  };
  const signOut = () =>
    void send
      .run(() => data(api.DELETE("/staff/{id}/sessions", { params: { path: { id: m.id }, header: once() } })))
      .then(() => madeOld("endMemberSessions"));
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} title={m.name}>
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void save();
        }}
      >
        <Line label="Title" value={title} max={120} wrong={send.wrong("title")} onChange={setTitle} />
        <RoleFields
          role={role}
          groups={own}
          all={groups}
          wrong={send.wrong}
          onRole={setRole}
          onGroups={setOwn}
        />
        {!m.me && (
          <label className="flex min-h-7 items-center gap-1.5 pointer-coarse:min-h-11">
            <input type="checkbox" checked={suspended} onChange={(e) => setSuspended(e.target.checked)} />
            Kept out for now: signed out everywhere, and let in by nothing
          </label>
        )}
        {elsewhere && <Refusal>{elsewhere}</Refusal>}
        <span className="flex flex-wrap gap-2">
          <Button type="submit" kind="main" off={send.busy}>
            Save
          </Button>
          {m.sessions > 0 && !m.me && (
            <Button off={send.busy} onClick={signOut}>
              End {count(m.sessions, "session")}
            </Button>
          )}
        </span>
      </form>
    </Dialog>
  );
}
