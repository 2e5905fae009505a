// @vitest-environment jsdom
import { cleanup, render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeAll, describe, expect, it, vi } from "vitest";
import type { HalfTyped } from "@/sync/drafts";
import { Button } from "../Button";
import { quietDom } from "../dom.test-util";
import { wrongs } from "./check";
import { CheckField, ChoiceField, DayField, NumberField, TextField, numberOf, useNow } from "./fields";
import { Form, useFormOf, type Refused } from "./Form";
import { entryShape } from "@/screens/teaching/fields";
import { choices, fitting, part, range, shapeOf, type Body } from "./shape";

beforeAll(() => quietDom(vi));
afterEach(cleanup);

const player: Body<"putPlayer"> = {
  jersey: "64",
  first_name: "Jun",
  last_name: "Sato",
  position: "LG",
  groups: ["ol"],
  returning: false,
  archived: false,
};

describe("what the contract says", () => {
  it("is what fields know: words, units, ranges, lengths and choices", () => {
    const shape = shapeOf("putPlayer");
    expect(part(shape, "weight_lb")).toMatchObject({
      title: "Weight",
      "x-unit": "lb",
      minimum: 80,
      maximum: 500,
    });
    expect(range(part(shape, "weight_lb"))).toEqual({ min: 80, max: 500, step: "any" });
    expect(range(part(entryShape("drill"), "lanes"))).toEqual({ min: 1, max: 50, step: 1 });
    expect(choices(shapeOf("putSpell"), "status")).toEqual(["limited", "out", "head_hold"]);
    expect(fitting(shape, { jersey: "64", now: { jersey: "65" } })).toEqual({ jersey: "64" });
  });
  it("is what is checked, and said in its words", () => {
    const shape = shapeOf("putPlayer");
    expect(wrongs(shape, { ...player, weight_lb: null, height_in: null })).toEqual({});
    expect(wrongs(shape, { ...player, weight_lb: 40, height_in: 96.5 })).toEqual({
      weight_lb: "Weight is from 80 to 500 lb.",
      height_in: "Height is from 48 to 96 in.",
    });
    expect(wrongs(shape, { ...player, weight_lb: NaN, jersey: "123456" })).toEqual({
      weight_lb: "Weight is from 80 to 500 lb.",
      jersey: "No. takes 5 letters at most.",
    });
    const spell = shapeOf("putSpell");
    expect(wrongs(spell, { status: "gone", from: "12 Oct", reason: "" })).toEqual({
      status: "He is is one of limited, out, head_hold.",
      from: "From is a day, such as 2026-10-12.",
      reason: "Why is missing.",
    });
    expect(wrongs(spell, {})).toMatchObject({ from: "From is missing.", reason: "Why is missing." });
    const drill = entryShape("drill");
    const found = wrongs(drill, { lanes: 2.5, rep_seconds: 0, minutes: 61, trains: [] });
    expect(found.lanes).toBe("Lanes is a whole number from 1 to 50.");
    expect(found.rep_seconds).toBe("Rep, seconds is from 0.5 to 120.");
    expect(found.minutes).toBe("Usual minutes is a whole number from 1 to 60.");
    expect(found.trains).toBe("Trains (the first names the technique) takes 1 to 200 of them.");
    expect(
      wrongs(entryShape("ladder"), {
        key: "a",
        name: "A",
        technique: "b",
        stages: [{ key: "s", kind: "bag", name: "S", window: -1, clean: 1 }],
      }),
    ).toEqual({ "stages.0.window": "Of the last is a whole number from 0 to 1000." });
  });
  it("reads a number as it is typed", () => {
    const cases: [unknown, number | null][] = [
      ["", null],
      [" ", null],
      ["1.", 1],
      ["1,5", 1.5],
      ["-2.25", -2.25],
      [".5", 0.5],
      ["6'2", NaN],
      ["1e9", NaN],
      [7, 7],
      [undefined, null],
    ];
    for (const [typed, read] of cases) expect(numberOf(typed)).toEqual(read);
  });
});

