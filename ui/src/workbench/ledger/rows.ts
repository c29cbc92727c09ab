import type { Doc, Item } from "../../api/types";

export type Row = { group: string; count: number; item?: undefined } | { item: Item; group?: undefined };

/** Items grouped by their first tag, in the order in which the tags come. */
export function rowsOf(doc: Doc): Row[] {
  const groups = new Map<string, Item[]>();
  for (const item of doc.items) {
    const tag = item.tags[0] ?? "";
    groups.set(tag, [...(groups.get(tag) ?? []), item]);
  }
  if (groups.size <= 1 && groups.has("")) return doc.items.map((item) => ({ item }));
  const rows: Row[] = [];
  const untagged = groups.get("");
  groups.delete("");
  if (untagged) groups.set("", untagged);
  for (const [tag, items] of groups) {
    rows.push({ group: tag || "no tag", count: items.length }, ...items.map((item) => ({ item })));
  }
  return rows;
}

/** A cell by its row among the items and its column among the targets; -1 is the head or the name. */
export type Place = { row: number; column: number };
export type Range = { from: Place; to: Place };

export const rangeRows = ({ from, to }: Range) => [Math.min(from.row, to.row), Math.max(from.row, to.row)] as const;
export const rangeColumns = ({ from, to }: Range) =>
  [Math.min(from.column, to.column), Math.max(from.column, to.column)] as const;

export function inRange(range: Range, row: number, column: number) {
  const [a, b] = rangeRows(range);
  const [c, d] = rangeColumns(range);
  return row >= a && row <= b && column >= c && column <= d;
}
