import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { Navigate, useNavigate, useSearchParams } from "react-router";
import { keepToken, type Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { HashMark } from "@/parts/Ruler";
import { Loading, Trouble } from "@/kit/States";
import { SignInForm } from "./SignInForm";
import { forgetAll, sessionBegun } from "./session";

/** An address of ours to go to after signing in; anything else leads to Today. */
export function nextPlace(params: URLSearchParams): string {
  const next = params.get("next") ?? "";
  return /^\/(?![/\\])/.test(next) && !next.startsWith("/signin") ? next : "/";
}

/** The way in, and on to where the coach wanted to go. */
export function SignIn() {
  const session = useQuery(queries.session());
  const client = useQueryClient();
  const navigate = useNavigate();
  const [params] = useSearchParams();
  const next = nextPlace(params);
  useEffect(() => {
    document.title = "Sign in · Nine Yard";
  }, []);
  if (session.error) return <Trouble error={session.error} again={() => void session.refetch()} />;
  if (!session.data) return <Loading what="the sign-in" />;
  if (session.data.user) return <Navigate to={next} replace />;
  if (session.data.first) return <Navigate to="/begin" replace />;
  const enter = (now: Schemas["Session"]) => {
    keepToken(now.csrf);
    forgetAll(client);
    client.setQueryData(queries.session().queryKey, now);
    sessionBegun();
    void navigate(next, { replace: true });
  };
  return (
    <main className="mx-auto grid min-h-screen max-w-4xl content-center gap-8 p-4 sm:p-6 md:grid-cols-2">
      <div>
        <h1 className="text-3xl font-extrabold tracking-wide">NINE YARD</h1>
        <HashMark />
        <p className="say mb-6 mt-4 max-w-xs">
          From the last play graded to the next practice planned, without a spreadsheet.
        </p>
      </div>
      <div className="contents md:grid md:gap-6">
        <SignInForm demo={session.data.demo} onEnter={enter} />
      </div>
    </main>
  );
}
