import type { Key } from "@/keys/react";

/** What can be taken back, and done again. */
export interface Steps {
  undo: () => void;
  redo: () => void;
  canUndo: boolean;
  canRedo: boolean;
}

/** The keys of undo: only those that do something now. */
export function undoKeys(steps: Steps): Key[] {
  const keys: Key[] = [];
  if (steps.canUndo) keys.push({ keys: "z Ctrl+z", does: "Undo", run: steps.undo });
  if (steps.canRedo) keys.push({ keys: "Shift+z Ctrl+Shift+z Ctrl+y", does: "Do it again", run: steps.redo });
  return keys;
}
