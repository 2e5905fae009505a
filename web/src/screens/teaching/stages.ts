import { entryShape, part, type Shape } from "@/kit/form/shape";

/** A stage of a ladder as it is edited. */
export interface StageFields {
  key: string;
  name: string;
  kind: string;
  drills?: string[];
  window: number;
  clean: number;
  sessions?: number;
  max_sessions?: number;
  from_week?: number;
}

/** What a stage takes. */
export const stageShape: Shape = part(entryShape("ladder"), "stages").items ?? {};

/** The list with one element moved to another place. */
export function reorder<T>(list: readonly T[], from: number, to: number): T[] {
  const next = [...list];
  const [moved] = next.splice(from, 1);
  if (moved !== undefined) next.splice(Math.max(0, Math.min(to, next.length)), 0, moved);
  return next;
}

/** A key that no stage has yet. */
export function freeKey(stages: readonly StageFields[], base: string): string {
  let key = base;
  for (let n = 2; stages.some((s) => s.key === key); n++) key = `${base}_${n}`;
  return key;
}
