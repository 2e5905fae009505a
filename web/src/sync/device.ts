import { v4 as uuid } from "uuid";

const key = "nineyard.device";
let id: string | undefined;

/** This browser, by an id of its own: the server keeps on which device a change was made. */
export function device(): string {
  if (id) return id;
  try {
    id = localStorage.getItem(key) ?? undefined;
    if (!id) localStorage.setItem(key, (id = uuid()));
  } catch {
    id = uuid(); // storage is closed: this page is a device
  }
  return id;
}
