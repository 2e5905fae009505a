import { Button } from "@/kit/Button";
import type { Steps } from "./undoKeys";

/** What the keys of undo do, by hand. */
export function UndoButtons({ steps }: { steps: Steps }) {
  return (
    <>
      <Button off={!steps.canUndo} onClick={steps.undo}>
        Undo <span className="kbd">z</span>
      </Button>
      <Button off={!steps.canRedo} onClick={steps.redo}>
        Again
      </Button>
    </>
  );
}
