import { useEffect, useState, useSyncExternalStore } from "react";
import { api } from "@/api/client";
import { device } from "./device";

/** Where somebody of the staff is. */
export interface Here {
  person: string;
  name: string;
  device: string;
  where: string;
  what: string;
}

/** One is there for so long after it was said; it is said again before. In ms. */
const lasts = 45_000;
const again = 20_000;
/** A choice is told once the hand rests, and a newcomer is answered: not all at once. */
const rests = 150;

interface Seen extends Here {
  until: number;
}

let seen: readonly Seen[] = [];
const listeners = new Set<() => void>();
const newcomers = new Set<(h: Here) => void>();

function put(next: readonly Seen[]) {
  seen = next;
  for (const l of listeners) l();
}

/** Takes in where somebody is. */
export function heard(h: Here, now = Date.now()) {
  if (h.device === device()) return;
  const known = seen.some((s) => s.device === h.device && s.where === h.where);
  const others = seen.filter((s) => s.device !== h.device && s.until > now);
  put(h.where ? [...others, { ...h, until: now + lasts }] : others);
  if (h.where && !known) for (const n of newcomers) n(h);
}

/** Forgets who has not been heard of for a while. */
export function forget(now = Date.now()) {
  if (seen.some((s) => s.until <= now)) put(seen.filter((s) => s.until > now));
}

const listen = (l: () => void) => {
  listeners.add(l);
  return () => void listeners.delete(l);
};
const everybody = () => seen;

const tell = (where: string, what: string) =>
  void api.POST("/presence", { body: { device: device(), where, what } }).catch(() => undefined);

/**
 * Tells the others that one is here, with what one has before oneself, and says who else is. It is a help, not a
 * record: while the line is down nothing is told, and who is not heard of any longer is gone.
 */
export function usePresence(where: string, what = ""): readonly Here[] {
  const all = useSyncExternalStore(listen, everybody);
  const [said, setSaid] = useState(what);
  useEffect(() => {
    const timer = setTimeout(() => setSaid(what), rests);
    return () => clearTimeout(timer);
  }, [what]);
  useEffect(() => {
    const say = () => document.visibilityState === "visible" && tell(where, said);
    say();
    const timer = setInterval(() => {
      forget();
      say();
    }, again);
    let answer = 0;
    const newcomer = (h: Here) => {
      if (h.where !== where) return;
      window.clearTimeout(answer);
      answer = window.setTimeout(say, rests);
    };
    newcomers.add(newcomer);
    document.addEventListener("visibilitychange", say);
    return () => {
      clearInterval(timer);
      window.clearTimeout(answer);
      newcomers.delete(newcomer);
      document.removeEventListener("visibilitychange", say);
    };
  }, [where, said]);
  useEffect(() => () => tell("", ""), [where]);
  return all.filter((h) => h.where === where);
}
