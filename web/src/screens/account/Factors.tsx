import { useState } from "react";
import { api, data, type Schemas } from "@/api/client";
import { useSending } from "@/api/sending";
import { hasPasskeys, makePasskey } from "@/app/passkey";
import { Button } from "@/kit/Button";
import { Dialog } from "@/kit/Dialog";
import { Field } from "@/kit/Field";
import { Form, useFormOf } from "@/kit/form/Form";
import { TextField } from "@/kit/form/fields";
import { useAgain } from "./Account";
import { moment } from "./moment";

type Asked = { title: string; word: string; does: (password: string) => Promise<unknown> };

/** The second factors: an authenticator, passkeys, and the codes that stand in for them. */
export function Factors({ account }: { account: Schemas["Account"] }) {
  const again = useAgain();
  const [asked, setAsked] = useState<Asked>();
  const [fresh, setFresh] = useState<Schemas["AuthenticatorSecret"]>();
  const [codes, setCodes] = useState<string[]>();
  const [naming, setNaming] = useState(false);
  const keep = (list: string[]) => {
    if (list.length > 0) setCodes(list);
    void again();
  };
  const has = account.authenticator || account.passkeys.length > 0;
  return (
    <section aria-label="Second factor" className="sheet grid gap-2 p-3">
      <h2 className="head">Second factor</h2>
      <p className="say text-small text-soft">
        With one, a password that somebody has seen over your shoulder lets nobody in.
      </p>
      <ul className="divide-y divide-hair text-small">
        <li className="flex flex-wrap items-center gap-2 py-1.5">
          <span className="min-w-0 flex-1">
            <b>Authenticator</b>{" "}
            <span className="text-soft">{account.authenticator ? "is asked for" : "none"}</span>
          </span>
          {account.authenticator ? (
            <Button
              kind="quiet"
              onClick={() =>
                setAsked({
                  title: "Take the authenticator away",
                  word: "Take it away",
                  does: (password) =>
                    data(api.POST("/account/authenticator/off", { body: { password } })).then(again),
                })
              }
            >
              Take away
            </Button>
          ) : (
            <Button
              onClick={() =>
                setAsked({
                  title: "Set up an authenticator",
                  word: "Go on",
                  does: (password) =>
                    data(api.POST("/account/authenticator", { body: { password } })).then(setFresh),
                })
              }
            >
              Set up
            </Button>
          )}
        </li>
        {account.passkeys.map((k) => (
          <li key={k.key} className="flex flex-wrap items-center gap-2 py-1.5">
            <span className="min-w-0 flex-1">
              <b>Passkey: {k.name}</b>{" "}
              <span className="text-soft">
                since {moment(k.added)}
                {k.used && `, used ${moment(k.used)}`}
              </span>
            </span>
            <Button
              kind="quiet"
              onClick={() =>
                setAsked({
                  title: `Take the passkey ${k.name} away`,
                  word: "Take it away",
                  does: (password) =>
                    data(
                      api.POST("/account/passkeys/{key}/off", {
                        params: { path: { key: k.key } },
                        body: { password },
                      }),
                    ).then(again),
                })
              }
            >
              Take away<span className="sr-only"> the passkey {k.name}</span>
            </Button>
          </li>
        ))}
        <li className="flex flex-wrap items-center gap-2 py-1.5">
          <span className="min-w-0 flex-1">
            <b>A passkey of this device</b>{" "}
            <span className="text-soft">
              {hasPasskeys()
                ? "comes in by a finger, a face or a PIN, without a password"
                : "needs an address with a name, such as localhost, and a browser that knows them"}
            </span>
          </span>
          {hasPasskeys() && <Button onClick={() => setNaming(true)}>Add</Button>}
        </li>
        {has && (
          <li className="flex flex-wrap items-center gap-2 py-1.5">
            <span className="min-w-0 flex-1">
              <b>Recovery codes</b> <span className="text-soft">{account.codes_left} left</span>
            </span>
            <Button
              kind="quiet"
              onClick={() =>
                setAsked({
                  title: "New recovery codes",
                  word: "Make them",
                  does: (password) =>
                    data(api.POST("/account/recovery-codes", { body: { password } })).then((a) =>
                      keep(a.codes),
                    ),
                })
              }
            >
              Make new ones
            </Button>
          </li>
        )}
      </ul>
      {asked && <Confirm asked={asked} account={account} onClose={() => setAsked(undefined)} />}
      {naming && (
        <NewPasskey
          account={account}
          onClose={() => setNaming(false)}
          onDone={(list) => {
            setNaming(false);
            keep(list);
          }}
        />
      )}
      {fresh && (
        <Authenticator
          fresh={fresh}
          onClose={() => setFresh(undefined)}
          onDone={(list) => {
            setFresh(undefined);
            keep(list);
          }}
        />
      )}
      {codes && <Codes codes={codes} onClose={() => setCodes(undefined)} />}
    </section>
  );
}

