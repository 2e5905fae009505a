import { useQuery } from "@tanstack/react-query";
import { queries } from "@/api/queries";

/** Whether the coach plans and marks in the group. The server decides; this keeps buttons honest. */
export function useEditable(group: string): boolean {
  const { user } = useQuery(queries.session()).data ?? {};
  if (!user) return false;
  return user.role === "head" || (/^(coach|assistant)$/.test(user.role) && user.groups.includes(group));
}

/** Whether the coach may change what the group is: its players, and what they are taught. */
export function useTeaches(group: string): boolean {
  const { user } = useQuery(queries.session()).data ?? {};
  return useEditable(group) && user?.role !== "assistant";
}
