import {
  getCoreRowModel,
  getSortedRowModel,
  useReactTable,
  type ColumnDef,
  type Row,
  type SortingState,
} from "@tanstack/react-table";
import {
  defaultRangeExtractor,
  useVirtualizer,
  useWindowVirtualizer,
  type Range,
  type Virtualizer,
} from "@tanstack/react-virtual";
import clsx from "clsx";
import { Fragment, useState, useSyncExternalStore, type ReactNode } from "react";
import { flushSync } from "react-dom";
import { Button } from "./Button";

/** A column of a table. */
export interface Column<R> {
  id: string;
  /** Its name; one that is only heard is put in a span of that kind. */
  head: ReactNode;
  cell: (row: R) => ReactNode;
  /** The order of its rows, upwards; without one it is not sorted by. */
  order?: (a: R, b: R) => number;
  /** Its cells name their rows. */
  heads?: boolean;
  className?: string;
}

interface Props<R> {
  label: string;
  rows: R[];
  columns: Column<R>[];
  keyOf: (row: R) => string;
  /** What the table is sorted by before anybody sorts it. */
  by?: { id: string; down?: boolean };
  /** A line of its own instead of a row: where it is edited. */
  instead?: (row: R) => ReactNode | undefined;
  /** A row that is drawn even out of sight: what is typed in it stays. */
  keep?: string;
  /** A line over the first row: one that is being added. */
  first?: ReactNode;
  look?: (row: R) => string | undefined;
  /** Scrolls in itself, in this much of the height; without it the page scrolls. */
  within?: string;
  /** What is guessed of a row's height, in px, until it is seen. */
  tall?: number;
}

/** From how many rows on only those in sight are drawn. */
const many = 80;

/**
 * Rows and columns. Heads sort; of a long list only what is in sight is drawn, all of it on paper. Whoever hears the
 * table is told how many rows there are.
 */
export function Table<R>(p: Props<R>) {
  const [sorting, setSorting] = useState<SortingState>(p.by ? [{ id: p.by.id, desc: !!p.by.down }] : []);
  // eslint-disable-next-line react-hooks/incompatible-library -- its table is made anew with every drawing
  const table = useReactTable({
    data: p.rows,
    columns: p.columns.map((c): ColumnDef<R> => ({
      id: c.id,
      accessorFn: (row) => row,
      enableSorting: !!c.order,
      sortingFn: (a, b) => c.order?.(a.original, b.original) ?? 0,
      sortDescFirst: false,
    })),
    state: { sorting },
    onSortingChange: setSorting,
    enableSortingRemoval: false,
    getRowId: p.keyOf,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
  });
  const rows = table.getRowModel().rows;
  const drawn = useVirtual(rows.length);
  const [box, setBox] = useState<HTMLDivElement | null>(null);
  const from = box && drawn && !p.within ? box.getBoundingClientRect().top + window.scrollY : 0;
  const Body = p.within ? InBox : OnPage;
  return (
    <div
      ref={setBox}
      className={clsx("relative min-w-0", p.within && `overflow-auto ${p.within}`)}
      {...(p.within ? { role: "region", "aria-label": p.label, tabIndex: 0 } : {})}
    >
      <table
        className="w-full text-small"
        aria-label={p.label}
        aria-rowcount={drawn ? rows.length + 1 : undefined}
      >
        <thead>
          <tr className="border-b border-ink text-left">
            {p.columns.map(({ id, head, className }) => {
              const column = table.getColumn(id)!;
              const by = column.getIsSorted();
              return (
                <th
                  key={id}
                  scope="col"
                  className={clsx("label", column.getCanSort() ? "p-0" : "p-2", className)}
                  aria-sort={!by ? undefined : by === "desc" ? "descending" : "ascending"}
                >
                  {column.getCanSort() ? (
                    <Button
                      kind="bare"
                      className={clsx(
                        "label w-full px-2 hover:text-ink",
                        className?.includes("text-right") ? "text-right" : "text-left",
                      )}
                      onClick={() => column.toggleSorting()}
                    >
                      {head} <span aria-hidden>{!by ? "" : by === "desc" ? "▾" : "▴"}</span>
                    </Button>
                  ) : (
                    head
                  )}
                </th>
              );
            })}
          </tr>
        </thead>
        <Body {...{ p, rows, box, from, drawn }} />
      </table>
    </div>
  );
}

