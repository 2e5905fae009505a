import type { ReactNode } from "react";
import { Button } from "@/kit/Button";
import type { Trouble } from "@/sync/machine";
import type { Sheet, Unsaved } from "@/sync/sheet";

interface Props {
  trouble: Trouble;
  onMine: () => void;
  onTheirs: () => void;
  /** Both versions, in words. */
  children?: ReactNode;
}

/** Something that is not saved: why, and the choice between what is mine and what is there. */
export function NotSaved({ trouble, onMine, onTheirs, children }: Props) {
  const conflict = trouble.why === "conflict";
  return (
    <div role="alert" className="sheet mb-2 grid gap-1 border-fault p-2">
      <p className="say font-semibold text-fault">{trouble.message}</p>
      {children}
      <span className="flex gap-2">
        {conflict && <Button onClick={onMine}>Keep mine</Button>}
        <Button onClick={onTheirs}>{conflict ? "Take theirs" : "Leave it as it is saved"}</Button>
      </span>
    </div>
  );
}

/** What of the records that are worked on together is not saved, or of one of them; says: mine, in words. */
export function AllNotSaved<T>({
  editing,
  only,
  says,
}: {
  editing: Pick<Sheet<T>, "unsaved" | "keepMine" | "takeTheirs">;
  only?: string;
  says?: (u: Unsaved<T>) => ReactNode;
}) {
  return editing.unsaved
    .filter((u) => only === undefined || u.id === only)
    .map((u) => (
      <NotSaved
        key={u.key}
        trouble={u.trouble}
        onMine={() => editing.keepMine(u)}
        onTheirs={() => editing.takeTheirs(u)}
      >
        {says?.(u)}
      </NotSaved>
    ));
}
