import { useQuery } from "@tanstack/react-query";
import { format, parseISO } from "date-fns";
import { queries } from "@/api/queries";

/** What was written on a play before, and who corrected it. */
export function PlayHistory({ game, play }: { game: string; play: string }) {
  const list = useQuery(queries.playHistory(game, play)).data?.filter((v) => v.changes.length > 0) ?? [];
  if (list.length === 0) return null;
  return (
    <details>
      <summary className="label cursor-pointer py-1">What was corrected ({list.length})</summary>
      <ul className="grid gap-1" aria-label="What was corrected">
        {list.map((v) => (
          <li key={v.version} className="say text-small">
            <span className="text-soft">
              {format(parseISO(v.at), "d MMM HH:mm")}
              {v.by && `, ${v.by}`}:
            </span>{" "}
            {v.changes
              .map(
                (c) =>
                  `${c.label} ${c.was ? `“${c.was}”` : "not said"} is ${c.is ? `“${c.is}”` : "not said"}`,
              )
              .join("; ")}
          </li>
        ))}
      </ul>
    </details>
  );
}
