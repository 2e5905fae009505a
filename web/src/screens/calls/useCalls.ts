import { useMemo } from "react";
import type { Schemas } from "@/api/client";
import { useSheet, type Sheet } from "@/sync/sheet";
import { callsOf, type Call } from "./calls";

export type Editing = Sheet<Call>;

/** The calls of the season, to be changed. */
export function useCalls({ calls }: Schemas["Calls"]): Editing {
  const server = useMemo(() => new Map(calls.map((c) => [c.id, c.call])), [calls]);
  const versions = useMemo(() => new Map(calls.map((c) => [c.id, c.version])), [calls]);
  return useSheet(server, versions, callsOf);
}
