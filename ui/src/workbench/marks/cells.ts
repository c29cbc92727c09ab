import type { Doc } from "../../api/types";

type Cell = Doc["marks"]["cells"][string];
export type Points = { weight?: number; penalty?: number };

/** A cell's own points and penalty: "2", "2 -1", "-1". */
export function cellWords(cell: Cell | undefined): string {
  if (!cell) return "";
  return [cell.weight ?? "", cell.penalty === undefined ? "" : `-${cell.penalty}`].filter((x) => x !== "").join(" ");
}

/** Reads what was typed in a column; undefined where it cannot be. Nothing typed is no points of its own. */
export function readPoints(text: string, column: string): Points | undefined {
  const t = text.trim().replace("−", "-");
  const inTarget = column.startsWith("in ");
  if (t === "") return {};
  const m = inTarget
    ? /^(\d+)?\s*[/,;]?\s*(?:-\s*(\d+))?$/.exec(t)
    : (column === "penalty" ? /^-?(\d+)$/ : /^(\d+)$/).exec(t);
  if (!m) return undefined;
  const weight = m[1] === undefined ? undefined : Number(m[1]);
  const penalty = m[2] === undefined ? undefined : Number(m[2]);
  if ((weight ?? 0) > 1000 || (penalty ?? 0) > 1000) return undefined;
  return { weight, penalty };
}

/** Writes points into a cell of the table; what cannot be read leaves it as it was. */
export function writeCell(doc: Doc, row: string, column: string, text: string): void {
  const points = readPoints(text, column);
  if (!points) return;
  if (row.startsWith("target ")) {
    const target = doc.targets.find((t) => t.id === row.slice(7));
    if (target && column === "weight") target.weight = points.weight ?? 1;
    return;
  }
  const item = doc.items.find((i) => i.id === row);
  if (!item) return;
  if (column === "weight") item.weight = points.weight ?? 1;
  else if (column === "penalty") item.penalty = points.weight ?? 0;
  else {
    const name = `${row}/${column.slice(3)}`;
    if (points.weight === undefined && points.penalty === undefined) delete doc.marks.cells[name];
    else
      doc.marks.cells[name] = {
        ...(points.weight === undefined ? {} : { weight: points.weight }),
        ...(points.penalty === undefined ? {} : { penalty: points.penalty }),
      };
  }
}
