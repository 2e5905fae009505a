import type { Schemas } from "@/api/client";
import type { Key } from "@/keys/react";
import { drewFlag, looked, toggleFacet, toggleFault, toggleState } from "./cell";
import { lettersOf } from "./letters";
import type { Asked } from "./Panel";
import type { CellMark } from "./useMarking";

interface Of {
  cell?: CellMark;
  player: string;
  rep: number;
  put: (body: Omit<CellMark, "id">) => void;
  ask: (what: Asked | undefined) => void;
}

/** What may be said of a player on a rep or a play, by key and by button alike. */
export function actsOf({ cell, player, rep, put, ask }: Of) {
  return {
    onAsk: ask,
    onFault: (key: string) => put(toggleFault(cell, player, rep, key)),
    onFacet: (facet: "assignment" | "technique" | "finish") => put(toggleFacet(cell, player, rep, facet)),
    onFlag: () => put(drewFlag(cell, player, rep)),
    onPraise: () => put({ ...looked(cell, player, rep), praise: !cell?.praise }),
    onClean: () => put(looked(undefined, player, rep)),
    onState: (state: "unseen" | "unsettled") => put(toggleState(cell, player, rep, state)),
    onNote: (note: string | undefined) => {
      ask(undefined);
      if (note !== undefined)
        put(cell && cell.state !== "assumed" ? { ...cell, note } : { ...looked(cell, player, rep), note });
    },
  };
}

/** Their keys: only those that do something now. */
export function markKeys(
  acts: ReturnType<typeof actsOf>,
  { faults, measures }: Pick<Schemas["MarkSheet"], "faults" | "measures">,
  cell: CellMark | undefined,
): Key[] {
  const letters = lettersOf(faults);
  return [
    ...faults
      .filter((f) => letters.get(f.key))
      .map((f) => ({
        keys: letters.get(f.key)!,
        does: f.name,
        given: true,
        run: () => acts.onFault(f.key),
      })),
    { keys: "t", does: "Technique wrong, no name for it", run: () => acts.onFacet("technique") },
    { keys: "a", does: "Wrong assignment", run: () => acts.onFacet("assignment") },
    { keys: "f", does: "No finish", run: () => acts.onFacet("finish") },
    { keys: "p", does: "Praise", run: acts.onPraise },
    { keys: "u", does: "Unseen", run: () => acts.onState("unseen") },
    { keys: "q", does: "Open question", run: () => acts.onState("unsettled") },
    { keys: ".", does: "Looked at, clean", run: acts.onClean },
    ...(cell?.faults?.length
      ? [
          { keys: ",", does: "A teammate caused it", run: () => acts.onAsk("cause") },
          { keys: ";", does: "It drew a flag", run: acts.onFlag },
        ]
      : []),
    { keys: "n", does: "Note", run: () => acts.onAsk("note") },
    ...(measures.length > 0 ? [{ keys: "m", does: "Measure", run: () => acts.onAsk("measure") }] : []),
  ];
}
