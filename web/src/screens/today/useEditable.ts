import { useQuery } from "@tanstack/react-query";
import { queries } from "@/api/queries";

/** Whether the coach may change what belongs to the group. The server decides; this keeps buttons honest. */
export function useEditable(group: string): boolean {
  const session = useQuery(queries.session());
  const user = session.data?.user;
  return !!user && (user.role === "head" || user.groups.includes(group));
}
