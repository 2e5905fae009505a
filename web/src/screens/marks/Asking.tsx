import type { Schemas } from "@/api/client";
import { AskCoach } from "./AskCoach";
import { ByNumber } from "./ByNumber";
import { charge, looked } from "./cell";
import { Measuring } from "./Measuring";
import type { Asked } from "./Panel";
import type { CellMark } from "./useMarking";

interface Props {
  asking?: Asked;
  sheet: Schemas["MarkSheet"];
  player: Schemas["Player"];
  rep: number;
  cell?: CellMark;
  put: (body: Omit<CellMark, "id">) => void;
  onAsk: (what: undefined) => void;
  onChoose: (row: number) => void;
  /** Who can be asked about an open question, and what asking one does. */
  coaches?: Schemas["CoachRef"][];
  onAsked?: (coach: string | undefined) => void;
  /** The call of the play. */
  call?: string;
  /** Its yards to go. */
  toGo?: number;
}

/** What the coach asked to write: who caused a fault, a number on a back, a measure. */
export function Asking(props: Props) {
  const { asking, sheet, player, rep, cell, put, onAsk, onChoose, coaches = [], onAsked, call, toGo } = props;
  const answered =
    <T,>(take: (answer: T) => void) =>
    (answer: T | undefined) => {
      onAsk(undefined);
      if (answer !== undefined) take(answer);
    };
  switch (asking) {
    case "cause": {
      const mates = sheet.players.filter((p) => p.id !== player.id);
      return (
        <ByNumber
          label="Who caused it"
          players={mates}
          onDone={answered((at) => put(charge(cell, player.id, rep, mates[at]!.id)))}
        />
      );
    }
    case "coach":
      return (
        <AskCoach
          coaches={coaches}
          asked={cell?.asked}
          onDone={(coach) => {
            onAsk(undefined);
            if (coach !== undefined) onAsked?.(coach || undefined);
          }}
        />
      );
    case "number":
      return <ByNumber players={sheet.players} onDone={answered(onChoose)} />;
    case "measure":
      return (
        <Measuring
          sheet={sheet}
          player={player}
          call={call}
          toGo={toGo}
          onDone={answered((measured) =>
            put({
              ...looked(cell, player.id, rep),
              measures: [measured.input],
              // Beyond the watch band of his standard the technique is wrong; the server says the same.
              technique: measured.beyond ? 0 : undefined,
            }),
          )}
        />
      );
  }
  return null;
}
