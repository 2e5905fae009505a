import { Button, ButtonLink, FileLink, FilePick, type Kind } from "@/kit/Button";
import { Menu, MenuItem, MenuLabel } from "@/kit/Menu";
import { Tabs } from "@/kit/Tabs";
import { ToggleGroup } from "@/kit/ToggleGroup";
import type { Page } from "./Gallery";
import { Holds } from "./Holds";

const kinds: Kind[] = ["plain", "main", "quiet", "text", "bare"];
const nothing = () => undefined;

const row = (children: React.ReactNode) => <p className="flex flex-wrap items-center gap-2">{children}</p>;

/** What is pressed. */
export const presses: Page[] = [
  {
    part: "Button",
    says: "A press. One that is off keeps the keyboard; one that is pressed stays chosen.",
    states: [
      { name: "kinds", show: row(kinds.map((k) => <Button key={k} kind={k}>{`A ${k} one`}</Button>)) },
      {
        name: "off",
        show: row(
          kinds.map((k) => (
            <Button key={k} kind={k} off>
              {`A ${k} one`}
            </Button>
          )),
        ),
      },
      {
        name: "pressed and not",
        show: (
          <Holds start={true}>
            {(on, set) => (
              <Button kind="quiet" pressed={on} onClick={() => set(!on)}>
                Praise <span className="kbd">p</span>
              </Button>
            )}
          </Holds>
        ),
      },
      {
        name: "ways and files",
        show: row(
          <>
            <ButtonLink to="/kit/Button">To another screen</ButtonLink>
            <FileLink href="/kit/Button">A file to take away</FileLink>
            <FilePick accept=".csv" onPick={nothing}>
              Choose a file
            </FilePick>
          </>,
        ),
      },
    ],
  },
  {
    part: "Menu",
    says: "A button that opens what can be done.",
    states: [
      {
        name: "closed, with a label and one that cannot be chosen",
        show: (
          <Menu label="⋯" title="More for 64 Jun Sato">
            <MenuLabel>64 Jun Sato</MenuLabel>
            <MenuItem onSelect={nothing}>Edit</MenuItem>
            <MenuItem onSelect={nothing} disabled>
              Archive
            </MenuItem>
          </Menu>
        ),
      },
    ],
  },
  {
    part: "ToggleGroup",
    says: "One of a few that all stand there.",
    states: [
      {
        name: "one is chosen",
        show: (
          <Holds start="here">
            {(value, set) => (
              <ToggleGroup
                label="Show"
                value={value}
                options={[
                  { value: "here", name: "Everybody" },
                  { value: "held", name: "Not fully available" },
                ]}
                onChange={set}
              />
            )}
          </Holds>
        ),
      },
    ],
  },
  {
    part: "Tabs",
    says: "Sheets that lie over each other.",
    states: [
      {
        name: "the first is seen",
        show: (
          <Holds start="needs">
            {(value, set) => (
              <Tabs
                label="What to put in"
                value={value}
                onChange={set}
                tabs={[
                  { value: "needs", name: "What hurts most", content: <p>Ducks the head: 4 of 31 reps.</p> },
                  { value: "drills", name: "Drills", content: <p>Two steps and freeze.</p> },
                ]}
              />
            )}
          </Holds>
        ),
      },
    ],
  },
];
