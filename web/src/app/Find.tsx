import { keepPreviousData, useQuery } from "@tanstack/react-query";
import clsx from "clsx";
import { useDeferredValue, useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { Dialog } from "@/kit/Dialog";
import { count, dayMonth } from "@/parts/words";
import { useWhere } from "./where";

type Hit = Schemas["Hit"];

/** Where an entry is shown. */
export function place(base: string, h: Hit): string {
  switch (h.kind) {
    case "drill":
      return `${base}/teaching/drills/${h.key}`;
    case "ladder":
      return h.mine ? `${base}/teaching/ladders?ladder=${h.key}` : `${base}/teaching/edit/ladder/${h.key}`;
    case "table":
      return `${base}/teaching/tables#${h.key}`;
    case "question":
      return `${base}/teaching/schools#${h.key}`;
    default:
      return h.mine
        ? `${base}/teaching?technique=${h.technique}`
        : `${base}/teaching/edit/${h.kind}/${h.key}`;
  }
}

/** The practices something is used in, the latest by their days. */
function usedIn({ practices, recent }: Schemas["Use"]): string {
  if (practices === 0) return "";
  const days = recent.slice(0, 2).map((d) => dayMonth(d.date));
  return `in ${count(practices, "practice")}${practices > days.length ? ", last" : ":"} ${days.join(" and ")}`;
}

/** Where and how much it is used, in words. */
export function used(h: Hit): string {
  return [
    usedIn(h.use),
    h.use.marks > 0 ? count(h.use.marks, "mark") : "",
    h.ladders.length > 2
      ? `on ${h.ladders.length} ladders`
      : h.ladders.length > 0
        ? `ladder ${h.ladders.join(", ")}`
        : "",
  ]
    .filter(Boolean)
    .join(" · ");
}

/** Finding anything in the teaching library, from anywhere, by one key; mistyped words are found too. */
export function Find({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  return (
    <Dialog open={open} onOpenChange={onOpenChange} title="Find" wide>
      <Search onGone={() => onOpenChange(false)} />
    </Dialog>
  );
}

function Search({ onGone }: { onGone: () => void }) {
  const { group, base } = useWhere();
  const navigate = useNavigate();
  const [words, setWords] = useState("");
  const [at, setAt] = useState(0);
  const q = useDeferredValue(words.trim());
  const found = useQuery({
    ...queries.find(q, group),
    enabled: /[\p{L}\p{N}]/u.test(q),
    placeholderData: keepPreviousData,
  });
  const hits = q ? (found.data ?? []) : [];
  const chosen = Math.min(at, hits.length - 1);
  const list = useRef<HTMLUListElement>(null);
  useEffect(() => {
    list.current?.children[chosen]?.scrollIntoView({ block: "nearest" });
  }, [chosen]);
  const open = (h: Hit | undefined) => {
    if (!h) return;
    onGone();
    void navigate(place(base, h));
  };
  return (
    <>
      <input
        className="field w-full"
        placeholder="Technique, fault, cue, drill"
        aria-label="What to find"
        role="combobox"
        aria-expanded={hits.length > 0}
        aria-controls="found"
        aria-activedescendant={hits.length > 0 ? `hit-${chosen}` : undefined}
        value={words}
        onChange={(e) => {
          setWords(e.target.value);
          setAt(0);
        }}
        onKeyDown={(e) => {
          if (e.key === "ArrowDown") setAt(Math.min(chosen + 1, hits.length - 1));
          else if (e.key === "ArrowUp") setAt(Math.max(chosen - 1, 0));
          else if (e.key === "Enter") open(hits[chosen]);
          else return;
          e.preventDefault();
        }}
      />
      {found.error && <p className="say mt-2 text-fault">{found.error.message}</p>}
      <ul
        ref={list}
        id="found"
        hidden={hits.length === 0}
        role="listbox"
        aria-label="Found"
        className="mt-2 divide-y divide-hair"
      >
        {hits.map((h, i) => (
          <li
            key={h.kind + h.key}
            id={`hit-${i}`}
            role="option"
            aria-selected={i === chosen}
            className={clsx("cursor-pointer px-2 py-1.5", i === chosen && "bg-flag-wash")}
            onClick={() => open(h)}
            onKeyDown={(e) => e.key === "Enter" && open(h)}
            onMouseMove={() => setAt(i)}
          >
            <span className="flex items-baseline gap-2">
              <span className="label w-20 shrink-0">{h.kind}</span>
              <span className="name text-head">{h.name}</span>
              {h.technique_name && h.kind !== "technique" && (
                <span className="truncate text-small text-soft">{h.technique_name}</span>
              )}
            </span>
            <span className="flex flex-wrap items-baseline gap-x-3 pl-[5.5rem] text-soft">
              <span className="say min-w-0 truncate text-small">{h.says}</span>
              <span className="label ml-auto normal-case tracking-normal">{used(h)}</span>
            </span>
          </li>
        ))}
      </ul>
      {q && found.data?.length === 0 && (
        <p className="say mt-2 text-soft">Nothing has these words, nor any that sound like them.</p>
      )}
      {!q && <p className="say mt-2 text-small text-soft">Old terms find what they are called now.</p>}
    </>
  );
}
