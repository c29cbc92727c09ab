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

export function inRange(range: Range, row: number, column: number) {
  const [a, b] = rangeRows(range);
  const [c, d] = rangeColumns(range);
  return row >= a && row <= b && column >= c && column <= d;
}
