import type { Doc } from "../../api/types";
import { itemOf, nameOf, targetOf, type PartID } from "../../document/parts";
import { columnAt, readCell } from "./columns";

/** The cell in focus, said in words. */
export function cellSaid(doc: Doc, part: PartID | undefined, index: number, rows: number): string {
  if (!part) return "Nothing here yet. Add an item, paste a table, or drop pictures.";
  const found = part.kind === "item" ? itemOf(doc, part.id) : targetOf(doc, part.id);
  if (rows > 1 && index >= 0 && columnAt(index)?.key === "card")
    return `${rows} cards. Texts are pasted and files added in order, or by name.`;
  if (rows > 1) return `${rows} rows. Ctrl+D fills down, Delete clears, Alt with an arrow moves items.`;
  const column = columnAt(index)!;
  const text = readCell(doc, part, column);
  const kind = part.kind === "item" ? "Item" : "Target";
  if (index < 0) return `${kind} “${nameOf(found)}”. Press Delete to remove it.`;
  const what = column[part.kind]?.name ?? column.title.toLowerCase();
  if (text === undefined) return `${kind} ${nameOf(found)} has no ${what}`;
  return `${nameOf(found)}, ${what}: ${text || (column.key === "copies" ? "any number" : column.key === "x" || column.key === "y" ? "in the tray" : "empty")}`;
}
