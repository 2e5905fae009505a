import { useLocation } from "react-router";
import type { Schemas } from "@/api/client";
import { useSync } from "@/sync/context";

/** Takes back what was put into a period: an edit of its plan like any other. Tells whether it was taken. */
export function usePutBack() {
  const { engine } = useSync();
  const { pathname } = useLocation();
  return async (done: Schemas["PutIn"], says: string): Promise<boolean> => {
    const settled = await engine.submit({
      key: `period/${done.period_id}/${done.group}`,
      kind: "period",
      content: done.before,
      base: String(done.version),
      about: { says, href: pathname },
    });
    return settled.is === "saved";
  };
}
