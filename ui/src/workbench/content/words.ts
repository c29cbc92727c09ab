import { t } from "@lingui/core/macro";
import type { Doc } from "../../api/types";
import { itemOf, nameOf, targetOf, type PartID } from "../../document/parts";
import { columnAt, readCell } from "./columns";

/** The cell in focus, said in words. */
export function cellSaid(doc: Doc, part: PartID | undefined, index: number, rows: number): string {
  if (!part) return t`Nothing here yet. Add an item, paste a table, or drop pictures.`;
  const found = part.kind === "item" ? itemOf(doc, part.id) : targetOf(doc, part.id);
  if (rows > 1 && index >= 0 && columnAt(index)?.key === "card")
    return t`${rows} cards. Texts are pasted and files added in order, or by name.`;
  if (rows > 1) return t`${rows} rows. Ctrl+D fills down, Delete clears, Alt with an arrow moves items.`;
  const column = columnAt(index)!;
  const text = readCell(doc, part, column);
  const name = nameOf(found);
  const isItem = part.kind === "item";
  if (index < 0)
    return isItem ? t`Item “${name}”. Press Delete to remove it.` : t`Target “${name}”. Press Delete to remove it.`;
  const what = column[part.kind]?.name ?? column.title.toLowerCase();
  if (text === undefined) return isItem ? t`Item ${name} has no ${what}` : t`Target ${name} has no ${what}`;
  const none =
    column.key === "copies" ? t`any number` : column.key === "x" || column.key === "y" ? t`in the tray` : t`empty`;
  return `${name}, ${what}: ${text || none}`;
}
