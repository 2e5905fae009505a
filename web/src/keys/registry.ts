import { isActivation, isCharacter, isPressed, presses } from "./match";
import { changed } from "./settings";

/** One key of a screen: what is pressed, what it does in words, and what it runs. */
export interface Key {
  keys: string;
  does: string;
  run: (event: KeyboardEvent) => void;
  /** Works while something is typed too: a chord such as Ctrl+s. */
  inFields?: boolean;
  /** Its character follows from what is shown, as a fault's letter does: it is not changed in the settings. */
  given?: boolean;
}

/** A layer of keys: the screen, or a window, menu or list over it. The topmost has the keyboard. */
export type Layer = symbol;
export const screenLayer: Layer = Symbol("screen");

const bound = new Map<symbol, { layer: Layer; keys: Key[] }>();
const layers: Layer[] = [screenLayer];
const listeners = new Set<() => void>();
let shown: readonly Key[] = [];

function told() {
  shown = [...bound.values()].filter((b) => b.layer === screenLayer).flatMap((b) => b.keys);
  for (const l of listeners) l();
}

/** Binds keys on a layer; what is bound later comes first. Returns how to unbind them. */
export function bind(layer: Layer, keys: Key[]): () => void {
  const id = Symbol();
  bound.set(id, { layer, keys });
  told();
  return () => {
    bound.delete(id);
    told();
  };
}

/** Lays a layer over the others; returns how to take it away. */
export function lay(layer: Layer): () => void {
  layers.push(layer);
  return () => {
    const i = layers.lastIndexOf(layer);
    if (i > 0) layers.splice(i, 1);
  };
}

export const listen = (l: () => void) => {
  listeners.add(l);
  return () => listeners.delete(l);
};

/** The keys of the screen as they are bound now, for the list behind `?`. */
export const shownKeys = (): readonly Key[] => shown;

const fields =
  "input:not([type=checkbox],[type=radio],[type=button],[type=submit],[type=file]),textarea,select";
const controls =
  "a[href],button,summary,input,select,textarea,[role=button],[role=link],[role=tab],[role=option],[role=menuitem],[role=radio],[role=checkbox],[role=combobox],[role=switch]";

const isTyping = (e: Element | null) =>
  e instanceof HTMLElement && (e.isContentEditable || e.matches(fields));

/** Whether Enter and Space are for what has the focus. */
const isControl = (e: Element | null) => !!e?.closest(controls);

/** What a key press runs now; undefined: nothing, or it belongs to what has the focus. */
export function found(event: KeyboardEvent): Key | undefined {
  if (event.defaultPrevented || event.isComposing) return undefined;
  const at = event.target instanceof Element ? event.target : null;
  const typing = isTyping(at);
  if (isActivation(event) && !event.ctrlKey && !event.metaKey && isControl(at)) return undefined;
  const top = layers.at(-1);
  const lists = [...bound.values()].filter((b) => b.layer === top).reverse();
  for (const { keys } of lists)
    for (const key of keys) {
      if (typing && !key.inFields) continue;
      if (isPressed(event, presses(keysOf(key)))) return key;
    }
  return undefined;
}

/** The keys that a coach presses for something, after what he has changed. */
export function keysOf(key: Key): string {
  return key.keys
    .split(" ")
    .map((one) => (isCharacter(one) ? changed(one, key) : one))
    .filter(Boolean)
    .join(" ");
}

function onKeyDown(event: KeyboardEvent) {
  const key = found(event);
  if (!key) return;
  event.preventDefault();
  key.run(event);
}

/** Begins to hear the keyboard. */
export function start(): () => void {
  window.addEventListener("keydown", onKeyDown);
  return () => window.removeEventListener("keydown", onKeyDown);
}
