import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, data, type Schemas } from "@/api/client";
import { makeAllOld } from "@/api/old";
import { queries } from "@/api/queries";
import { once, useSending, useMadeOld } from "@/api/sending";
import { useWhere } from "@/app/where";
import { Button } from "@/kit/Button";
import { Dialog } from "@/kit/Dialog";
import { Loading, Trouble, Refusal } from "@/kit/States";
import { Table, type Column } from "@/kit/Table";
import { Title } from "@/kit/Title";
import { useToast } from "@/kit/Toast";
import { roleNames } from "@/parts/roles";
import { count } from "@/parts/words";
import { moment } from "@/screens/account/moment";
import { Ask } from "./Ask";
import { MemberWindow } from "./MemberWindow";

type Member = Schemas["Member"];

/** Who works for the club: the head coach's to say. */
export function Staff() {
  const staff = useQuery(queries.staff());
  const frame = useQuery(queries.frame());
  const { base } = useWhere();
  const [editing, setEditing] = useState<Member>();
  const [asking, setAsking] = useState(false);
  const [leaving, setLeaving] = useState<Member>();
  if (staff.error) return <Trouble error={staff.error} again={() => void staff.refetch()} />;
  if (!staff.data || !frame.data) return <Loading what="the staff" />;
  const groups = frame.data.groups;
  const named = (keys: string[]) => keys.map((k) => groups.find((g) => g.key === k)?.short ?? k).join(", ");
  const columns: Column<Member>[] = [
    {
      id: "name",
      head: "Name",
      heads: true,
      className: "name",
      cell: (m) => (
        <>
          {m.name} {m.me && <span className="label">you</span>}
          <span className="block text-small font-normal text-soft">{m.email}</span>
        </>
      ),
      order: (a, b) => a.name.localeCompare(b.name),
    },
    {
      id: "role",
      head: "Role",
      cell: (m) => (
        <>
          {m.suspended && <b className="text-watch">kept out </b>}
          {roleNames[m.role]}
          {m.title && m.title !== roleNames[m.role] && (
            <span className="block text-small text-soft">{m.title}</span>
          )}
        </>
      ),
    },
    {
      id: "groups",
      head: "Groups",
      className: "max-sm:hidden",
      cell: (m) => (m.role === "head" ? "all" : named(m.groups) || "–"),
    },
    {
      id: "factor",
      head: "Second factor",
      className: "max-md:hidden",
      cell: (m) => (m.factor ? "yes" : "no"),
    },
    {
      id: "seen",
      head: "Was here",
      className: "max-md:hidden",
      cell: (m) => (
        <span className="whitespace-nowrap">
          {m.seen ? moment(m.seen) : "–"}
          {m.sessions > 0 && (
            <span className="block text-small text-soft">{count(m.sessions, "open session")}</span>
          )}
        </span>
      ),
    },
    {
      id: "do",
      head: <span className="sr-only">Change</span>,
      cell: (m) => (
        <span className="flex flex-wrap justify-end gap-1">
          <Button kind="quiet" aria-label={`Change ${m.name}`} onClick={() => setEditing(m)}>
            Change
          </Button>
          {!m.me && (
            <Button kind="quiet" onClick={() => setLeaving(m)}>
              Take off<span className="sr-only"> {m.name}</span>
            </Button>
          )}
        </span>
      ),
    },
  ];
  return (
    <>
      <div className="mb-2 flex flex-wrap items-end gap-x-4 gap-y-2">
        <div>
          <Title page="Staff">Staff</Title>
          <p className="say text-small text-soft">
            {count(staff.data.members.length, "member")}.{" "}
            <Link className="underline" to={`${base}/club`}>
              The club and its groups
            </Link>
          </p>
        </div>
        <Button kind="main" className="ml-auto" onClick={() => setAsking(true)}>
          Ask somebody in
        </Button>
      </div>
      <div className="sheet overflow-x-auto">
        <Table label="Staff" rows={staff.data.members} columns={columns} keyOf={(m) => m.id} />
      </div>
      <Open invites={staff.data.invites} named={named} />
      <Former list={staff.data.former} />
      <Rules require={staff.data.require_factor} />
      {editing && (
        <MemberWindow
          member={staff.data.members.find((m) => m.id === editing.id) ?? editing}
          groups={groups}
          onClose={() => setEditing(undefined)}
        />
      )}
      {asking && <Ask groups={groups} mails={staff.data.mails} onClose={() => setAsking(false)} />}
      {leaving && <Leave member={leaving} onClose={() => setLeaving(undefined)} />}
    </>
  );
}

