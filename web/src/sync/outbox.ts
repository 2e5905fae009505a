import type { Schemas } from "@/api/client";
import type { Engine } from "./engine";
import { markKey } from "./kinds";

/** Takes over the marks that an older version of the page left waiting in the browser's storage. */
export function takeOver(engine: Engine, user: string) {
  const prefix = `nineyard.mark.${user}.`;
  let names: string[];
  try {
    names = Object.keys(localStorage)
      .filter((k) => k.startsWith(prefix))
      .sort(); // ids are in the order of time
  } catch {
    return; // storage is closed: there is nothing in it
  }
  for (const name of names) {
    const { id, ...content } = JSON.parse(localStorage.getItem(name) ?? "{}") as Schemas["MarkInput"];
    if (content.placement_id && content.rep)
      engine.edit([
        {
          key: markKey(content.placement_id, content.player_id, content.rep),
          kind: "mark",
          id,
          content,
          base: "",
        },
      ]);
  }
  if (names.length > 0) void engine.kept().then(() => names.forEach((n) => localStorage.removeItem(n)));
}