describe("a form", () => {
  const draftOf = (offered?: HalfTyped<Body<"putSpell">>["offered"]) => ({
    offered,
    keep: vi.fn(),
    drop: vi.fn(),
  });
  function Spell({
    onSave,
    refused,
    draft,
  }: {
    onSave: (b: Body<"putSpell">) => void;
    refused?: Refused;
    draft?: HalfTyped<Body<"putSpell">>;
  }) {
    const of = useFormOf("putSpell", { status: "limited", from: "2026-10-13", reason: "" }, draft);
    return (
      <Form of={of} draft={draft} refused={refused} onSave={onSave}>
        <ChoiceField name="status" options={["limited", "out"].map((value) => ({ value, name: value }))} />
        <DayField name="from" />
        <DayField name="to" />
        <TextField name="reason" />
        <Now />
        <Button type="submit">Record</Button>
      </Form>
    );
  }
  const Now = () => <p>now {String(useNow("status"))}</p>;

  it("is not sent with something missing: the field has the keyboard and says what", async () => {
    const onSave = vi.fn();
    render(<Spell onSave={onSave} />);
    const user = userEvent.setup();
    await user.click(screen.getByText("Record"));
    const why = screen.getByLabelText<HTMLInputElement>("Why");
    await waitFor(() => expect(why).toBe(document.activeElement));
    expect(why.getAttribute("aria-invalid")).toBe("true");
    expect(document.getElementById(why.getAttribute("aria-describedby")!)?.textContent).toBe(
      "Why is missing.",
    );
    expect(onSave).not.toHaveBeenCalled();
    await user.keyboard("Ankle{Enter}");
    await waitFor(() => expect(onSave).toHaveBeenCalledOnce());
    expect(onSave.mock.calls[0]![0]).toEqual({
      status: "limited",
      from: "2026-10-13",
      to: undefined,
      reason: "Ankle",
    });
    expect(screen.queryByRole("alert")).toBeNull();
  });
  it("says what was refused at its field, or at its end", () => {
    const { rerender } = render(
      <Spell onSave={vi.fn()} refused={{ field: "from", message: "The season begins later." }} />,
    );
    expect(screen.getByLabelText("From").getAttribute("aria-invalid")).toBe("true");
    expect(screen.getByText("The season begins later.")).toBeTruthy();
    rerender(<Spell onSave={vi.fn()} refused={{ field: "group", message: "Another coach's." }} />);
    expect(screen.getByLabelText("From").getAttribute("aria-invalid")).toBeNull();
    expect(screen.getByText("Another coach's.")).toBeTruthy();
  });
  it("keeps what is typed as a draft, and takes up what was left", async () => {
    const offered = {
      content: { status: "out", from: "2026-10-14", reason: "exam", gone: 1 } as unknown as Body<"putSpell">,
      at: new Date(2026, 9, 12, 22, 40),
      stale: true,
    };
    const draft = draftOf(offered);
    const onSave = vi.fn();
    render(<Spell onSave={onSave} draft={draft} />);
    const user = userEvent.setup();
    expect(screen.getByText(/Mon 12 Oct, 22:40.*older version/)).toBeTruthy();
    expect(draft.keep).not.toHaveBeenCalled();
    await user.click(screen.getByText("Take it up"));
    expect(screen.getByLabelText<HTMLInputElement>("Why").value).toBe("exam");
    expect(screen.getByText("now out")).toBeTruthy();
    await user.type(screen.getByLabelText("Why"), "s");
    expect(draft.keep).toHaveBeenLastCalledWith(expect.objectContaining({ reason: "exams" }));
    await user.click(screen.getByText("Record"));
    await waitFor(() => expect(onSave).toHaveBeenCalledOnce());
    expect(onSave.mock.calls[0]![0]).toEqual({
      status: "out",
      from: "2026-10-14",
      to: undefined,
      reason: "exams",
    });
  });
  it("that is cleared for the next one sends a day that is left out as left out", async () => {
    const onSave = vi.fn();
    function Cleared() {
      const of = useFormOf("putSpell", { status: "limited", from: "2026-10-13", reason: "" });
      return (
        <Form
          of={of}
          onSave={(b) => {
            onSave(b);
            of.form.reset({ status: b.status, from: b.from, to: undefined, reason: "" });
          }}
        >
          <DayField name="to" />
          <TextField name="reason" />
          <Button type="submit">Record</Button>
        </Form>
      );
    }
    render(<Cleared />);
    const user = userEvent.setup();
    for (const [n, why] of ["Ankle", "Wrist"].entries()) {
      await user.type(screen.getByLabelText("Why"), `${why}{Enter}`);
      await waitFor(() => expect(onSave).toHaveBeenCalledTimes(n + 1));
      expect(onSave.mock.calls[n]![0]).toMatchObject({ reason: why, to: undefined });
    }
  });
  function Player({ onSave }: { onSave: (b: Body<"putPlayer">) => void }) {
    const of = useFormOf("putPlayer", player);
    return (
      <Form of={of} onSave={onSave}>
        <NumberField name="weight_lb" />
        <ChoiceField
          name="groups"
          several
          options={[
            { value: "ol", name: "Offensive line", short: "OL" },
            { value: "te", name: "Tight ends", short: "TE" },
          ]}
        />
        <CheckField name="returning" />
        <Button type="submit">Save</Button>
      </Form>
    );
  }
  it("sends numbers, several choices and yes or no as the contract takes them", async () => {
    const onSave = vi.fn();
    render(<Player onSave={onSave} />);
    const user = userEvent.setup();
    await user.type(screen.getByLabelText("Weight, lb"), "296,5");
    await user.click(screen.getByLabelText(/Tight ends/));
    await user.click(screen.getByLabelText("Played here last season"));
    await user.click(screen.getByText("Save"));
    await waitFor(() => expect(onSave).toHaveBeenCalledOnce());
    expect(onSave.mock.calls[0]![0]).toMatchObject({
      weight_lb: 296.5,
      groups: ["ol", "te"],
      returning: true,
    });
  });
});
