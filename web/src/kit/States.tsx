import clsx from "clsx";
import { Button } from "@/kit/Button";
import type { ReactNode } from "react";
import { Problem } from "@/api/client";
import { OutOfBounds } from "@/app/NotFound";

/** While something is on its way. It appears late, so that quick answers do not flash. */
export function Loading({ what }: { what: string }) {
  return (
    <p role="status" className="appear-late label p-4">
      Fetching {what}
    </p>
  );
}

/** Nothing there yet, and what to do about it. */
export function Empty({ children, action }: { children: ReactNode; action?: ReactNode }) {
  return (
    <div className="border border-dashed border-rule p-4">
      <p className="say max-w-prose text-soft">{children}</p>
      {action && <div className="mt-3">{action}</div>}
    </div>
  );
}

/** Something went wrong, in words, with a way to try again; what is not there is said with a way on. */
export function Trouble({ error, again }: { error: Error; again?: () => void }) {
  if (error instanceof Problem && error.status === 404) return <OutOfBounds />;
  return (
    <div role="alert" className="m-2 border border-fault bg-fault-wash p-4">
      <p className="say">{error.message}</p>
      <p className="mt-3 flex flex-wrap gap-2">{again && <Button onClick={again}>Try again</Button>}</p>
    </div>
  );
}

/** What did not work, in words, above or below what it is about. */
export function Refusal({ className, children }: { className?: string; children: ReactNode }) {
  return (
    <p role="alert" className={clsx("say border border-fault bg-fault-wash p-2", className)}>
      {children}
    </p>
  );
}

interface MoreProps {
  /** What comes when it is pressed. */
  word: string;
  of: { hasNextPage: boolean; isFetchingNextPage: boolean; fetchNextPage: () => unknown };
}

/** The next page of a long list, when there is one. */
export function More({ word, of }: MoreProps) {
  if (!of.hasNextPage) return null;
  return (
    <Button kind="quiet" className="mt-2" off={of.isFetchingNextPage} onClick={() => void of.fetchNextPage()}>
      {of.isFetchingNextPage ? "Fetching more" : word}
    </Button>
  );
}
