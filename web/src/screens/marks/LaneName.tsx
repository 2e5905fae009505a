import clsx from "clsx";
import type { Schemas } from "@/api/client";
import { Button } from "@/kit/Button";

interface Props {
  player: Schemas["Player"];
  row: number;
  current: boolean;
  /** He is not on the field. */
  away?: boolean;
  className: string;
  onChoose: () => void;
}

/** Whose lane of a score it is, with the digit that leads there. */
export function LaneName({ player, row, current, away, className, onChoose }: Props) {
  return (
    <div
      role="rowheader"
      className={clsx(
        "sticky left-0 z-10 flex items-stretch border-b border-hair bg-sheet pointer-coarse:h-[46px]",
        className,
      )}
    >
      <Button
        kind="bare"
        tabIndex={-1}
        className={clsx("name flex w-full items-center gap-2 truncate text-left", away && "text-soft")}
        onClick={onChoose}
        pressed={current}
      >
        <span className="kbd shrink-0 max-sm:hidden" aria-hidden>
          {row < 9 ? row + 1 : row === 9 ? 0 : "·"}
        </span>
        <span className={clsx("truncate", current && "font-bold text-flag")}>
          {player.jersey} {player.last_name}
          {away && <span className="sr-only">, not on the field</span>}
        </span>
      </Button>
    </div>
  );
}