/** The password again, before something of the account is changed. */
function Confirm({
  asked,
  account,
  onClose,
}: {
  asked: Asked;
  account: Schemas["Account"];
  onClose: () => void;
}) {
  const of = useFormOf("beginAuthenticator", { password: "" });
  const send = useSending();
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} title={asked.title}>
      <Form
        of={of}
        refused={send.refused}
        onSave={(body) => send.run(() => asked.does(body.password)).then((ok) => ok && onClose())}
        className="grid gap-3"
      >
        {account.has_password ? (
          <TextField name="password" type="password" autoComplete="current-password" />
        ) : (
          <p className="say">You have no password; that you came in just now is enough.</p>
        )}
        <Button type="submit" kind="main" className="justify-self-start" off={send.busy}>
          {asked.word}
        </Button>
      </Form>
    </Dialog>
  );
}

interface Done {
  onClose: () => void;
  onDone: (codes: string[]) => void;
}

function NewPasskey({ account, onClose, onDone }: Done & { account: Schemas["Account"] }) {
  const [name, setName] = useState("");
  const [password, setPassword] = useState("");
  const send = useSending();
  const add = async () => {
    const { options } = await data(api.POST("/account/passkeys/task", { body: { password } }));
    const credential = await makePasskey(options);
    return data(api.POST("/account/passkeys", { body: { name: name.trim(), credential } }));
  };
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} title="A passkey of this device">
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          if (name.trim()) void send.run(add).then((done) => done && onDone(done.answer.codes));
        }}
      >
        <Field label="What it is on" hint="Such as: phone, office.">
          {(control) => (
            <input
              {...control}
              className="field"
              maxLength={60}
              value={name}
              onChange={(e) => setName(e.target.value)}
            />
          )}
        </Field>
        {account.has_password && (
          <Field
            label="Password"
            error={send.refused?.field === "password" ? send.refused.message : undefined}
          >
            {(control) => (
              <input
                {...control}
                className="field"
                type="password"
                autoComplete="current-password"
                maxLength={200}
                value={password}
                onChange={(e) => setPassword(e.target.value)}
              />
            )}
          </Field>
        )}
        {send.refused && send.refused.field !== "password" && (
          <p role="alert" className="say text-small text-fault">
            {send.refused.message}
          </p>
        )}
        <Button type="submit" kind="main" className="justify-self-start" off={send.busy || !name.trim()}>
          Add the passkey
        </Button>
      </form>
    </Dialog>
  );
}

function Authenticator({ fresh, onClose, onDone }: Done & { fresh: Schemas["AuthenticatorSecret"] }) {
  const of = useFormOf("finishAuthenticator", { code: "" });
  const send = useSending();
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} title="Set up an authenticator">
      <div className="grid gap-3">
        <p className="say">
          Point the authenticator&apos;s camera at the picture, or type the secret into it. Then type the code
          that it shows.
        </p>
        <img
          src={fresh.picture}
          alt="The secret, for a camera"
          width={220}
          height={220}
          className="bg-white p-2"
        />
        <p className="break-all font-mono text-small">{fresh.secret.replace(/(.{4})/g, "$1 ").trim()}</p>
        <Form
          of={of}
          refused={send.refused}
          onSave={(body) =>
            send
              .run(() => data(api.PUT("/account/authenticator", { body })))
              .then((done) => done && onDone(done.answer.codes))
          }
          className="grid gap-3"
        >
          <TextField name="code" inputMode="numeric" autoComplete="one-time-code" data-first />
          <Button type="submit" kind="main" className="justify-self-start" off={send.busy}>
            It works
          </Button>
        </Form>
      </div>
    </Dialog>
  );
}

function Codes({ codes, onClose }: { codes: string[]; onClose: () => void }) {
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} title="Recovery codes" stays>
      <p className="say">
        Each lets you in once where your second factor is not at hand. Write them down now: they are not shown
        again.
      </p>
      <ul className="my-3 grid grid-cols-2 gap-1 font-mono">
        {codes.map((c) => (
          <li key={c}>{c}</li>
        ))}
      </ul>
      <Button kind="main" onClick={onClose}>
        They are written down
      </Button>
    </Dialog>
  );
}
