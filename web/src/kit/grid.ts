import { useCallback, useRef, type KeyboardEvent } from "react";

const steps: Record<string, [number, number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

/** What of a cell takes the keyboard: what can be pressed in it. */
const pressable = (cell: Element | undefined) =>
  cell?.querySelector<HTMLElement>("a[href],button:not(:disabled)");

/**
 * A matrix that is walked by the arrow keys: Home and End go to the ends of a row, with Ctrl to those of the
 * whole. One cell at a time stands in the order of Tab. `ref` and `onKeyDown` go on the table; its first thing to
 * press has a tabIndex of 0, all others of -1.
 */
export function useGrid<E extends HTMLElement>() {
  const grid = useRef<E>(null);
  const cells = () =>
    [...(grid.current?.querySelectorAll("tbody tr") ?? [])].map((r) => [...r.querySelectorAll("td,th")]);
  const onKeyDown = useCallback((e: KeyboardEvent) => {
    const at = document.activeElement;
    const rows = cells();
    const row = rows.findIndex((r) => r.some((c) => c.contains(at)));
    const column = rows[row]?.findIndex((c) => c.contains(at)) ?? -1;
    if (row < 0 || column < 0 || e.altKey || e.metaKey) return;
    const go = (r: number, c: number, by: [number, number]) => {
      // Cells with nothing to press are passed over.
      for (let [i, j] = [r, c]; rows[i]?.[j]; i += by[0], j += by[1]) {
        const to = pressable(rows[i]?.[j]);
        if (!to) continue;
        for (const x of rows.flat())
          for (const p of x.querySelectorAll("a[href],button")) p.setAttribute("tabindex", "-1");
        to.setAttribute("tabindex", "0");
        to.focus();
        to.scrollIntoView({ block: "nearest", inline: "nearest" });
        break;
      }
      e.preventDefault();
    };
    const step = steps[e.key];
    if (step && !e.ctrlKey) go(row + step[0], column + step[1], step);
    else if (e.key === "Home") go(e.ctrlKey ? 0 : row, 0, [0, 1]);
    else if (e.key === "End") {
      const last = e.ctrlKey ? rows.length - 1 : row;
      go(last, (rows[last]?.length ?? 1) - 1, [0, -1]);
    }
  }, []);
  return { ref: grid, onKeyDown };
}
