// @vitest-environment jsdom
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { isPressed, presses } from "./match";
import { KeyLayer, useKeyboard, useKeys } from "./react";
import { setKeySettings } from "./settings";

/** A key press as a browser tells of it. */
function press(key: string, code: string, held: string[] = []): KeyboardEvent {
  const e = new KeyboardEvent("keydown", {
    key,
    code,
    shiftKey: held.includes("Shift"),
    altKey: held.includes("Alt"),
    ctrlKey: held.includes("Control"),
    metaKey: held.includes("Meta"),
  });
  Object.defineProperty(e, "getModifierState", { value: (m: string) => held.includes(m) });
  return e;
}
const is = (keys: string, key: string, code: string, held?: string[]) =>
  isPressed(press(key, code, held), presses(keys));

describe("keys on the keyboards of Europe and the Mac", () => {
  it.each([
    ["American", "]", "BracketRight", []],
    ["German, AltGr and 9", "]", "Digit9", ["AltGraph"]],
    ["German on Windows, where AltGr is Control and Alt", "]", "Digit9", ["Control", "Alt", "AltGraph"]],
    ["French, AltGr and )", "]", "Minus", ["AltGraph"]],
    ["Swedish, AltGr and 9", "]", "Digit9", ["AltGraph"]],
    ["German on a Mac, Option and 6", "]", "Digit6", ["Alt"]],
  ])("types a sign: %s", (_, key, code, held) => {
    expect(is("]", key, code, held)).toBe(true);
  });
  it.each([
    ["American", "?", "Slash", ["Shift"]],
    ["German", "?", "Minus", ["Shift"]],
    ["French", "?", "KeyM", ["Shift"]],
    ["Norwegian", "?", "Minus", ["Shift"]],
  ])("types a question mark: %s", (_, key, code, held) => {
    expect(is("?", key, code, held)).toBe(true);
  });
  it("takes digits by their place", () => {
    expect(is("1", "1", "Digit1")).toBe(true);
    expect(is("1", "&", "Digit1")).toBe(true); // French, unshifted
    expect(is("1", "1", "Numpad1")).toBe(true);
    expect(is("Alt+1", "¡", "Digit1", ["Alt"])).toBe(true); // a Mac types a sign with Option
    expect(is("Alt+1", "1", "Digit1", ["Alt"])).toBe(true);
    expect(is("1", "1", "Digit1", ["Alt"])).toBe(false);
  });
  it("takes letters by their character, with Caps Lock too", () => {
    expect(is("z", "z", "KeyY")).toBe(true); // German
    expect(is("z", "y", "KeyZ")).toBe(false);
    expect(is("a", "a", "KeyQ")).toBe(true); // French
    expect(is("h", "H", "KeyH", ["CapsLock"])).toBe(true);
    expect(is("z", "Z", "KeyZ", ["Shift"])).toBe(false);
    expect(is("Shift+z", "Z", "KeyZ", ["Shift"])).toBe(true);
    expect(is("z", "ζ", "KeyZ")).toBe(true); // Greek: by its place
  });
  it("takes Command for Control and nothing else", () => {
    expect(is("Ctrl+s", "s", "KeyS", ["Control"])).toBe(true);
    expect(is("Ctrl+s", "s", "KeyS", ["Meta"])).toBe(true);
    expect(is("Ctrl+s", "s", "KeyS", ["Alt"])).toBe(false);
    expect(is("Ctrl+Shift+z", "Z", "KeyZ", ["Control", "Shift"])).toBe(true);
    expect(is("-", "-", "Minus", ["Control"])).toBe(false); // the browser's zoom
    expect(is("Space", " ", "Space")).toBe(true);
    expect(is("+ =", "+", "BracketRight")).toBe(true);
    expect(is("ArrowLeft", "ArrowLeft", "ArrowLeft", ["Shift"])).toBe(false);
  });
});

const done: string[] = [];

function Screen({ window }: { window?: boolean }) {
  useKeyboard();
  const does = (what: string) => () => void done.push(what);
  useKeys([
    { keys: "Space", does: "moves on", run: does("moved on") },
    { keys: "Enter", does: "is done", run: does("done") },
    { keys: "h", does: "heel swings in", given: true, run: does("heel") },
    { keys: "d", does: "adds", run: does("added") },
    { keys: "ArrowRight", does: "moves later", run: does("later") },
    { keys: "Ctrl+s", does: "saves", inFields: true, run: does("saved") },
  ]);
  return (
    <>
      <a href="#elsewhere" onClick={does("link")}>
        Players
      </a>
      <button type="button" onClick={does("pressed")}>
        Fault
      </button>
      <input aria-label="Note" />
      <div role="grid">
        <div role="gridcell" tabIndex={0}>
          cell
        </div>
      </div>
      {window && (
        <KeyLayer>
          <Inside />
        </KeyLayer>
      )}
    </>
  );
}

function Inside() {
  useKeys([{ keys: "d", does: "in the window", run: () => void done.push("window") }]);
  return <button type="button">Close</button>;
}

describe("whose a key is", () => {
  beforeEach(() => {
    done.length = 0;
    localStorage.clear();
    setKeySettings({ off: false, instead: {} });
  });
  afterEach(cleanup);

  it("gives Enter and Space to the control that has the focus", async () => {
    render(<Screen />);
    const user = userEvent.setup();
    await user.tab();
    expect(screen.getByText("Players")).toBe(document.activeElement);
    await user.keyboard("{Enter}");
    expect(done).toEqual(["link"]);
    await user.tab();
    await user.keyboard(" {Enter}");
    expect(done).toEqual(["link", "pressed", "pressed"]);
  });
  it("gives them to the screen where nothing else has them", async () => {
    render(<Screen />);
    const user = userEvent.setup();
    await user.keyboard(" ");
    await user.click(screen.getByRole("gridcell"));
    await user.keyboard("{Enter}h");
    expect(done).toEqual(["moved on", "done", "heel"]);
  });
  it("leaves what is typed to the field, but for chords", async () => {
    render(<Screen />);
    const user = userEvent.setup();
    await user.click(screen.getByLabelText("Note"));
    await user.keyboard("hd {Control>}s{/Control}");
    expect(done).toEqual(["saved"]);
    expect(screen.getByLabelText<HTMLInputElement>("Note").value).toBe("hd ");
  });
  it("lets no key through a window", async () => {
    render(<Screen window />);
    const user = userEvent.setup();
    await user.keyboard("hd{ArrowRight} ");
    expect(done).toEqual(["window"]);
    cleanup();
    done.length = 0;
    render(<Screen />);
    await user.keyboard("d");
    expect(done).toEqual(["added"]); // and it has its keys again when the window is gone
  });
  it("does nothing by one character when they are turned off", async () => {
    setKeySettings({ off: true, instead: {} });
    render(<Screen />);
    const user = userEvent.setup();
    await user.keyboard("hd{ArrowRight}");
    expect(done).toEqual(["later"]);
  });
  it("takes another character where the coach has chosen one, but for letters that are given", async () => {
    setKeySettings({ off: false, instead: { adds: "k", "heel swings in": "y" } });
    render(<Screen />);
    const user = userEvent.setup();
    await user.keyboard("dkyh");
    expect(done).toEqual(["added", "heel"]);
  });
});
