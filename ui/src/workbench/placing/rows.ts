import type { Item, Target } from "../../api/types";
import type { Block } from "../model/key";
import { rangeColumns, rangeRows, type Range } from "../grid/range";

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
