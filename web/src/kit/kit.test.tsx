// @vitest-environment jsdom
import { cleanup, render, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { MemoryRouter, Route, Routes, useNavigate } from "react-router";
import { afterEach, beforeAll, describe, expect, it, vi } from "vitest";
import { useKeyboard, useKeys } from "@/keys/react";
import { Both } from "@/parts/Both";
import { Combobox } from "./Combobox";
import { quietDom } from "./dom.test-util";
import { useKeepFocus } from "./focus";
import { useGrid } from "./grid";
import { Menu, MenuItem } from "./Menu";
import { Portals } from "./portal";
import { Select } from "./Select";
import { Title } from "./Title";
import { Dialog } from "./Dialog";

beforeAll(() => quietDom(vi));
afterEach(cleanup);

const done: string[] = [];

function Screen() {
  const [open, setOpen] = useState(false);
  useKeyboard();
  useKeys([{ keys: "d", does: "adds", run: () => void done.push("d") }]);
  return (
    <main>
      <h1 tabIndex={-1}>Screen</h1>
      <button type="button" onClick={() => setOpen(true)}>
        Open
      </button>
      <Dialog open={open} onOpenChange={setOpen} title="A window">
        <input aria-label="Name" />
      </Dialog>
    </main>
  );
}

describe("a window", () => {
  it("has the keyboard in its first field, keeps keys from the screen, and gives it back", async () => {
    done.length = 0;
    render(<Screen />);
    const user = userEvent.setup();
    await user.click(screen.getByText("Open"));
    await waitFor(() => expect(screen.getByLabelText("Name")).toBe(document.activeElement));
    await user.keyboard("d");
    expect(screen.getByLabelText<HTMLInputElement>("Name").value).toBe("d");
    await user.keyboard("{Tab}d");
    expect(done).toEqual([]);
    await user.keyboard("{Escape}");
    await waitFor(() => expect(screen.getByText("Open")).toBe(document.activeElement));
    await user.keyboard("d");
    expect(done).toEqual(["d"]);
  });
});

describe("lists", () => {
  const options = [
    { value: "", name: "All groups" },
    { value: "ol", name: "Offensive line", more: "this one" },
    { value: "db", name: "Secondary" },
  ];
  function Chosen({ many }: { many?: boolean }) {
    const [value, setValue] = useState("ol");
    return (
      <Portals>
        {many ? (
          <Combobox label="Group" word="choose" options={options.slice(1)} onChoose={setValue} />
        ) : (
          <Select label="Group" value={value} options={options} onChange={setValue} />
        )}
        <p>{value || "all"}</p>
      </Portals>
    );
  }
  it("choose one of a few by typing, and by the arrows", async () => {
    render(<Chosen />);
    const user = userEvent.setup();
    await user.tab();
    await user.keyboard("{Enter}");
    expect(screen.getByRole("menuitemradio", { checked: true }).textContent).toContain("Offensive line");
    await user.keyboard("sec{Enter}");
    expect(screen.getByText("db")).toBeTruthy();
    expect(screen.getByRole("button", { name: /Group: Secondary/ })).toBe(document.activeElement);
    await user.keyboard("{Enter}{Home}{Enter}");
    expect(screen.getByText("all")).toBeTruthy();
  });
  it("choose one of many by any part of its name", async () => {
    render(<Chosen many />);
    const user = userEvent.setup();
    await user.click(screen.getByRole("button"));
    await user.keyboard("cond");
    expect(screen.getAllByRole("option")).toHaveLength(1);
    await user.keyboard("{Enter}");
    expect(screen.getByText("db")).toBeTruthy();
    await user.click(screen.getByRole("button"));
    await user.keyboard("zzz");
    expect(screen.getByText("Nothing has these words.")).toBeTruthy();
  });
  it("of actions have the keyboard while they are open", async () => {
    const chosen = vi.fn();
    render(
      <Menu label="⋯" title="More for Sato">
        <MenuItem onSelect={chosen}>Archive</MenuItem>
      </Menu>,
    );
    const user = userEvent.setup();
    await user.tab();
    await user.keyboard("{Enter}{Enter}");
    expect(chosen).toHaveBeenCalledOnce();
    expect(screen.getByRole("button")).toBe(document.activeElement);
  });
});

describe("the heading of a screen", () => {
  function Go() {
    const go = useNavigate();
    return (
      <button type="button" onClick={() => void go("/b")}>
        Go
      </button>
    );
  }
  it("names the page, and has the keyboard when the address has changed", async () => {
    render(
      <MemoryRouter initialEntries={["/a"]}>
        <Routes>
          <Route
            path="/a"
            element={
              <>
                <Title page="One">One</Title>
                <Go />
              </>
            }
          />
          <Route path="/b" element={<Title page="Two">Two</Title>} />
        </Routes>
      </MemoryRouter>,
    );
    expect(document.title).toBe("One · Nine Yard");
    await userEvent.setup().click(screen.getByText("Go"));
    expect(document.title).toBe("Two · Nine Yard");
    expect(screen.getByRole("heading")).toBe(document.activeElement);
  });
});

describe("the keyboard", () => {
  function Lines() {
    const [list, setList] = useState(["a", "b", "c"]);
    const keep = useKeepFocus<HTMLUListElement>();
    return (
      <ul ref={keep}>
        {list.map((x) => (
          <li key={x}>
            <button type="button" onClick={() => setList(list.filter((y) => y !== x))}>
              {x} out
            </button>
          </li>
        ))}
      </ul>
    );
  }
  it("stays where it was when what had it goes away", async () => {
    render(<Lines />);
    const user = userEvent.setup();
    await user.tab();
    await user.tab();
    await user.keyboard("{Enter}");
    expect(screen.getByText("c out")).toBe(document.activeElement);
    await user.keyboard("{Enter}");
    expect(screen.getByText("a out")).toBe(document.activeElement);
  });
  function Matrix() {
    const grid = useGrid<HTMLTableElement>();
    return (
      <table role="grid" {...grid}>
        <tbody>
          {[0, 1, 2].map((r) => (
            <tr key={r}>
              {[0, 1, 2].map((c) => (
                <td key={c}>
                  {r === 1 && c === 1 ? (
                    "–"
                  ) : (
                    <a href={`#${r}${c}`} tabIndex={r + c === 0 ? 0 : -1}>
                      {r}
                      {c}
                    </a>
                  )}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    );
  }
  it("walks a matrix by the arrows, past what cannot be pressed, and Tab leaves it", async () => {
    render(
      <>
        <Matrix />
        <button type="button">after</button>
      </>,
    );
    const user = userEvent.setup();
    const at = () => document.activeElement?.textContent;
    await user.tab();
    expect(at()).toBe("00");
    await user.keyboard("{ArrowRight}{ArrowDown}");
    expect(at()).toBe("21");
    await user.keyboard("{Home}");
    expect(at()).toBe("20");
    await user.keyboard("{Control>}{End}{/Control}");
    expect(at()).toBe("22");
    await user.tab();
    expect(at()).toBe("after");
    await user.tab({ shift: true });
    expect(at()).toBe("22");
  });
});

describe("two versions", () => {
  const parts = [
    { key: "a", name: "Name", mine: "Leans", theirs: "Bends" },
    { key: "b", name: "Effect", mine: "late", theirs: "early" },
  ];
  it("are chosen whole or part by part, and there is no way around", async () => {
    const chosen = vi.fn();
    const theirs = vi.fn();
    render(
      <Both
        title="Two versions"
        message="Changed by R. Kell."
        parts={parts}
        onChosen={chosen}
        onTheirs={theirs}
      />,
    );
    const user = userEvent.setup();
    const box = screen.getByRole("alertdialog");
    await user.keyboard("{Escape}");
    expect(screen.getByRole("alertdialog")).toBe(box);
    await user.click(
      within(screen.getByRole("group", { name: "Effect" })).getByRole("radio", { name: /Theirs/ }),
    );
    await user.click(screen.getByText("Save what is chosen"));
    expect([...(chosen.mock.calls[0]![0] as Set<string>)]).toEqual(["a"]);
    await user.click(screen.getByText("Take theirs"));
    expect(theirs).toHaveBeenCalledOnce();
  });
});
