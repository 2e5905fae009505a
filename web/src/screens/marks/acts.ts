import type { Schemas } from "@/api/client";
import type { Key } from "@/keys/react";
import {
  askedOf,
  drewFlag,
  efforts,
  exchanges,
  looked,
  nextResult,
  nextTally,
  stepGrade,
  toggleFacet,
  toggleFault,
  toggleState,
  wrongCall,
} from "./cell";
import { keyOf, lettersOf } from "./letters";
import type { Asked } from "./Panel";
import type { CellMark } from "./useMarking";

interface Of {
  cell?: CellMark;
  player: string;
  rep: number;
  put: (body: Omit<CellMark, "id">) => void;
  ask: (what: Asked | undefined) => void;
  /** Who is asked about an open question unless another is named. */
  whom?: string;
  judged: Schemas["Judged"];
}

/** What may be said of a player on a rep or a play, by key and by button alike. */
export function actsOf({ cell, player, rep, put, ask, whom, judged }: Of) {
  return {
    onAsk: ask,
    onFault: (key: string) => put(toggleFault(cell, player, rep, key)),
    onFacet: (facet: "assignment" | "technique" | "finish") => put(toggleFacet(cell, player, rep, facet)),
    onGrade: (by: 1 | -1) => put(stepGrade(cell, player, rep, judged, by)),
    onFlag: () => put(drewFlag(cell, player, rep)),
    onPraise: () => put({ ...looked(cell, player, rep), praise: !cell?.praise }),
    onClean: () => put(looked(undefined, player, rep)),
    onState: (state: "unseen" | "unsettled") =>
      put(
        state === "unsettled" && cell?.state !== state
          ? askedOf(cell, player, rep, whom)
          : toggleState(cell, player, rep, state),
      ),
    onAsked: (coach: string | undefined) => put(askedOf(cell, player, rep, coach)),
    onResult: () => put(nextResult(cell, player, rep)),
    onEffort: () => put(nextTally(cell, player, rep, efforts)),
    onExchange: () => put(nextTally(cell, player, rep, exchanges)),
    onWrongCall: () => put(wrongCall(cell, player, rep)),
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
  { kind, of }: Schemas["Judged"],
): Key[] {
  const letters = lettersOf(faults);
  return [
    ...faults
      .filter((f) => letters.get(f.key))
      .map((f) => ({
        keys: keyOf(letters.get(f.key)!),
        does: f.name,
        given: true,
        run: () => acts.onFault(f.key),
      })),
    ...(kind === "facets"
      ? [
          {
            keys: "t",
            does: "Technique wrong, no name for it",
            run: () => acts.onFacet("technique"),
          },
          { keys: "a", does: "Wrong assignment", run: () => acts.onFacet("assignment") },
          { keys: "f", does: "No finish", run: () => acts.onFacet("finish") },
        ]
      : kind === "plus_minus"
        ? [{ keys: "t", does: "Minus, or plus again", run: () => acts.onGrade(cell?.grade === 0 ? 1 : -1) }]
        : [
            { keys: "t", does: "A point less", run: () => acts.onGrade(-1) },
            { keys: "Shift+t", does: `A point more, of ${of}`, run: () => acts.onGrade(1) },
          ]),
    { keys: "p", does: "Praise", run: acts.onPraise },
    { keys: "u", does: "Unseen", run: () => acts.onState("unseen") },
    { keys: "q", does: "Open question", run: () => acts.onState("unsettled") },
    { keys: "Shift+w", does: "The duel is lost; won; not said", run: acts.onResult },
    { keys: "Shift+e", does: "Effort away from the ball; none; not said", run: acts.onEffort },
    { keys: "Shift+x", does: "Exchange call echoed; not echoed; not made; not said", run: acts.onExchange },
    { keys: "Shift+o", does: "Our own call was wrong: it charges nobody", run: acts.onWrongCall },
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
