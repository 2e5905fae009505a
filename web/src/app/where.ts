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

/** A week as an address writes it; 0, which no season has, for anything else. */
export const weekOf = (text: string): number => (/^[1-9]\d{0,2}$/.test(text) ? Number(text) : 0);

/** The group and week that hold for every screen, read from the address. */
export function useWhere(): { group: string; week: number; base: string } {
  const { group = "", week = "" } = useParams();
  return { group, week: weekOf(week), base: `/g/${group}/w/${week}` };
}
