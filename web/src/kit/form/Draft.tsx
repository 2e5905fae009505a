import { Button } from "@/kit/Button";
import { format } from "date-fns";
import type { HalfTyped } from "@/sync/drafts";

interface Props<T> {
  draft: HalfTyped<T>;
  onTake: (content: T) => void;
}

/** What was half typed and left: offered again, to take up or to let go. */
export function Draft<T>({ draft, onTake }: Props<T>) {
  const kept = draft.offered;
  if (!kept) return null;
  return (
    <div
      role="status"
      className="flex w-full flex-wrap items-center gap-2 border border-dashed border-watch p-2"
    >
      <p className="say text-small">
        On {format(kept.at, "EEE d MMM, HH:mm")} you left something half typed here.
        {kept.stale && " It was made on an older version: look at it before you save."}
      </p>
      <span className="flex gap-2">
        <Button onClick={() => onTake(kept.content)}>Take it up</Button>
        <Button kind="quiet" onClick={draft.drop}>
          Let it go
        </Button>
      </span>
    </div>
  );
}
