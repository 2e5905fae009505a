import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";

/** A call on the day of its install. */
export interface Install {
  id: string;
  name: string;
  verdict?: Schemas["Verdict"];
}

/** What is called and whether it will be ready; the season is there before it is known. */
export function useReady(group: string, week: number) {
  const calls = useQuery(queries.calls());
  const ready = useQuery(queries.readiness(group, week));
  return { calls: calls.data, ready: ready.data };
}

/** The installs of each day. */
export function installsOf(calls?: Schemas["Calls"], ready?: Schemas["Readiness"]) {
  const verdicts = new Map(ready?.calls.map((c) => [c.id, c.verdict]));
  const days = new Map<string, Install[]>();
  for (const { id, call } of calls?.calls ?? [])
    if (call.install)
      days.set(call.install, [
        ...(days.get(call.install) ?? []),
        { id, name: call.name, verdict: verdicts.get(id) },
      ]);
  return days;
}
