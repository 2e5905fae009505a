import type { Schemas } from "@/api/client";

/** A difference between two coaches with what was settled of it, or taken back. */
export function settle(d: Schemas["Apart"], mark: Schemas["GameMark"]): Schemas["Apart"] {
  const { state } = mark.mark;
  // Where they name different techniques, the one that it was not says nothing of the player.
  if (state === "not_gradable" && d.a.technique_key !== d.b.technique_key) return d;
  if (state !== "withdrawn") return { ...d, settled: mark };
  return d.settled?.technique_key === mark.technique_key ? { ...d, settled: undefined } : d;
}
