import { AlertDialog, AlertWay } from "@/kit/AlertDialog";
import { Button } from "@/kit/Button";
import { Dialog } from "@/kit/Dialog";
import { Popover } from "@/kit/Popover";
import { useToast } from "@/kit/Toast";
import { Tooltip } from "@/kit/Tooltip";
import type { Page } from "./Gallery";
import { Holds } from "./Holds";

const nothing = () => undefined;

function Words() {
  const tell = useToast();
  return (
    <p className="flex gap-2">
      <Button onClick={() => tell({ text: "86 Ulf Ek is 68 Ulf Ek: 12 marks moved." })}>
        Tell something
      </Button>
      <Button
        onClick={() => tell({ text: "58 Tobe Oduya is archived.", way: { word: "Undo", run: nothing } })}
      >
        Tell something that can be taken back
      </Button>
    </p>
  );
}

/** What lies over the screen. */
export const over: Page[] = [
  {
    part: "Dialog",
    says: "A window over the screen. The keyboard is in its first field, and goes back when it closes.",
    states: [
      {
        name: "opened by a press",
        show: (
          <Holds start={false}>
            {(open, set) => (
              <>
                <Button onClick={() => set(true)}>Open</Button>
                <Dialog open={open} onOpenChange={set} title="Availability of 64 Jun Sato">
                  <input aria-label="Why" className="field w-full" />
                </Dialog>
              </>
            )}
          </Holds>
        ),
      },
      {
        name: "one that stays",
        show: (
          <Holds start={false}>
            {(open, set) => (
              <>
                <Button onClick={() => set(true)}>Open what must be answered</Button>
                <Dialog open={open} onOpenChange={nothing} title="You are signed out" stays>
                  <Button onClick={() => set(false)}>Sign in</Button>
                </Dialog>
              </>
            )}
          </Holds>
        ),
      },
    ],
  },
  {
    part: "AlertDialog",
    says: "A question that must be answered before anything else.",
    states: [
      {
        name: "asked by a press",
        show: (
          <Holds start={false}>
            {(open, set) => (
              <>
                <Button onClick={() => set(true)}>Ask</Button>
                {open && (
                  <AlertDialog
                    title="Two versions of this period"
                    says="R. Kell changed it while you did."
                    ways={
                      <>
                        <AlertWay main>
                          <Button kind="main" onClick={() => set(false)}>
                            Keep mine
                          </Button>
                        </AlertWay>
                        <AlertWay>
                          <Button onClick={() => set(false)}>Take theirs</Button>
                        </AlertWay>
                      </>
                    }
                  />
                )}
              </>
            )}
          </Holds>
        ),
      },
    ],
  },
  {
    part: "Popover",
    says: "Something more about what was pressed, beside it.",
    states: [
      {
        name: "closed",
        show: (
          <Popover label="Inside run" trigger={<Button>Inside run</Button>} className="p-2">
            <p className="say">16:10–16:22, 12 minutes, OL TE RB, thud</p>
          </Popover>
        ),
      },
    ],
  },
  {
    part: "Tooltip",
    says: "A hint at what the pointer rests on or the keyboard has; never the only place where something is said.",
    states: [
      {
        name: "closed",
        show: (
          <Tooltip text="Two steps and freeze, 6 minutes">
            <Button className="w-20">
              <span className="truncate">Two steps and freeze</span>
            </Button>
          </Tooltip>
        ),
      },
    ],
  },
  {
    part: "Toast",
    says: "A word about what was done, with the way to take it back. One that can be taken back stays.",
    states: [{ name: "told by a press", show: <Words /> }],
  },
];
