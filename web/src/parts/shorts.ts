import { useQuery } from "@tanstack/react-query";
import { queries } from "@/api/queries";

/** What a position group is called in lanes: its own short name, not the key that names it for ever. */
export function useShorts(): (key: string) => string {
  const groups = useQuery(queries.frame()).data?.groups;
  return (key) => groups?.find((g) => g.key === key)?.short ?? key.toUpperCase();
}
