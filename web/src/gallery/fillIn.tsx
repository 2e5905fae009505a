import { Combobox } from "@/kit/Combobox";
import { Button } from "@/kit/Button";
import { Field, FieldGroup } from "@/kit/Field";
import { Draft } from "@/kit/form/Draft";
import { CheckField, ChoiceField, DayField, NumberField, TextField } from "@/kit/form/fields";
import { Form, useFormOf } from "@/kit/form/Form";
import { choices, shapeOf } from "@/kit/form/shape";
import { Select } from "@/kit/Select";
import { Typed, TypedClock, TypedNumber } from "@/kit/Typed";
import type { Page } from "./Gallery";
import { Holds } from "./Holds";

const nothing = () => undefined;
const groups = [
  { value: "ol", name: "Offensive line", more: "this one" },
  { value: "te", name: "Tight ends" },
  { value: "db", name: "Secondary" },
];

function Player({ name, refused }: { name: string; refused?: { message: string; field?: string } }) {
  const of = useFormOf("putPlayer", {
    jersey: "64",
    first_name: "Jun",
    last_name: "Sato",
    position: "LG",
    groups: ["ol"],
    weight_lb: 296,
    returning: true,
    archived: false,
  });
  return (
    <Form of={of} refused={refused} onSave={nothing} className="grid gap-2" aria-label={name}>
      <TextField name="jersey" className="w-14" />
      <TextField name="last_name" />
      <NumberField name="weight_lb" className="w-20" />
      <ChoiceField
        name="groups"
        several
        options={groups.map((g) => ({ ...g, short: g.value.toUpperCase() }))}
      />
      <CheckField name="returning" />
      <Button type="submit" kind="main" className="justify-self-start">
        Save
      </Button>
    </Form>
  );
}

function Spell() {
  const of = useFormOf("putSpell", { status: "limited", from: "2026-10-13", reason: "" });
  return (
    <Form of={of} onSave={nothing} className="grid gap-2" aria-label="A stretch of days">
      <ChoiceField
        name="status"
        options={choices(shapeOf("putSpell"), "status").map((value) => ({ value, name: value }))}
      />
      <DayField name="from" />
      <TextField name="reason" placeholder="Ankle: no contact" />
      <Button type="submit" className="justify-self-start">
        Record
      </Button>
    </Form>
  );
}

/** What is filled in. */
export const fillIn: Page[] = [
  {
    part: "Field",
    says: "What is filled in, with its name, its unit, what is meant and what is wrong.",
    states: [
      {
        name: "with a unit and a hint",
        show: (
          <Field label="Weight" unit="lb" hint="As weighed this week.">
            {(c) => <input {...c} className="field w-20" defaultValue="296" />}
          </Field>
        ),
      },
      {
        name: "wrong",
        show: (
          <Field label="Weight" unit="lb" error="Weight is from 80 to 500 lb.">
            {(c) => <input {...c} className="field w-20" defaultValue="29" />}
          </Field>
        ),
      },
      {
        name: "within a line",
        show: (
          <Field inline label="of the last">
            {(c) => <input {...c} className="field w-14" defaultValue="10" />}
          </Field>
        ),
      },
      {
        name: "several that are one",
        show: (
          <FieldGroup label="Height" error="Height is from 48 to 96 in.">
            <input aria-label="feet" className="field w-12" defaultValue="9" /> ft
            <input aria-label="inches" className="field w-12" defaultValue="0" /> in
          </FieldGroup>
        ),
      },
    ],
  },
  {
    part: "form/Form",
    says: "Fills in what an operation of the contract takes: words, units, ranges and lengths follow from it.",
    states: [
      { name: "filled in", show: <Player name="A player" /> },
      {
        name: "refused at a field",
        show: (
          <Player
            name="A number that is taken"
            refused={{ message: "64 is Jun Sato's already.", field: "jersey" }}
          />
        ),
      },
      {
        name: "refused as a whole",
        show: <Player name="Another group" refused={{ message: "This group is another coach's." }} />,
      },
    ],
  },
  {
    part: "form/fields",
    says: "A line, a number, a day, yes or no, one of a few. Press the button with something missing.",
    states: [{ name: "days", show: <Spell /> }],
  },
  {
    part: "form/Draft",
    says: "What was half typed and left.",
    states: [
      {
        name: "offered",
        show: (
          <Draft
            draft={{
              offered: { content: "", at: new Date(2026, 9, 12, 22, 40), stale: false },
              keep: nothing,
              drop: nothing,
            }}
            onTake={nothing}
          />
        ),
      },
      {
        name: "typed over an older version",
        show: (
          <Draft
            draft={{
              offered: { content: "", at: new Date(2026, 9, 12, 22, 40), stale: true },
              keep: nothing,
              drop: nothing,
            }}
            onTake={nothing}
          />
        ),
      },
    ],
  },
  {
    part: "Typed",
    says: "Text, a number or a time that is said as a whole: when it is left, or Enter is pressed.",
    states: [
      {
        name: "text",
        show: (
          <Holds start="Inside run">
            {(value, set) => <Typed label="Name" value={value} max={80} onSay={set} />}
          </Holds>
        ),
      },
      {
        name: "a number, with a unit, and one that may be empty",
        show: (
          <Holds start={14}>
            {(value, set) => (
              <p className="flex gap-4">
                <TypedNumber label="Minutes" value={value} least={1} className="w-20" onSay={set} />
                <TypedNumber
                  label="Water at least every"
                  unit="minutes"
                  value={undefined}
                  least={5}
                  placeholder="not checked"
                  className="w-24"
                  onSay={nothing}
                  onNone={nothing}
                />
              </p>
            )}
          </Holds>
        ),
      },
      {
        name: "a time of day, and one that may not be changed",
        show: (
          <p className="flex gap-4">
            <TypedClock label="From" value="18:34" className="w-20" onSay={nothing} />
            <Typed off label="Place" value="North end" max={60} onSay={nothing} />
          </p>
        ),
      },
    ],
  },
  {
    part: "Select",
    says: "One of a few, opened by a press or a key.",
    states: [
      {
        name: "chosen",
        show: (
          <Holds start="ol">
            {(value, set) => <Select label="Group" value={value} options={groups} onChange={set} />}
          </Holds>
        ),
      },
      {
        name: "nothing chosen, slim, off",
        show: (
          <p className="flex gap-4">
            <Select label="Group" value="" placeholder="no group" options={groups} onChange={nothing} />
            <Select slim label="Group in a line" value="te" options={groups} onChange={nothing} />
            <Select disabled label="Group, off" value="te" options={groups} onChange={nothing} />
          </p>
        ),
      },
      {
        name: "wrong",
        show: (
          <Field label="Group" error="Choose his group.">
            {(c) => <Select control={c} label="Group" value="" options={groups} onChange={nothing} />}
          </Field>
        ),
      },
    ],
  },
  {
    part: "Combobox",
    says: "One of many, found by typing any part of its name.",
    states: [
      {
        name: "closed",
        show: <Combobox label="Add a group" word="add a group" options={groups} onChoose={nothing} />,
      },
      {
        name: "off",
        show: (
          <Combobox
            disabled
            label="Add a group, off"
            word="add a group"
            options={groups}
            onChoose={nothing}
          />
        ),
      },
    ],
  },
];
