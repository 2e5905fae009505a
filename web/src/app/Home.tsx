import { useQuery } from "@tanstack/react-query";
import { Navigate } from "react-router";
import { queries } from "@/api/queries";
import { Loading, Trouble } from "@/kit/States";
import { lastPlace } from "./where";

/** Sends the coach to his group and the week of today, or to where he was. */
export function Home() {
  const session = useQuery(queries.session());
  const frame = useQuery({ ...queries.frame(), enabled: !!session.data?.user });
  if (session.error) return <Trouble error={session.error} again={() => void session.refetch()} />;
  if (session.data && !session.data.user) return <Navigate to="/signin" replace />;
  if (frame.error) return <Trouble error={frame.error} again={() => void frame.refetch()} />;
  if (!frame.data) return <Loading what="your week" />;
  const kept = lastPlace();
  const group =
    frame.data.groups.find((g) => g.key === kept && (g.mine || session.data?.user?.role === "head")) ??
    frame.data.groups.find((g) => g.mine) ??
    frame.data.groups[0];
  if (!group) return <Trouble error={new Error("This club has no position groups yet.")} />;
  return <Navigate to={`/g/${group.key}/w/${frame.data.week}/today`} replace />;
}
