import { useLayoutEffect, useRef } from "react";

/** Whether somebody can go on with the keyboard at an element. */
function takesFocus(e: Element | null | undefined): e is HTMLElement {
  return (
    e instanceof HTMLElement &&
    e.isConnected &&
    !e.matches(":disabled") &&
    e !== document.body &&
    !!e.offsetParent
  );
}

/** The heading of the screen, where a screen begins. */
const heading = () => document.querySelector<HTMLElement>("main h1");

/** Gives the keyboard back to where it was; to the heading of the screen when that is gone. */
export function backTo(e: Element | null) {
  // Whoever was quicker and is elsewhere already stays there.
  if (takesFocus(document.activeElement)) return;
  const to = takesFocus(e) ? e : heading();
  to?.focus();
}

/** For what opens over the screen: remembers where the keyboard was, and gives it back there. */
export function useReturnFocus() {
  const from = useRef<Element | null>(null);
  return {
    onOpenAutoFocus: () => {
      from.current = document.activeElement;
    },
    onCloseAutoFocus: (e: Event) => {
      e.preventDefault();
      backTo(from.current);
    },
  };
}

/**
 * Keeps the keyboard when what had it goes away: a line that is taken out, a form that is saved. `ref` goes on
 * the part around it; the keyboard stays in it, at what stands in the place of what went, else at its heading.
 */
export function useKeepFocus<E extends HTMLElement>() {
  const ref = useRef<E>(null);
  const at = useRef(-1);
  useLayoutEffect(() => {
    const root = ref.current;
    if (!root) return;
    const list = () => [...root.querySelectorAll<HTMLElement>(focusable)].filter(takesFocus);
    if (at.current >= 0 && document.activeElement === document.body) {
      const now = list();
      (now[Math.min(at.current, now.length - 1)] ?? heading())?.focus();
    }
    const remember = () => {
      at.current = document.activeElement ? list().indexOf(document.activeElement as HTMLElement) : -1;
    };
    remember();
    root.addEventListener("focusin", remember);
    const forget = (e: FocusEvent) => e.relatedTarget && (at.current = -1);
    root.addEventListener("focusout", forget);
    return () => {
      root.removeEventListener("focusin", remember);
      root.removeEventListener("focusout", forget);
    };
  });
  return ref;
}

const focusable =
  "a[href],button:not(:disabled),input:not(:disabled),select:not(:disabled),textarea:not(:disabled),[tabindex]:not([tabindex='-1'])";
