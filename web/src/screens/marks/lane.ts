import clsx from "clsx";

/** How a mark stands with the server. */
export type Standing = "open" | "waiting" | "refused" | "saved";

/** That of a cell, by the ids of the marks that are not with the server. */
export function standingOf(
  id: string | undefined,
  waiting: ReadonlySet<string>,
  refused: ReadonlySet<string>,
): Standing {
  if (id === undefined) return "open";
  if (waiting.has(id)) return "waiting";
  return refused.has(id) ? "refused" : "saved";
}

/** In words, behind what stands in the cell. */
export const standingWords = {
  open: "",
  saved: "",
  waiting: ", not saved yet",
  refused: ", could not be saved",
};

/** What a cell looks like: the one at hand, its column, and one that is not saved. */
export const cellLook = (state: Standing, current: boolean, column: boolean) =>
  clsx(
    "flex cursor-pointer items-center justify-center border text-small",
    current
      ? "border-2 border-flag"
      : state === "waiting"
        ? "border-dashed border-watch"
        : state === "refused"
          ? "border-dashed border-fault line-through"
          : "border-transparent",
    column && !current && "bg-flag-wash",
  );
