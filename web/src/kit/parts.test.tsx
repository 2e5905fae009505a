// @vitest-environment jsdom
import { act, cleanup, render, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { afterEach, beforeAll, describe, expect, it, onTestFinished, vi } from "vitest";
import { columns, lines } from "@/gallery/lists";
import { useKeyboard } from "@/keys/react";
import { Button } from "./Button";
import { quietDom } from "./dom.test-util";
import { Popover } from "./Popover";
import { Portals } from "./portal";
import { reorder } from "./reorder";
import { Sortable } from "./Sortable";
import { Table } from "./Table";
import { Tabs } from "./Tabs";
import { Toasts, useToast } from "./Toast";
import { ToggleGroup } from "./ToggleGroup";
import { Tooltip } from "./Tooltip";

beforeAll(() => quietDom(vi));
afterEach(cleanup);

describe("a button", () => {
  it("that is off keeps the keyboard and does nothing", async () => {
    const done = vi.fn();
    render(
      <Button off onClick={done}>
        Undo
      </Button>,
    );
    const user = userEvent.setup();
    await user.tab();
    await user.keyboard("{Enter} ");
    expect(screen.getByRole("button")).toBe(document.activeElement);
    expect(done).not.toHaveBeenCalled();
  });
});

describe("a table", () => {
  const names = () => screen.getAllByRole("rowheader").map((c) => c.textContent);
  it("is sorted by its heads, up and down, and those alike stay in their order", async () => {
    render(
      <Table
        label="Players"
        rows={lines(4)}
        columns={columns}
        keyOf={(l) => String(l.no)}
        by={{ id: "no" }}
      />,
    );
    const user = userEvent.setup();
    expect(names()).toEqual(["Sato", "Ilvar", "Brandt", "Oduya"]);
    await user.click(screen.getByRole("button", { name: /Marks/ }));
    expect(names()).toEqual(["Sato", "Oduya", "Ilvar", "Brandt"]);
    expect(screen.getByRole("columnheader", { name: /Marks/ }).getAttribute("aria-sort")).toBe("ascending");
    await user.keyboard("{Enter}");
    expect(names()).toEqual(["Brandt", "Ilvar", "Oduya", "Sato"]);
    expect(screen.getByRole("columnheader", { name: /Marks/ }).getAttribute("aria-sort")).toBe("descending");
  });
  it("keeps the keyboard at what is pressed in a row when it is drawn anew", async () => {
    const pressable = [
      ...columns,
      { id: "do", head: "", cell: (l: { no: number }) => <Button>{`Edit ${l.no}`}</Button> },
    ];
    const one = (n: number) => (
      <Table label="Players" rows={lines(n)} columns={[...pressable]} keyOf={(l) => String(l.no)} />
    );
    const { rerender } = render(one(3));
    await userEvent.setup().click(screen.getByText("Edit 2"));
    rerender(one(4));
    expect(screen.getByText("Edit 2")).toBe(document.activeElement);
  });
  it("draws what is in sight of a long list, the row that is edited too, and all of it on paper", async () => {
    const box = vi.spyOn(Element.prototype, "clientHeight", "get").mockReturnValue(400);
    const row = vi.spyOn(HTMLElement.prototype, "offsetHeight", "get").mockReturnValue(37);
    onTestFinished(() => [box, row].forEach((s) => s.mockRestore()));
    render(
      <Table
        label="Players"
        rows={lines(500)}
        columns={columns}
        keyOf={(l) => String(l.no)}
        keep="400"
        instead={(l) => l.no === 400 && <p>Edited: {l.no}</p>}
        within="max-h-60"
      />,
    );
    await waitFor(() => expect(names().length).toBeGreaterThan(5));
    expect(names().length).toBeLessThan(60);
    expect(screen.getByRole("table").getAttribute("aria-rowcount")).toBe("501");
    expect(screen.getByText("Edited: 400").closest("tr")?.getAttribute("aria-rowindex")).toBe("401");
    act(() => void window.dispatchEvent(new Event("beforeprint")));
    expect(names()).toHaveLength(499);
    act(() => void window.dispatchEvent(new Event("afterprint")));
    expect(names().length).toBeLessThan(60);
  });
});

describe("a list in the coach's order", () => {
  function Stages() {
    const [items, set] = useState(["fit", "bag", "look"]);
    return (
      <Sortable
        label="Stages"
        one="stage"
        items={items}
        keyOf={(x) => x}
        onMove={(from, to) => set(reorder(items, from, to))}
      >
        {(x, i, moves) => (
          <>
            <input aria-label={`Name of stage ${i + 1}`} value={x} readOnly />
            {moves}
          </>
        )}
      </Sortable>
    );
  }
  const order = () => screen.getAllByRole<HTMLInputElement>("textbox").map((i) => i.value);
  it("is moved by its buttons, and by Alt and the arrows where one types", async () => {
    render(<Stages />);
    const user = userEvent.setup();
    await user.click(screen.getByRole("button", { name: "Stage 3 up" }));
    expect(order()).toEqual(["fit", "look", "bag"]);
    await user.click(screen.getByLabelText("Name of stage 1"));
    await user.keyboard("{Alt>}{ArrowDown}{ArrowDown}{/Alt}");
    expect(order()).toEqual(["look", "bag", "fit"]);
    expect((document.activeElement as HTMLInputElement).value).toBe("fit");
    await user.keyboard("{Alt>}{ArrowDown}{/Alt}");
    expect(order()).toEqual(["look", "bag", "fit"]);
  });
  it("does nothing at its ends", async () => {
    render(<Stages />);
    await userEvent.setup().click(screen.getByRole("button", { name: "Stage 1 up" }));
    expect(order()).toEqual(["fit", "bag", "look"]);
  });
});

describe("a word about what was done", () => {
  function Screen({ undo }: { undo: () => void }) {
    const tell = useToast();
    useKeyboard();
    return (
      <>
        <Button onClick={() => tell({ text: "Archived.", way: { word: "Undo", run: undo } })}>Archive</Button>
        <Button onClick={() => tell({ text: "Merged." })}>Merge</Button>
      </>
    );
  }
  it("is reached by F8, can be taken back, and the last one stands", async () => {
    const undo = vi.fn();
    render(
      <Toasts>
        <Screen undo={undo} />
      </Toasts>,
    );
    const user = userEvent.setup();
    await user.click(screen.getByText("Merge"));
    await user.click(screen.getByText("Archive"));
    const list = screen.getByRole("region");
    await waitFor(() => expect(within(list).getByText("Archived.")).toBeTruthy());
    expect(within(list).queryByText("Merged.")).toBeNull();
    await user.keyboard("{F8}");
    expect(screen.getByText("Undo")).toBe(document.activeElement);
    await user.keyboard("{Enter}");
    expect(undo).toHaveBeenCalledOnce();
    await waitFor(() => expect(within(list).queryByText("Archived.")).toBeNull());
  });
});

describe("one of a few", () => {
  it("is walked by the arrows and cannot be nothing", async () => {
    const chosen = vi.fn();
    render(
      <ToggleGroup
        label="Show"
        value="here"
        options={[
          { value: "here", name: "Everybody" },
          { value: "held", name: "Not fully available" },
        ]}
        onChange={chosen}
      />,
    );
    const user = userEvent.setup();
    await user.tab();
    await user.keyboard(" ");
    expect(chosen).not.toHaveBeenCalled();
    await user.keyboard("{ArrowRight} ");
    expect(chosen).toHaveBeenCalledExactlyOnceWith("held");
  });
  it("of sheets shows one, by the arrows", async () => {
    function Sheets() {
      const [value, set] = useState("a");
      const tabs = ["a", "b"].map((v) => ({ value: v, name: `tab ${v}`, content: <p>sheet {v}</p> }));
      return <Tabs label="Sheets" value={value} onChange={set} tabs={tabs} />;
    }
    render(<Sheets />);
    const user = userEvent.setup();
    await user.tab();
    expect(screen.queryByText("sheet b")).toBeNull();
    await user.keyboard("{ArrowRight}");
    expect(screen.getByText("sheet b")).toBeTruthy();
  });
});

describe("what is said beside something", () => {
  it("opens by the keyboard at once, and Escape closes it", async () => {
    render(
      <Portals>
        <Tooltip text="Two steps and freeze, 6 minutes">
          <Button>Two st</Button>
        </Tooltip>
      </Portals>,
    );
    const user = userEvent.setup();
    await user.tab();
    await waitFor(() => expect(screen.getByRole("tooltip").textContent).toContain("6 minutes"));
    await user.keyboard("{Escape}");
    await waitFor(() => expect(screen.queryByRole("tooltip")).toBeNull());
  });
  it("gives the keyboard back when it is closed", async () => {
    render(
      <Portals>
        <Popover label="Inside run" trigger={<Button>Inside run</Button>}>
          <p>12 minutes</p>
        </Popover>
      </Portals>,
    );
    const user = userEvent.setup();
    await user.click(screen.getByRole("button"));
    expect(screen.getByRole("dialog", { name: "Inside run" }).textContent).toBe("12 minutes");
    await user.keyboard("{Escape}");
    await waitFor(() => expect(screen.getByRole("button")).toBe(document.activeElement));
  });
});
