import { useEffect, useState } from "react";
import type { Schemas } from "@/api/client";
import { Button } from "@/kit/Button";
import { count } from "@/parts/words";

const rest = 120; // ms without a change after which mends are looked for

interface Props {
  look: Schemas["ScriptLook"];
  /** What mends a finding; absent where it cannot be asked, or nothing may be changed. */
  mends?: (f: Schemas["Finding"]) => Schemas["Mend"][];
  onMend: (m: Schemas["Mend"]) => void;
  onShow: (f: Schemas["Finding"]) => void;
}

/** What is wrong with the script, each with what mends it. */
export function Checks({ look, mends, onMend, onShow }: Props) {
  const offered = useMends(look.findings, mends);
  const errors = look.findings.filter((f) => f.severity === "error").length;
  const warnings = look.findings.length - errors;
  return (
    <>
      <p role="status" className="label mb-1">
        {look.findings.length === 0
          ? "Nothing is wrong"
          : [errors > 0 && count(errors, "error"), warnings > 0 && count(warnings, "warning")]
              .filter(Boolean)
              .join(", ")}
      </p>
      <ul className="grid grid-cols-[minmax(0,1fr)] gap-1.5">
        {look.findings.map((f, i) => (
          <li
            key={`${f.code}${f.periods.join()}${f.groups.join()}${f.what}${i}`}
            className={`border-l-[3px] pl-2 ${f.severity === "error" ? "border-fault" : "border-watch border-dotted"}`}
          >
            <Button kind="text" className="max-w-full text-left whitespace-normal" onClick={() => onShow(f)}>
              <span aria-hidden className={f.severity === "error" ? "text-fault" : "text-watch"}>
                {f.severity === "error" ? "▲ " : "△ "}
              </span>
              {f.message}
            </Button>
            <Mends list={offered.get(f) ?? []} onMend={onMend} />
          </li>
        ))}
      </ul>
      <p className="say mt-2 text-small text-soft">
        Limits of contact, water and warm-up are the club&apos;s own setting: check your league&apos;s rule.
        They are no advice on health.
      </p>
    </>
  );
}

/**
 * What mends each finding, worked out one after the other once the hand rests: looking at what is wrong takes no
 * time, trying what would help does.
 */
function useMends(findings: Schemas["Finding"][], mends: Props["mends"]) {
  const [offered, setOffered] = useState<ReadonlyMap<Schemas["Finding"], Schemas["Mend"][]>>(new Map());
  useEffect(() => {
    if (!mends) return;
    const found = new Map<Schemas["Finding"], Schemas["Mend"][]>();
    let timer = 0;
    const next = (i: number) => {
      const f = findings[i];
      if (!f) return;
      found.set(f, mends(f));
      setOffered(new Map(found));
      timer = window.setTimeout(() => next(i + 1), 0);
    };
    timer = window.setTimeout(() => next(0), rest);
    return () => window.clearTimeout(timer);
  }, [findings, mends]);
  return offered;
}

function Mends({ list, onMend }: { list: Schemas["Mend"][]; onMend: (m: Schemas["Mend"]) => void }) {
  if (list.length === 0) return null;
  return (
    <span className="mt-0.5 flex flex-wrap gap-1">
      {list.map((m) => (
        <Button
          key={m.say}
          className="max-w-full text-left text-small whitespace-normal"
          onClick={() => onMend(m)}
        >
          {m.say}
        </Button>
      ))}
    </span>
  );
}
