import { useParams } from "react-router";

const key = "nineyard.group";

/** The position group chosen last on this device. */
export function lastPlace(): string | null {
  try {
    return localStorage.getItem(key);
  } catch {
    return null;
  }
}

export function keepPlace(group: string) {
  try {
    localStorage.setItem(key, group);
  } catch {
    // Storage is closed; the first group of the coach serves.
  }
}

/** The group and week that hold for every screen, read from the address. */
export function useWhere(): { group: string; week: number; base: string } {
  const { group = "", week = "1" } = useParams();
  const n = Number.parseInt(week, 10);
  const number = Number.isFinite(n) ? n : 1;
  return { group, week: number, base: `/g/${group}/w/${number}` };
}
