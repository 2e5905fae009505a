import { matchKeybindingPress, type KeybindingPress } from "tinykeys";

/**
 * Keys as they are named in the code and shown to the coach: `z`, `?`, `1`, `Space`, `ArrowLeft`, `Ctrl+z`,
 * `Alt+2`, `Shift+ArrowLeft`; several are parted by a space.
 *
 * Letters and signs go by the character, wherever a layout has it and whatever it takes to type it: AltGr or
 * Option for `]`, Shift for `/`, with Caps Lock on or off. Digits go by the position, because a French keyboard
 * types them with Shift and a Mac types signs with Option. Ctrl stands for Command as well.
 */
export function presses(keys: string): KeybindingPress[] {
  return keys.split(" ").filter(Boolean).flatMap(pressesOf);
}

const letter = /^[a-z]$/i;
const digit = /^[0-9]$/;

function pressesOf(one: string): KeybindingPress[] {
  const plus = one.lastIndexOf("+", one.length - 2);
  const named = plus > 0 ? one.slice(0, plus).split("+") : [];
  const key = one.slice(plus > 0 ? plus + 1 : 0);
  if (named.length === 0 && !letter.test(key) && !digit.test(key) && key.length === 1)
    return [
      [[], ["Shift", "Alt"], key],
      [["AltGraph"], ["Shift", "Alt", "Control"], key],
    ];
  if (digit.test(key)) {
    const at: KeybindingPress[] = [[named, [], `Digit${key}`]];
    return named.length > 0 ? at : [...at, [[], ["Shift"], key]];
  }
  if (!named.includes("Ctrl")) return [[named, [], key]];
  const rest = named.filter((m) => m !== "Ctrl");
  return [
    [["Control", ...rest], [], key],
    [["Meta", ...rest], [], key],
  ];
}

/** Whether a key press is one of these. */
export function isPressed(event: KeyboardEvent, list: KeybindingPress[]): boolean {
  if (list.some((p) => matchKeybindingPress(event, p))) return true;
  // A layout of another script: its letters go by their position.
  if (event.key.length !== 1 || event.key.charCodeAt(0) < 0x250) return false;
  return list.some(
    ([required, optional, key]) =>
      typeof key === "string" &&
      letter.test(key) &&
      matchKeybindingPress(event, [required, optional, `Key${key.toUpperCase()}`]),
  );
}

/** Whether these are typed by one printable character: what a coach may turn off or change. */
export const isCharacter = (one: string): boolean => [...one].length === 1;

/** Enter and Space belong to the control that has the focus. */
export const isActivation = (event: KeyboardEvent): boolean => event.key === "Enter" || event.key === " ";
