import type { Schemas } from "@/api/client";
import { part, type Shape } from "@/kit/form/shape";
import { entryShape } from "./fields";

/** A stage of a ladder as it is edited. */
export type StageFields = Schemas["StageEntry"];

/** What a stage takes. */
export const stageShape: Shape = part(entryShape("ladder"), "stages").items ?? {};