/** Whether only what is in sight is drawn: not of a short list, and not on paper. */
function useVirtual(rows: number): boolean {
  const paper = useSyncExternalStore(listenToPaper, isPrinting, isPrinting);
  return rows > many && !paper;
}

let printing = false;
const isPrinting = () => printing;
function listenToPaper(told: () => void) {
  const turn = (on: boolean) => () => {
    printing = on;
    flushSync(told);
  };
  const [before, after] = [turn(true), turn(false)];
  window.addEventListener("beforeprint", before);
  window.addEventListener("afterprint", after);
  return () => {
    window.removeEventListener("beforeprint", before);
    window.removeEventListener("afterprint", after);
  };
}

interface BodyProps<R> {
  p: Props<R>;
  rows: Row<R>[];
  /** What scrolls, when the table scrolls in itself. */
  box: HTMLDivElement | null;
  /** How far down the page the table begins, in px; 0 when it scrolls in itself. */
  from: number;
  drawn: boolean;
}

function OnPage<R>(b: BodyProps<R>) {
  const v = useWindowVirtualizer<HTMLTableRowElement>({
    ...common(b),
    scrollMargin: b.from,
  });
  return <Rows {...b} v={v} />;
}

function InBox<R>(b: BodyProps<R>) {
  // eslint-disable-next-line react-hooks/incompatible-library -- its rows are worked out anew with every drawing
  const v = useVirtualizer<HTMLDivElement, HTMLTableRowElement>({
    ...common(b),
    getScrollElement: () => b.box,
  });
  return <Rows {...b} v={v} />;
}

function common<R>({ p, rows, drawn }: BodyProps<R>) {
  return {
    count: rows.length,
    enabled: drawn,
    overscan: 12,
    estimateSize: () => p.tall ?? 37,
    getItemKey: (i: number) => rows[i]!.id,
    rangeExtractor: (range: Range) => {
      const seen = defaultRangeExtractor(range);
      const kept = rows.findIndex((r) => r.id === p.keep);
      return kept < 0 || seen.includes(kept) ? seen : [...seen, kept].sort((a, b) => a - b);
    },
  };
}

type V = Virtualizer<Window, HTMLTableRowElement> | Virtualizer<HTMLDivElement, HTMLTableRowElement>;

function Rows<R>({ p, rows, drawn, v, from }: BodyProps<R> & { v: V }) {
  const seen = drawn ? v.getVirtualItems() : undefined;
  const span = p.columns.length;
  // What is not drawn leaves its height.
  const list = (seen ?? rows.map((_, index) => ({ index, start: 0, end: 0 }))).map((i, n) => ({
    row: rows[i.index]!,
    index: i.index,
    gap: seen ? i.start - (seen[n - 1]?.end ?? from) : 0,
  }));
  const below = seen ? v.getTotalSize() - ((seen.at(-1)?.end ?? from) - from) : 0;
  return (
    <tbody>
      {p.first && (
        <tr className="border-b border-ink">
          <td colSpan={span} className="p-0">
            {p.first}
          </td>
        </tr>
      )}
      {list.map(({ row, index, gap }) => {
        const instead = p.instead?.(row.original);
        const place = {
          ref: drawn ? v.measureElement : undefined,
          "data-index": index,
          "aria-rowindex": drawn ? index + 2 : undefined,
        };
        const line = instead ? (
          <tr {...place} className="border-b border-ink">
            <td colSpan={span} className="p-0">
              {instead}
            </td>
          </tr>
        ) : (
          <tr {...place} className={clsx("border-b border-hair align-top", p.look?.(row.original))}>
            {p.columns.map(({ id, cell, className, heads }) => {
              const Cell = heads ? "th" : "td";
              return (
                <Cell key={id} scope={heads ? "row" : undefined} className={clsx("p-2 text-left", className)}>
                  {cell(row.original)}
                </Cell>
              );
            })}
          </tr>
        );
        return (
          <Fragment key={row.id}>
            {gap > 0 && <Gap height={gap} />}
            {line}
          </Fragment>
        );
      })}
      {below > 0 && <Gap height={below} />}
    </tbody>
  );
}

const Gap = ({ height }: { height: number }) => (
  <tr aria-hidden style={{ height }}>
    <td className="p-0" />
  </tr>
);
