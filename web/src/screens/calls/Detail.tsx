import clsx from "clsx";
import { Link } from "react-router";
import type { Schemas } from "@/api/client";
import { useWhere } from "@/app/where";
import { Button, ButtonLink } from "@/kit/Button";
import { availability, count, percent, weekdayDate } from "@/parts/words";
import { says } from "./calls";

interface Props {
  detail: Schemas["CallDetail"];
  call: Schemas["CallInput"];
  asOf: string;
  groups: Schemas["GroupRef"][];
  /** Moves the install; absent for who may not. */
  onInstall?: (date: string) => void;
}

/** Whether a call will be ready, and what would mend it. */
export function Verdict({ detail, call, asOf, groups, onInstall }: Props) {
  const { base } = useWhere();
  const v = says(detail.verdict, call.install, asOf);
  const ahead = !!call.install && call.install > asOf;
  return (
    <section aria-label="Will it be ready?" className="grid gap-2">
      <h3 className={clsx("head", v.tone)}>
        <span aria-hidden>{v.shape}</span> {v.says}
        {ahead &&
          detail.needs.length > 0 &&
          detail.verdict !== "ready" &&
          ` by ${weekdayDate(call.install!)}`}
      </h3>
      {detail.verdict === "no_line_up" && (
        <p className="say text-small">
          Nobody is named to play where it is needed.{" "}
          <Link className="textual" to={`${base}/season/line-up`}>
            Make the line-up
          </Link>
        </p>
      )}
      {ahead && (
        <p className="say text-small text-soft">
          {count(detail.practices, "practice")} before it. A call is as ready as its least ready spot:{" "}
          {percent(detail.by)}.
        </p>
      )}
      {detail.mends.length > 0 && (
        <ul className="grid gap-1.5" aria-label="What would mend it">
          {detail.mends.map((m, i) => (
            <li key={i} className="border-l-[3px] border-flag pl-2 text-small">
              <Mend mend={m} groups={groups} onInstall={onInstall} />
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** Player by player, who has what a call needs. */
export function Runners({ detail, groups }: Pick<Props, "detail" | "groups">) {
  const { base } = useWhere();
  return (
    <section aria-label="Player by player" className="grid gap-2 border-t border-hair pt-2">
      {detail.needs.map((n, i) => (
        <div key={i} className="grid gap-1">
          <p className="text-small">
            <b>
              {groups.find((g) => g.key === n.group)?.short} {n.name}
            </b>{" "}
            <span className="text-soft">to “{n.stage}”</span>
          </p>
          <table className="w-full text-small" aria-label={`${n.name}, player by player`}>
            <tbody>
              {n.spots.flatMap((s) =>
                s.players.map((p, j) => (
                  <tr key={s.name + p.player_id} className="border-b border-hair align-top">
                    {j === 0 && (
                      <th
                        scope="rowgroup"
                        rowSpan={s.players.length}
                        className="name w-16 py-0.5 pr-1 text-left font-normal"
                      >
                        {s.name}
                      </th>
                    )}
                    <td className="py-0.5">
                      <Link className="textual" to={`${base}/players/${p.player_id}`}>
                        {p.jersey} {p.name}
                      </Link>{" "}
                      <span className="text-soft">{p.share} %</span>
                      <span className="block text-soft">{runner(p)}</span>
                    </td>
                    <td
                      className={clsx(
                        "py-0.5 text-right whitespace-nowrap",
                        p.passed ? "text-good" : p.by < 0.5 && "text-fault",
                      )}
                    >
                      {p.passed ? "✓ passed" : percent(p.by)}
                    </td>
                  </tr>
                )),
              )}
            </tbody>
          </table>
          {n.spots.length === 0 && <p className="say text-small text-soft">Nobody is named to play there.</p>}
        </div>
      ))}
    </section>
  );
}

/** Where a player is, what he still needs, and at what pace. */
function runner(p: Schemas["RunnerReadiness"]) {
  const out = p.status === "available" ? "" : `${availability[p.status]}. `;
  if (p.passed) return out;
  const reps = p.reps >= 400 ? "more reps than can be told" : `${count(p.reps, "rep")} to go`;
  const pace =
    p.per_practice > 0 ? `${p.per_practice} a practice, ${percent(p.clean_rate)} clean` : "none of late";
  return `${out}at “${p.at}”: ${reps}, ${pace}`;
}

function Mend({
  mend: m,
  groups,
  onInstall,
}: {
  mend: Schemas["CallMend"];
  groups: Schemas["GroupRef"][];
  onInstall?: (date: string) => void;
}) {
  const { week } = useWhere();
  if (m.kind === "later" && m.day)
    return (
      <span className="flex flex-wrap items-center gap-2">
        Installed on {weekdayDate(m.day)} it will be ready.
        {onInstall && <Button onClick={() => onInstall(m.day!)}>Install it then</Button>}
      </span>
    );
  return (
    <span className="flex flex-wrap items-center gap-2">
      <span>
        <b>{count(m.minutes ?? 0, "minute")}</b> of {m.drill} a practice, {count(m.reps ?? 0, "rep")} a player
        instead of {m.now}
        {m.day ? `: not by the install, but likely by ${weekdayDate(m.day)}.` : ": likely by the install."}
      </span>
      <ButtonLink to={`/g/${m.group}/w/${week}/practice`}>
        {groups.find((g) => g.key === m.group)?.short}&apos;s practices
      </ButtonLink>
    </span>
  );
}
