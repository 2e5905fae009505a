import { Button } from "@/kit/Button";
import { zodResolver } from "@hookform/resolvers/zod";
import { useQuery } from "@tanstack/react-query";
import { useForm } from "react-hook-form";
import { z } from "zod";
import { Problem, api, data, type Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { refreshToken } from "./session";

const form = z.object({
  email: z.string().min(3, "Your e-mail is missing"),
  password: z.string().min(1, "Your password is missing"),
});

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
  const { register, handleSubmit, setError, formState } = useForm<z.infer<typeof form>>({
    resolver: zodResolver(form),
  });
  const submit = handleSubmit(async (body) => {
    try {
      onEnter(await entering(() => data(api.POST("/session", { body }))));
    } catch (error) {
      const field = error instanceof Problem && error.field === "email" ? "email" : "password";
      const message = error instanceof Error ? error.message : "That did not work";
      setError(field, { message }, { shouldFocus: true });
    }
  });
  return (
    <>
      <form onSubmit={(e) => void submit(e)} className="grid max-w-xs gap-3" noValidate>
        <Field label="E-mail" error={formState.errors.email?.message}>
          <input
            className="field"
            type="email"
            autoComplete="username"
            {...register("email")}
            aria-invalid={!!formState.errors.email}
          />
        </Field>
        <Field label="Password" error={formState.errors.password?.message}>
          <input
            className="field"
            type="password"
            autoComplete="current-password"
            {...register("password")}
            aria-invalid={!!formState.errors.password}
          />
        </Field>
        <Button type="submit" kind="main" className="justify-center" off={formState.isSubmitting}>
          Sign in
        </Button>
      </form>
      {demo && (
        <DemoStaff
          before={before}
          onEnter={onEnter}
          onError={(message) => setError("password", { message })}
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

function Field({ label, error, children }: { label: string; error?: string; children: React.ReactNode }) {
  return (
    <label className="grid gap-1">
      <span className="label">{label}</span>
      {children}
      {error && (
        <span role="alert" className="text-small font-semibold text-fault">
          {error}
        </span>
      )}
    </label>
  );
}
