import { Button } from "@/kit/Button";
import { useId, useState } from "react";
import { Link, useLocation } from "react-router";
import type { Schemas } from "@/api/client";
import { useAct } from "@/sync/react";
import { useBaseOn } from "@/app/useBaseOn";
import { useWhere } from "@/app/where";
import { usePutBack } from "./putBack";
import { count, percent, weekdayDate } from "./words";

interface Props {
  needs: Schemas["Need"][];
  /** Whether the coach may change the group's practice. */
  editable: boolean;
  /** Where the plan itself is seen: takes a step of it over. */
  onPut?: (done: PutIn) => void;
  /** Where the plan itself is seen: takes it back there; false when it is not its period. */
  onBack?: (done: PutIn) => boolean;
}

type PutIn = Schemas["PutIn"];

/** What hurts most: faults to expect in the next game, each with the drill that trains it away. */
export function Needs({ needs, ...rest }: Props) {
  const most = Math.max(...needs.map((n) => n.need), 1e-9);
  return (
    <ol className="divide-y divide-hair">
      {needs.map((n) => (
        <NeedLine key={n.fault} need={n} most={most} {...rest} />
      ))}
    </ol>
  );
}

interface LineProps extends Omit<Props, "needs"> {
  need: Schemas["Need"];
  most: number;
}

function NeedLine({ need, most, editable, onPut, onBack }: LineProps) {
  const { group } = useWhere();
  const baseOn = useBaseOn();
  const [why, setWhy] = useState(false);
  const treated = useId();
  const { pathname } = useLocation();
  const fix = useAct<Schemas["Fix"]>();
  const done = fix.answer;
  const putBack = usePutBack();
  const put = async () => {
    const about = { says: `${need.drill} against ${need.name.toLowerCase()}`, href: pathname };
    const now = await fix.run({ act: "fix", group, fault: need.fault }, about);
    if (now?.put_in) onPut?.(now.put_in);
  };
  const back = async (was: PutIn) => {
    if (onBack?.(was) || (await putBack(was, `${need.drill} taken out again`))) fix.reset();
  };
  return (
    <li className="py-2" aria-label={need.name}>
      <div className="flex items-baseline gap-2">
        <span className="name text-head">{need.name}</span>
        {need.safety && (
          <span className="border border-fault px-1 text-label font-bold text-fault">SAFETY</span>
        )}
        <span className="ml-auto text-head font-bold">{need.need.toFixed(1)}</span>
        <svg width="92" height="9" aria-hidden className="shrink-0 self-center max-xl:w-14">
          <rect width="92" height="9" fill="var(--hair)" />
          <rect
            width={(92 * need.need) / most}
            height="9"
            fill={need.planned ? `url(#${treated})` : "var(--fault)"}
            stroke={need.planned ? "var(--good)" : "none"}
          />
          <defs>
            <pattern
              id={treated}
              width="6"
              height="6"
              patternUnits="userSpaceOnUse"
              patternTransform="rotate(35)"
            >
              <rect width="3" height="6" fill="var(--good)" />
            </pattern>
          </defs>
        </svg>
      </div>
      <p className="say text-small text-soft">
        {need.technique_name}: {need.faulty} of {need.n} reps, {percent(need.rate)}
        {need.planned && <span className="text-good"> · in the next plan</span>}
        {" · "}
        <Button kind="text" aria-expanded={why} onClick={() => setWhy(!why)}>
          why
        </Button>
      </p>
      {why && <Why need={need} />}
      {editable && need.drill && !done && !need.planned && (
        <Button kind="quiet" className="mt-1" off={fix.busy} onClick={() => void put()}>
          Put in: {need.drill}
        </Button>
      )}
      {fix.error && (
        <p role="alert" className="say mt-1 text-small text-fault">
          {fix.error}
        </p>
      )}
      {done && (
        <p role="status" className="say mt-1 text-small text-good">
          {done.drill}, {count(done.minutes, "minute")}, is in{" "}
          <Link className="underline" to={`${baseOn(done.practice.date)}/practice/${done.practice.id}`}>
            {weekdayDate(done.practice.date)}
          </Link>
          . {done.shortened.map((s) => `${s.drill} went from ${s.from} to ${s.to} minutes.`).join(" ")}{" "}
          {done.put_in && (
            <Button kind="text" onClick={() => void back(done.put_in!)}>
              Undo<span className="sr-only">: {done.drill}</span>
            </Button>
          )}
        </p>
      )}
    </li>
  );
}

/** The terms a need was computed from. */
function Why({ need }: { need: Schemas["Need"] }) {
  const { base } = useWhere();
  return (
    <div className="my-1 border-l-2 border-rule pl-2">
      <p className="say text-small">{need.effect}</p>
      <p className="say text-small text-soft">
        Expected next game = rate × how often the technique is needed × who plays × severity {need.severity}.
      </p>
      <table className="mt-1 text-small">
        <tbody>
          {need.players.slice(0, 6).map((p) => (
            <tr key={p.id}>
              <td className="name pr-3">
                <Link className="underline" to={`${base}/players/${p.id}?fault=${need.fault}`}>
                  {p.jersey} {p.name}
                </Link>
              </td>
              <td className="pr-3">
                {p.faulty} of {p.n}
              </td>
              <td>{p.part.toFixed(1)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
