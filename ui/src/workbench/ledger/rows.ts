import type { Item, Target } from "../../api/types";

/** A row of the ledger: an item, or a tag over the items that have it first. */
export type Row = { tag: string; count: number; item?: undefined } | { item: Item; tag?: undefined };

/** Items grouped by their first tag, in the order in which the tags come. */
export function rowsOf(all: Item[]): Row[] {
  const groups = new Map<string, Item[]>();
  for (const item of all) {
    const tag = item.tags[0] ?? "";
    groups.set(tag, [...(groups.get(tag) ?? []), item]);
  }
  if (groups.size <= 1 && groups.has("")) return all.map((item) => ({ item }));
  const bearers = new Map<string, number>();
  for (const tag of all.flatMap((i) => [...new Set(i.tags)])) bearers.set(tag, (bearers.get(tag) ?? 0) + 1);
  const rows: Row[] = [];
  const untagged = groups.get("");
  groups.delete("");
  if (untagged) groups.set("", untagged);
  for (const [tag, items] of groups) {
    rows.push({ tag, count: bearers.get(tag) ?? items.length }, ...items.map((item) => ({ item })));
  }
  return rows;
}

/** A cell by its row and its column among the targets; -1 is the head or the name. */
export type Place = { row: number; column: number };
export type Range = { from: Place; to: Place };

/** The cell that an event is over. */
export function cellAt(e: { target: EventTarget }): Place | undefined {
  const at = (e.target as HTMLElement).closest<HTMLElement>("[data-cell]")?.dataset.cell?.split(" ").map(Number);
  return at && { row: at[0]!, column: at[1]! };
}

export const rangeRows = ({ from, to }: Range) => [Math.min(from.row, to.row), Math.max(from.row, to.row)] as const;
export const rangeColumns = ({ from, to }: Range) =>
  [Math.min(from.column, to.column), Math.max(from.column, to.column)] as const;

/** What a row is drawn with, whether it is of an item or of a tag. */
export type RowProps = {
  number: number;
  top: number;
  height: number;
  columns: string;
  targets: Target[];
  /** The columns that are in view, of all of them. */
  first: number;
  last: number;
  letting: boolean;
  /** The column in focus, where it is in this row. */
  at?: number;
  /** The columns of the range, where it reaches this row. */
  from?: number;
  to?: number;
};

export const isRanged = ({ from = 0, to = -2 }: RowProps, column: number) => column >= from && column <= to;

/** How a cell shows that it is in the range, and in focus. */
export const cellLook = (row: RowProps, column: number) =>
  `${isRanged(row, column) ? "bg-feather-soft" : ""} ${row.at === column ? "outline-2 -outline-offset-2 outline-edge group-focus/grid:outline-feather" : ""}`;

export function inRange(range: Range, row: number, column: number) {
  const [a, b] = rangeRows(range);
  const [c, d] = rangeColumns(range);
  return row >= a && row <= b && column >= c && column <= d;
}

/** What a range is about: items and targets, or, where it holds nothing else, tags. */
export type Block = { items: string[]; targets: string[]; tags: string[] };

export function blockOf(all: Target[], rows: Row[], range: Range): Block {
  const [a, b] = rangeRows(range);
  const [c, d] = rangeColumns(range);
  const inside = rows.slice(Math.max(0, a), b + 1);
  const items = inside.flatMap((r) => (r.item ? [r.item.id] : []));
  return {
    items,
    targets: all.slice(Math.max(0, c), d + 1).map((t) => t.id),
    tags: items.length === 0 ? inside.flatMap((r) => (r.item ? [] : [r.tag])) : [],
  };
}
