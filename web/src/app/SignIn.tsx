import { zodResolver } from "@hookform/resolvers/zod";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useForm } from "react-hook-form";
import { Navigate, useNavigate } from "react-router";
import { z } from "zod";
import { Problem, api, data, keepToken, type Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { HashMark } from "@/parts/Ruler";
import { Loading, Trouble } from "@/parts/States";

const form = z.object({
  email: z.string().min(3, "Your e-mail is missing"),
  password: z.string().min(1, "Your password is missing"),
});

/** The way in: e-mail and password, and in the demo one click as any of its staff. */
export function SignIn() {
  const session = useQuery(queries.session());
  const staff = useQuery({ ...queries.demoStaff(), enabled: session.data?.demo === true });
  const client = useQueryClient();
  const navigate = useNavigate();
  const { register, handleSubmit, setError, formState } = useForm<z.infer<typeof form>>({
    resolver: zodResolver(form),
  });
  if (session.error) return <Trouble error={session.error} again={() => void session.refetch()} />;
  if (!session.data) return <Loading what="the sign-in" />;
  if (session.data.user) return <Navigate to="/" replace />;

  const enter = (next: Schemas["Session"]) => {
    keepToken(next.csrf);
    client.clear();
    client.setQueryData(queries.session().queryKey, next);
    void navigate("/");
  };
  const submit = handleSubmit(async (body) => {
    try {
      enter(await data(api.POST("/session", { body })));
    } catch (error) {
      const field = error instanceof Problem && error.field === "email" ? "email" : "password";
      setError(
        field,
        { message: error instanceof Error ? error.message : "That did not work" },
        { shouldFocus: true },
      );
    }
  });
  return (
    <main className="mx-auto grid min-h-screen max-w-4xl content-center gap-8 p-6 md:grid-cols-2">
      <section>
        <h1 className="text-3xl font-extrabold tracking-wide">NINE YARD</h1>
        <HashMark />
        <p className="say mt-4 max-w-xs">
          From the last play graded to the next practice planned, without a spreadsheet.
        </p>
        <form onSubmit={(e) => void submit(e)} className="mt-6 grid max-w-xs gap-3" noValidate>
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
          <button type="submit" className="btn btn-main justify-center" disabled={formState.isSubmitting}>
            Sign in
          </button>
        </form>
      </section>
      {session.data.demo && (
        <section aria-label="Demo staff" className="sheet self-start p-4">
          <h2 className="head">Demo: the Marrow Point Lamplighters</h2>
          <p className="say mt-1 text-soft">An invented club in week 7. Come in as any of its staff.</p>
          <ul className="mt-3 grid gap-1.5">
            {staff.data?.map((s) => (
              <li key={s.id}>
                <button
                  type="button"
                  className="btn btn-quiet w-full justify-between"
                  onClick={() =>
                    void data(api.POST("/demo/session", { body: { user_id: s.id } }))
                      .then(enter)
                      .catch((e: Error) => setError("password", { message: e.message }))
                  }
                >
                  <span>{s.name}</span>
                  <span className="label">{s.title}</span>
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
    </main>
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
