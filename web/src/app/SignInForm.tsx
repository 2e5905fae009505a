import { Button, ButtonLink } from "@/kit/Button";
import { Form, useFormOf, type Refused } from "@/kit/form/Form";
import { TextField } from "@/kit/form/fields";
import type { Body } from "@/kit/form/shape";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Problem, api, data, keepToken, type Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useSending } from "@/api/sending";
import { Wrong } from "@/kit/Field";
import { hasPasskeys, enterByPasskey } from "./passkey";
import { refreshToken } from "./session";

interface Props {
  demo: boolean;
  onEnter: (session: Schemas["Session"]) => void;
  /** Who was signed in before, if somebody was. */
  before?: string;
}

/** Signs in; when the request token is of a session that is gone, once more with a new one. */
async function entering(call: () => Promise<Schemas["Session"]>): Promise<Schemas["Session"]> {
  try {
    return await call();
  } catch (e) {
    if (!(e instanceof Problem) || e.field !== "X-CSRF-Token") throw e;
    await refreshToken();
    return call();
  }
}

/** Signing in: by e-mail and password, with a second factor where one is owed; by a passkey; in the demo by one click. */
export function SignInForm({ demo, onEnter, before }: Props) {
  const session = useQuery(queries.session());
  const [second, setSecond] = useState(session.data?.second);
  const [trouble, setTrouble] = useState<string>();
  const enter = (now: Schemas["Session"]) => {
    keepToken(now.csrf);
    if (now.user) onEnter(now);
    else setSecond(now.second);
  };
  const passkey = () => {
    setTrouble(undefined);
    enterByPasskey()
      .then(enter)
      .catch((e: unknown) => {
        // Who closes the window of his device has changed his mind.
        if (!(e instanceof DOMException)) setTrouble(e instanceof Error ? e.message : "That did not work");
      });
  };
  return (
    <>
      <div className="grid content-start gap-3">
        {second ? (
          <SecondForm second={second} onEnter={enter} onBack={() => setSecond(undefined)} />
        ) : (
          <PasswordForm onEnter={enter} />
        )}
        {hasPasskeys() && (!second || second.passkey) && (
          <Button className="max-w-xs justify-center" onClick={passkey}>
            Use a passkey
          </Button>
        )}
        {trouble && <Wrong>{trouble}</Wrong>}
        {!second && (
          <ButtonLink kind="way" className="say text-small" to="/recover">
            The password is forgotten
          </ButtonLink>
        )}
      </div>
      {demo && <DemoStaff before={before} onEnter={enter} onError={setTrouble} />}
    </>
  );
}

function PasswordForm({ onEnter }: Pick<Props, "onEnter">) {
  const of = useFormOf("signIn", { email: "", password: "" });
  const [refused, setRefused] = useState<Refused>();
  const submit = async (body: Body<"signIn">) => {
    try {
      onEnter(await entering(() => data(api.POST("/session", { body }))));
    } catch (error) {
      const field = error instanceof Problem && error.field === "email" ? "email" : "password";
      const message = error instanceof Error ? error.message : "That did not work";
      setRefused({ field, message });
      of.form.setFocus(field);
    }
  };
  return (
    <Form of={of} refused={refused} onSave={submit} className="grid max-w-xs gap-3">
      <TextField name="email" type="email" autoComplete="username webauthn" />
      <TextField name="password" type="password" autoComplete="current-password" />
      <Button type="submit" kind="main" className="justify-center" off={of.form.formState.isSubmitting}>
        Sign in
      </Button>
    </Form>
  );
}

interface SecondProps extends Pick<Props, "onEnter"> {
  second: Schemas["Second"];
  onBack: () => void;
}

/** The password was right; a second factor is owed. */
function SecondForm({ second, onEnter, onBack }: SecondProps) {
  const of = useFormOf("showFactor", { code: "" });
  const send = useSending();
  return (
    <>
      <p className="say">The password is right. Now your second factor:</p>
      {second.code && (
        <Form
          of={of}
          refused={send.refused}
          onSave={(body) =>
            send
              .run(() => data(api.POST("/session/factor", { body })))
              .then((done) => done && onEnter(done.answer))
          }
          className="grid max-w-xs gap-3"
        >
          <TextField name="code" autoComplete="one-time-code" inputMode="text" />
          <Button type="submit" kind="main" className="justify-center" off={send.busy}>
            Go on
          </Button>
        </Form>
      )}
      <Button kind="text" className="justify-self-start" onClick={onBack}>
        Sign in as somebody else
      </Button>
    </>
  );
}

interface StaffProps {
  before?: string;
  onEnter: (session: Schemas["Session"]) => void;
  onError: (message: string) => void;
}

function DemoStaff({ before, onEnter, onError }: StaffProps) {
  const staff = useQuery(queries.demoStaff());
  // Who was here a moment ago stands first.
  const list = [...(staff.data ?? [])].sort((a, b) => Number(b.id === before) - Number(a.id === before));
  return (
    <section aria-label="Demo staff" className="sheet self-start p-4">
      <h2 className="head">Demo: the Marrow Point Lamplighters</h2>
      <p className="say mt-1 text-soft">An invented club in week 7. Come in as any of its staff.</p>
      <p className="say text-small">
        <ButtonLink kind="way" to="/outbox">
          Letters that the demo would send
        </ButtonLink>
      </p>
      <ul className="mt-3 grid gap-1.5">
        {list.map((s) => (
          <li key={s.id}>
            <Button
              kind="quiet"
              className="w-full justify-between"
              onClick={() =>
                void entering(() => data(api.POST("/demo/session", { body: { user_id: s.id } })))
                  .then(onEnter)
                  .catch((e: Error) => onError(e.message))
              }
            >
              <span>{s.name}</span>
              <span className="label">{s.title}</span>
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
