import { useSyncExternalStore } from "react";

type Theme = "day" | "night";

const listeners = new Set<() => void>();

function current(): Theme {
  return document.documentElement.dataset.theme === "night" ? "night" : "day";
}

export function setTheme(theme: Theme) {
  document.documentElement.dataset.theme = theme;
  try {
    localStorage.setItem("nineyard.theme", theme);
  } catch {
    // Kept for this page alone.
  }
  for (const told of listeners) told();
}

export function useTheme(): Theme {
  return useSyncExternalStore((told) => {
    listeners.add(told);
    return () => listeners.delete(told);
  }, current);
}
