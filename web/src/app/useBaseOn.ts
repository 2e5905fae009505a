import { useQuery } from "@tanstack/react-query";
import { queries } from "@/api/queries";
import { useWhere } from "./where";

/** The address under which what is on a day lies: that of its week, which need not be the one that is looked at. */
export function useBaseOn(): (date: string) => string {
  const { group, base } = useWhere();
  const frame = useQuery(queries.frame());
  return (date) => {
    const week = frame.data?.weeks.findLast((w) => w.starts <= date);
    return week ? `/g/${group}/w/${week.week}` : base;
  };
}
