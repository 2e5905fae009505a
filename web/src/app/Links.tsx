import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { api, data, keepToken, type Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useSending } from "@/api/sending";
import { Button, ButtonLink } from "@/kit/Button";
import { Form, useFormOf } from "@/kit/form/Form";
import { DayField, NumberField, TextField } from "@/kit/form/fields";
import { Loading, Trouble, Refusal } from "@/kit/States";
import { roleNames } from "@/parts/roles";
import { Outside } from "./Outside";
import { PasswordHint } from "./PasswordHint";
import { forgetAll, sessionBegun } from "./session";

/** The secret of a link stands behind its #: it goes to no server and no log by itself. */
const secretHere = () => location.hash.slice(1);

/** Goes in with a session that has begun. */
function useEnter() {
  const client = useQueryClient();
  const navigate = useNavigate();
  return (now: Schemas["Session"], to = "/") => {
    keepToken(now.csrf);
    forgetAll(client);
    client.setQueryData(queries.session().queryKey, now);
    sessionBegun();
    void navigate(to, { replace: true });
  };
}

/** Onto a staff by a link. */
export function Join() {
  const [secret] = useState(secretHere);
  const offer = useQuery({
    queryKey: ["offer", secret],
    queryFn: () => data(api.POST("/join/look", { body: { secret } })),
    retry: false,
  });
  const enter = useEnter();
  const of = useFormOf("join", { secret, name: "", password: "" });
  const send = useSending();
  const join = (body: { secret: string; name?: string; password?: string }) =>
    send.run(() => data(api.POST("/join", { body }))).then((done) => done && enter(done.answer));
  useEffect(() => {
    if (offer.data) of.form.setValue("name", offer.data.name);
  }, [offer.data, of.form]);
  if (offer.error) return <Lost what="This link leads nowhere" says={offer.error.message} />;
  if (!offer.data) return <Loading what="the link" />;
  const o = offer.data;
  return (
    <Outside title={`Onto the staff of ${o.club}`}>
      <p className="say">
        As {roleNames[o.role].toLowerCase()}
        {o.title && `, ${o.title}`}, with the e-mail {o.email}.
      </p>
      {o.known && !o.signed_in && (
        <>
          <p className="say">
            There is an account with this e-mail. Sign in to it first; then this page goes on.
          </p>
          <ButtonLink kind="main" to={`/signin?next=${encodeURIComponent(`/join#${secret}`)}`}>
            Sign in
          </ButtonLink>
        </>
      )}
      {o.known && o.signed_in && (
        <>
          {send.refused && <Refusal>{send.refused.message}</Refusal>}
          <Button kind="main" off={send.busy} onClick={() => void join({ secret })}>
            Join {o.club}
          </Button>
        </>
      )}
      {!o.known && (
        <Form of={of} refused={send.refused} onSave={join} className="grid gap-3">
          <TextField name="name" autoComplete="name" />
          <TextField name="password" type="password" autoComplete="new-password" />
          <PasswordHint />
          <Button type="submit" kind="main" className="justify-center" off={send.busy}>
            Join {o.club}
          </Button>
        </Form>
      )}
    </Outside>
  );
}

function Lost({ what, says }: { what: string; says: string }) {
  return (
    <Outside title={what}>
      <p className="say">{says}</p>
      <ButtonLink to="/signin">To the sign-in</ButtonLink>
    </Outside>
  );
}

/** A new password by a link, or the asking for one. */
export function Recover() {
  const [secret] = useState(secretHere);
  return secret ? <NewPassword secret={secret} /> : <AskForLink />;
}

function AskForLink() {
  const of = useFormOf("askRecovery", { email: "" });
  const send = useSending();
  const [sent, setSent] = useState(false);
  return (
    <Outside title="A new password">
      {sent ? (
        <p role="status" className="say border border-good bg-good-wash p-2">
          If the e-mail is somebody&apos;s, a link is on its way to it. It counts for an hour, once. Nothing
          came? Ask your head coach: he can invite you anew.
        </p>
      ) : (
        <Form
          of={of}
          refused={send.refused}
          onSave={(body) =>
            send.run(() => data(api.POST("/account/recovery", { body }))).then((ok) => setSent(!!ok))
          }
          className="grid gap-3"
        >
          <p className="say">A link by which you choose a new password is sent to your e-mail.</p>
          <TextField name="email" type="email" autoComplete="username" />
          <Button type="submit" kind="main" className="justify-center" off={send.busy}>
            Send the link
          </Button>
        </Form>
      )}
      <ButtonLink kind="way" to="/signin">
        To the sign-in
      </ButtonLink>
    </Outside>
  );
}

function NewPassword({ secret }: { secret: string }) {
  const of = useFormOf("finishRecovery", { secret, password: "" });
  const send = useSending();
  const [done, setDone] = useState(false);
  return (
    <Outside title="Choose a new password">
      {done ? (
        <>
          <p role="status" className="say border border-good bg-good-wash p-2">
            The password is changed, and every session has ended.
          </p>
          <ButtonLink kind="main" to="/signin">
            Sign in
          </ButtonLink>
        </>
      ) : (
        <Form
          of={of}
          refused={send.refused}
          onSave={(body) =>
            send.run(() => data(api.POST("/account/recovery/finish", { body }))).then((ok) => setDone(!!ok))
          }
          className="grid gap-3"
        >
          <TextField name="password" type="password" autoComplete="new-password" />
          <PasswordHint />
          <Button type="submit" kind="main" className="justify-center" off={send.busy}>
            Change the password
          </Button>
        </Form>
      )}
    </Outside>
  );
}

/** An e-mail is confirmed by opening its link. */
export function ConfirmEmail() {
  const [secret] = useState(secretHere);
  const send = useSending();
  const [done, setDone] = useState(false);
  const client = useQueryClient();
  return (
    <Outside title="Your new e-mail">
      {done ? (
        <p role="status" className="say border border-good bg-good-wash p-2">
          From now on you sign in with this e-mail.
        </p>
      ) : (
        <>
          {send.refused && <Refusal>{send.refused.message}</Refusal>}
          <Button
            kind="main"
            off={send.busy}
            onClick={() =>
              void send
                .run(() => data(api.POST("/account/email/confirm", { body: { secret } })))
                .then((ok) => {
                  setDone(!!ok);
                  void client.invalidateQueries();
                })
            }
          >
            This e-mail is mine
          </Button>
        </>
      )}
      <ButtonLink kind="way" to="/">
        To Nine Yard
      </ButtonLink>
    </Outside>
  );
}

/** The first club of a new server. */
export function Begin() {
  const session = useQuery(queries.session());
  const enter = useEnter();
  const send = useSending();
  const of = useFormOf("foundClub", {
    word: secretHere(),
    club: "",
    timezone: Intl.DateTimeFormat().resolvedOptions().timeZone,
    season_start: new Date().toISOString().slice(0, 10),
    weeks: 16,
    name: "",
    email: "",
    password: "",
  });
  if (session.error) return <Trouble error={session.error} again={() => void session.refetch()} />;
  if (!session.data) return <Loading what="the beginning" />;
  if (!session.data.first)
    return (
      <Lost
        what="The first club has been made"
        says="Its head coach asks you onto the staff by a link. More clubs are made by whoever runs the server."
      />
    );
  return (
    <Outside title="The first club">
      <p className="say">
        The word stands in the window in which the server was started. You are the head coach; the rest of the
        staff you ask in afterwards.
      </p>
      <Form
        of={of}
        refused={send.refused}
        onSave={(body) =>
          send.run(() => data(api.POST("/club", { body }))).then((done) => done && enter(done.answer))
        }
        className="grid gap-3"
      >
        <TextField name="word" autoComplete="off" />
        <TextField name="club" />
        <div className="grid grid-cols-[1fr_5rem] gap-2">
          <DayField name="season_start" />
          <NumberField name="weeks" />
        </div>
        <TextField name="timezone" />
        <TextField name="name" autoComplete="name" />
        <TextField name="email" type="email" autoComplete="username" />
        <TextField name="password" type="password" autoComplete="new-password" />
        <PasswordHint />
        <Button type="submit" kind="main" className="justify-center" off={send.busy}>
          Make the club
        </Button>
      </Form>
    </Outside>
  );
}

/** What the demo's simulated mailer was given. */
export function Outbox() {
  const letters = useQuery({
    queryKey: ["outbox"],
    queryFn: () => data(api.GET("/demo/outbox")),
    staleTime: 0,
  });
  if (letters.error) return <Lost what="There is no outbox" says="Only the demo has one." />;
  if (!letters.data) return <Loading what="the outbox" />;
  return (
    <Outside title="Outbox of the demo">
      <p className="say text-soft">
        The demo sends no e-mail. What it would send stands here, for everybody who tries it out.
      </p>
      {letters.data.length === 0 && <p className="say">Nothing was sent yet.</p>}
      <ul className="grid gap-3">
        {letters.data.map((l) => (
          <li key={l.id} className="sheet p-3">
            <p className="label">to {l.to}</p>
            <h2 className="head">{l.subject}</h2>
            <p className="say whitespace-pre-line [overflow-wrap:anywhere]">
              <Linked text={l.body} />
            </p>
          </li>
        ))}
      </ul>
    </Outside>
  );
}

/** A text whose addresses of this place can be pressed. */
function Linked({ text }: { text: string }) {
  const parts = text.split(/(https?:\/\/\S+)/);
  return parts.map((part, i) =>
    part.startsWith(location.origin) ? (
      <a key={i} className="underline" href={part}>
        {part}
      </a>
    ) : (
      part
    ),
  );
}
