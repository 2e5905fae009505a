import { useEffect, useRef } from "react";
import type { Schemas } from "@/api/client";
import { Button } from "@/kit/Button";

interface Props {
  coaches: Schemas["CoachRef"][];
  asked?: string;
  /** Whom; empty for nobody in particular, undefined for nothing changed. */
  onDone: (coach: string | undefined) => void;
}

/** Who can answer an open question: he finds it on his Today. */
export function AskCoach({ coaches, asked, onDone }: Props) {
  const first = useRef<HTMLButtonElement>(null);
  useEffect(() => first.current?.focus(), []); // the coach asked for it; it must be ready for his next key
  return (
    <div
      role="group"
      aria-label="Who can answer it"
      className="mt-3 flex flex-wrap items-center gap-1.5 border-t border-hair pt-2"
    >
      <span className="label">Who can answer it</span>
      {coaches.map((c, i) => (
        <Button
          key={c.id}
          ref={i === 0 ? first : undefined}
          kind="quiet"
          pressed={c.id === asked}
          onClick={() => onDone(c.id)}
        >
          {c.name} <span className="text-soft">{c.title}</span>
        </Button>
      ))}
      <Button kind="quiet" pressed={!asked} onClick={() => onDone("")}>
        Nobody in particular
      </Button>
      <Button kind="text" onClick={() => onDone(undefined)}>
        Leave it
      </Button>
    </div>
  );
}
