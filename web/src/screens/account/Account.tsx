import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { api, data, type Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { once, useSending } from "@/api/sending";
import { PasswordHint } from "@/app/PasswordHint";
import { Button, FileLink } from "@/kit/Button";
import { Form, useFormOf } from "@/kit/form/Form";
import { TextField } from "@/kit/form/fields";
import { Loading, Trouble } from "@/kit/States";
import { Title } from "@/kit/Title";
import { useToast } from "@/kit/Toast";
import { count } from "@/parts/words";
import { Factors } from "./Factors";
import { moment } from "./moment";

/** One's own account: the name, the ways in, and where one is signed in. */
export function Account() {
  const account = useQuery(queries.account());
  const session = useQuery(queries.session());
  if (account.error) return <Trouble error={account.error} again={() => void account.refetch()} />;
  if (!account.data) return <Loading what="your account" />;
  const a = account.data;
  return (
    <>
      <Title page="Your account">Your account</Title>
      {session.data?.factor_due && (
        <p role="status" className="say mt-2 max-w-2xl border border-watch bg-watch-wash p-2">
          Your club asks for a second factor. Set one up here; then everything else opens.
        </p>
      )}
      <div className="mt-3 grid max-w-5xl items-start gap-3 lg:grid-cols-2">
        <Name account={a} />
        <Factors account={a} />
        <Password account={a} />
        <Email account={a} />
        <Sessions account={a} />
      </div>
    </>
  );
}

type Of = { account: Schemas["Account"] };

function Part({ name, children }: { name: string; children: ReactNode }) {
  return (
    <section aria-label={name} className="sheet grid gap-2 p-3">
      <h2 className="head">{name}</h2>
      {children}
    </section>
  );
}

/** Reads the account anew, and who one is. */
export function useAgain() {
  const client = useQueryClient();
  return () =>
    Promise.all([
      client.invalidateQueries({ queryKey: queries.account().queryKey }),
      client.invalidateQueries({ queryKey: queries.session().queryKey }),
    ]);
}

function Name({ account }: Of) {
  const of = useFormOf("putAccount", { name: account.name });
  const send = useSending();
  const again = useAgain();
  const tell = useToast();
  return (
    <Part name="Name">
      <Form
        of={of}
        refused={send.refused}
        onSave={(body) =>
          send
            .run(() => data(api.PUT("/account", { params: { header: once() }, body })))
            .then((ok) => ok && again().then(() => tell({ text: "Your name is changed, in every club." })))
        }
        className="grid max-w-xs gap-2"
      >
        <TextField name="name" autoComplete="name" />
        <Button type="submit" className="justify-self-start" off={send.busy}>
          Save the name
        </Button>
      </Form>
    </Part>
  );
}

function Password({ account }: Of) {
  const of = useFormOf("putPassword", { password: "", next: "" });
  const send = useSending();
  const again = useAgain();
  const tell = useToast();
  return (
    <Part name="Password">
      <Form
        of={of}
        refused={send.refused}
        onSave={(body) =>
          send
            .run(() => data(api.PUT("/account/password", { body })))
            .then((ok) => {
              if (!ok) return;
              of.form.reset({ password: "", next: "" });
              tell({ text: "The password is changed; every other session has ended." });
              return again();
            })
        }
        className="grid max-w-xs gap-2"
      >
        {account.has_password && (
          <TextField name="password" type="password" autoComplete="current-password" />
        )}
        <TextField name="next" type="password" autoComplete="new-password" />
        <PasswordHint />
        <Button type="submit" className="justify-self-start" off={send.busy}>
          Change the password
        </Button>
      </Form>
    </Part>
  );
}

function Email({ account }: Of) {
  const of = useFormOf("putEmail", { email: "", password: "" });
  const send = useSending();
  const [to, setTo] = useState("");
  return (
    <Part name="E-mail">
      <p className="say">
        You sign in as <b>{account.email}</b>.
      </p>
      {to ? (
        <p role="status" className="say border border-good bg-good-wash p-2">
          A link is on its way to {to}. Once it is opened, that is your e-mail.
        </p>
      ) : (
        <Form
          of={of}
          refused={send.refused}
          onSave={(body) =>
            send.run(() => data(api.PUT("/account/email", { body }))).then((ok) => ok && setTo(body.email))
          }
          className="grid max-w-xs gap-2"
        >
          <TextField name="email" type="email" autoComplete="email" />
          {account.has_password && (
            <TextField name="password" type="password" autoComplete="current-password" />
          )}
          <Button type="submit" className="justify-self-start" off={send.busy}>
            Send the link
          </Button>
        </Form>
      )}
    </Part>
  );
}

function Sessions({ account }: Of) {
  const send = useSending();
  const again = useAgain();
  const others = account.sessions.filter((s) => !s.here).length;
  const end = (call: () => Promise<unknown>) => void send.run(call).then((ok) => ok && again());
  return (
    <Part name="Where you are signed in">
      <ul className="divide-y divide-hair">
        {account.sessions.map((s) => (
          <li key={s.id} className="flex flex-wrap items-center gap-x-3 py-1.5 text-small">
            <span className="min-w-0 flex-1">
              <b>{s.what}</b> {s.here && <span className="label">here</span>}
              <span className="block text-soft">
                {s.address}, since {moment(s.began)}, used {moment(s.seen)}
              </span>
            </span>
            {!s.here && (
              <Button
                kind="quiet"
                off={send.busy}
                aria-label={`End the session on ${s.what}`}
                onClick={() =>
                  end(() => data(api.DELETE("/account/sessions/{id}", { params: { path: { id: s.id } } })))
                }
              >
                End
              </Button>
            )}
          </li>
        ))}
      </ul>
      {send.refused && (
        <p role="alert" className="say text-small text-fault">
          {send.refused.message}
        </p>
      )}
      {others > 0 && (
        <Button
          className="justify-self-start"
          off={send.busy}
          onClick={() => end(() => data(api.DELETE("/account/sessions")))}
        >
          End {count(others, "other session")}
        </Button>
      )}
      <span>
        <FileLink href="/api/v1/account/export">All that is kept of you</FileLink>
      </span>
    </Part>
  );
}
