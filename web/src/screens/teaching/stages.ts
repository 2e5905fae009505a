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

/** A key that no stage has yet. */
export function freeKey(stages: readonly StageFields[], base: string): string {
  let key = base;
  for (let n = 2; stages.some((s) => s.key === key); n++) key = `${base}_${n}`;
  return key;
}