/** Links that nobody has opened yet. */
function Open({ invites, named }: { invites: Schemas["Invite"][]; named: (keys: string[]) => string }) {
  const madeOld = useMadeOld();
  const send = useSending();
  if (invites.length === 0) return null;
  const revoke = (id: string) =>
    void send
      .run(() => data(api.DELETE("/staff/invites/{id}", { params: { path: { id }, header: once() } })))
      .then(() => madeOld("revokeInvite"));
  return (
    <section aria-labelledby="asked" className="sheet mt-3 p-3">
      <h2 id="asked" className="head">
        Asked, not here yet
      </h2>
      <ul className="divide-y divide-hair">
        {invites.map((i) => (
          <li key={i.id} className="flex flex-wrap items-center gap-x-3 py-1.5">
            <span className="min-w-0 flex-1">
              <b className="name">{i.name}</b> <span className="text-soft">{i.email}</span>{" "}
              <span className="label">
                {roleNames[i.role]} {named(i.groups)}, link counts until {moment(i.expires)}
              </span>
            </span>
            <Button kind="quiet" off={send.busy} onClick={() => revoke(i.id)}>
              Take back<span className="sr-only"> the link of {i.name}</span>
            </Button>
          </li>
        ))}
      </ul>
      {send.refused && (
        <p role="alert" className="say text-fault">
          {send.refused.message}
        </p>
      )}
    </section>
  );
}

/** Who was on the staff: what they made stands under their names, until those are taken off. */
function Former({ list }: { list: Schemas["CoachRef"][] }) {
  const client = useQueryClient();
  const send = useSending();
  const [sure, setSure] = useState<Schemas["CoachRef"]>();
  if (list.length === 0) return null;
  const erase = (id: string) =>
    void send
      .run(() => data(api.POST("/staff/{id}/erase", { params: { path: { id }, header: once() } })))
      .then((ok) => {
        if (!ok) return;
        setSure(undefined);
        void makeAllOld(client);
      });
  return (
    <section aria-labelledby="former" className="sheet mt-3 p-3">
      <h2 id="former" className="head">
        Were here
      </h2>
      <ul className="divide-y divide-hair">
        {list.map((m) => (
          <li key={m.id} className="flex flex-wrap items-center gap-x-3 py-1.5">
            <span className="min-w-0 flex-1">
              <b className="name">{m.name}</b> <span className="text-soft">{m.title}</span>
            </span>
            <Button kind="quiet" onClick={() => setSure(m)}>
              Take the name off<span className="sr-only"> of {m.name}</span>
            </Button>
          </li>
        ))}
      </ul>
      {sure && (
        <Dialog
          open
          onOpenChange={(o) => !o && setSure(undefined)}
          title={`Take the name of ${sure.name} off`}
        >
          <p className="say mb-3">
            What {sure.name} has made stays, of a former coach. The account goes too, unless another club has
            it. It cannot be undone.
          </p>
          {send.refused && <Refusal className="mb-2">{send.refused.message}</Refusal>}
          <Button kind="main" off={send.busy} onClick={() => erase(sure.id)}>
            Take the name off
          </Button>
        </Dialog>
      )}
    </section>
  );
}

function Rules({ require }: { require: boolean }) {
  const client = useQueryClient();
  const send = useSending();
  return (
    <section aria-label="What is demanded" className="sheet mt-3 p-3">
      <label className="flex min-h-7 items-center gap-2 pointer-coarse:min-h-11">
        <input
          type="checkbox"
          checked={require}
          aria-disabled={send.busy || undefined}
          onChange={(e) =>
            void send
              .run(() =>
                data(
                  api.PUT("/staff", {
                    params: { header: once() },
                    body: { require_factor: e.target.checked },
                  }),
                ),
              )
              .then(() => client.invalidateQueries())
          }
        />
        Everybody shows a second factor; who has none sets one up before anything else.
      </label>
      {send.refused && (
        <p role="alert" className="say text-fault">
          {send.refused.message}
        </p>
      )}
    </section>
  );
}

function Leave({ member: m, onClose }: { member: Member; onClose: () => void }) {
  const madeOld = useMadeOld();
  const send = useSending();
  const tell = useToast();
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} title={`Take ${m.name} off the staff`}>
      <p className="say mb-3">
        {m.name} comes in no more, on any device. What {m.name} has made stays, under the name. To let{" "}
        {m.name} in again, send another link.
      </p>
      {send.refused && <Refusal className="mb-2">{send.refused.message}</Refusal>}
      <Button
        kind="main"
        off={send.busy}
        onClick={() =>
          void send
            .run(() => data(api.DELETE("/staff/{id}", { params: { path: { id: m.id }, header: once() } })))
            .then((ok) => {
              if (!ok) return;
              tell({ text: `${m.name} is off the staff.` });
              void madeOld("removeMember");
              onClose();
            })
        }
      >
        Take off the staff
      </Button>
    </Dialog>
  );
}
