import { useSyncExternalStore } from "react";

/** What a screen has not yet on disk. */
export interface Saving {
  waiting: number;
  /** Why it waits, when something is wrong. */
  trouble?: string;
  savedAt?: Date;
}

let state: Saving = { waiting: 0 };
const listeners = new Set<() => void>();

/** Says what is not yet saved; the frame shows it on every screen. */
export function setSaving(next: Saving) {
  if (next.waiting === state.waiting && next.trouble === state.trouble && next.savedAt === state.savedAt)
    return;
  state = next;
  for (const told of listeners) told();
}

export function useSaving(): Saving {
  return useSyncExternalStore(
    (told) => {
      listeners.add(told);
      return () => listeners.delete(told);
    },
    () => state,
  );
}

/** The saved-or-not line of the frame. */
export function SaveState() {
  const s = useSaving();
  if (s.waiting === 0 && !s.savedAt) return null;
  const text = s.trouble
    ? `${s.waiting} not saved: ${s.trouble}`
    : s.waiting > 0
      ? `${s.waiting} waiting`
      : `Saved ${s.savedAt?.toTimeString().slice(0, 5)}`;
  return (
    <span
      role="status"
      data-testid="save-state"
      data-waiting={s.waiting}
      className={
        s.trouble
          ? "border border-fault px-2 py-0.5 text-small font-semibold text-fault"
          : s.waiting > 0
            ? "border border-dashed border-watch px-2 py-0.5 text-small font-semibold text-watch"
            : "border border-rule px-2 py-0.5 text-small font-semibold"
      }
    >
      {text}
    </span>
  );
}
