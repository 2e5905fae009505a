import { Button } from "@/kit/Button";
import { Scroller } from "@/kit/Scroller";
import { reorder } from "@/kit/reorder";
import { Sortable } from "@/kit/Sortable";
import { Empty, Loading, More, Trouble } from "@/kit/States";
import { Table, type Column } from "@/kit/Table";
import type { Page } from "./Gallery";
import { Holds } from "./Holds";

interface Line {
  no: number;
  name: string;
  marks: number;
}

const names = ["Sato", "Ilvar", "Brandt", "Oduya", "Quill", "Marsh", "Veil", "Trell", "Okoro", "Lund"];

/** Invented players, as many as are asked for. */
export const lines = (n: number): Line[] =>
  Array.from({ length: n }, (_, i) => ({ no: i + 1, name: names[i % names.length]!, marks: (i * 37) % 101 }));

export const columns: Column<Line>[] = [
  { id: "no", head: "No.", order: (a, b) => a.no - b.no, cell: (l) => l.no },
  {
    id: "name",
    head: "Player",
    order: (a, b) => a.name.localeCompare(b.name),
    heads: true,
    cell: (l) => l.name,
  },
  {
    id: "marks",
    head: "Marks",
    order: (a, b) => a.marks - b.marks,
    className: "text-right",
    cell: (l) => l.marks,
  },
];

const keyOf = (l: Line) => String(l.no);

/** Rows, lines, and what stands there instead. */
export const lists: Page[] = [
  {
    part: "Table",
    says: "Rows and columns. Heads sort; of a long list only what is in sight is drawn.",
    states: [
      {
        name: "ten rows",
        show: (
          <Table
            label="Ten players"
            rows={lines(10)}
            columns={columns}
            keyOf={keyOf}
            by={{ id: "marks", down: true }}
          />
        ),
      },
      {
        name: "a row that is edited in its place",
        show: (
          <Table
            label="Three players"
            rows={lines(3)}
            columns={columns}
            keyOf={keyOf}
            instead={(l) => l.no === 2 && <p className="bg-flag-wash p-2">2 Ilvar, while he is edited</p>}
            first={<p className="p-2">One that is being added</p>}
          />
        ),
      },
      {
        name: "two thousand rows that scroll in themselves",
        show: (
          <Table
            label="Two thousand players"
            rows={lines(2000)}
            columns={columns}
            keyOf={keyOf}
            within="max-h-60"
          />
        ),
      },
    ],
  },
  {
    part: "Sortable",
    says: "A list whose order is the coach's.",
    states: [
      {
        name: "three stages",
        show: (
          <Holds start={["Fit and hold", "Two steps and freeze", "Drive through the bag"]}>
            {(items, set) => (
              <Sortable
                label="Stages"
                one="stage"
                items={items}
                keyOf={(x) => x}
                onMove={(from, to) => set(reorder(items, from, to))}
              >
                {(x, _, moves) => (
                  <>
                    <span className="name min-w-0 flex-1">{x}</span>
                    <span className="flex gap-1">{moves}</span>
                  </>
                )}
              </Sortable>
            )}
          </Holds>
        ),
      },
    ],
  },
  {
    part: "Scroller",
    says: "Something wider or longer than its place.",
    states: [
      {
        name: "wider",
        show: (
          <Scroller label="A wide script" className="max-w-60">
            <p className="w-[600px]">
              A line of the script that is wider than its place, from its first minute on.
            </p>
          </Scroller>
        ),
      },
      {
        name: "it fits",
        show: (
          <Scroller label="A short line">
            <p>It fits.</p>
          </Scroller>
        ),
      },
    ],
  },
  {
    part: "States",
    says: "While something comes, when it does not come, and when there is nothing.",
    states: [
      { name: "on its way", show: <Loading what="the practice" /> },
      {
        name: "nothing there",
        show: <Empty action={<Button>Add a player</Button>}>Nobody is on the roster yet.</Empty>,
      },
      {
        name: "more of a long list",
        show: (
          <p className="flex gap-2">
            <More
              word="Older reps"
              of={{ hasNextPage: true, isFetchingNextPage: false, fetchNextPage: () => undefined }}
            />
            <More
              word="Older reps"
              of={{ hasNextPage: true, isFetchingNextPage: true, fetchNextPage: () => undefined }}
            />
          </p>
        ),
      },
      {
        name: "it went wrong",
        show: <Trouble error={new Error("The server does not answer.")} again={() => undefined} />,
      },
    ],
  },
];
