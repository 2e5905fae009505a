import { Button } from "@/kit/Button";
import { Form, useFormOf, type Refused } from "@/kit/form/Form";
import { TextField } from "@/kit/form/fields";
import type { Body } from "@/kit/form/shape";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Problem, api, data, type Schemas } from "@/api/client";
import { queries } from "@/api/queries";
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

/** Signing in by e-mail and password, and in the demo by one click. */
export function SignInForm({ demo, onEnter, before }: Props) {
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
    <>
      <Form of={of} refused={refused} onSave={submit} className="grid max-w-xs gap-3">
        <TextField name="email" type="email" autoComplete="username" />
        <TextField name="password" type="password" autoComplete="current-password" />
        <Button type="submit" kind="main" className="justify-center" off={of.form.formState.isSubmitting}>
          Sign in
        </Button>
      </Form>
      {demo && (
        <DemoStaff
          before={before}
          onEnter={onEnter}
          onError={(message) => setRefused({ field: "password", message })}
        />
      )}
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
