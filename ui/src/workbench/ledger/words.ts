import type { Doc, Item } from "../../api/types";
import { nameOf } from "../changes";

type Cells = Record<string, string[]>;

/** Whether an item must be placed, in words. */
export function mustWords(item: Item, places: number): string {
  if (places === 0) return "belongs nowhere";
  const all = item.copies > 1 ? `all ${item.copies}` : "yes";
  return places === 1 ? all : places === 2 ? `${all}, in either` : `${all}, in any of ${places}`;
}

type At = {
  doc: Doc;
  item: Item | undefined;
  column: number;
  right: Cells;
  lets: Cells;
  letting: boolean;
  block: { items: string[]; targets: string[] };
};

/** The cell in focus, said in words. */
export function cellWords({ doc, item, column, right, lets, letting, block }: At): string {
  const target = doc.targets[column];
  const cells = block.items.length * block.targets.length;
  const count = (n: number, one: string) => `${n} ${n === 1 ? one : one + "s"}`;
  if (cells > 1) {
    return `${cells} cells: ${count(block.items.length, "item")} × ${count(block.targets.length, "target")}. Space sets, Delete clears.`;
  }
  const numbered = (i: number) => `${i + 1} ${nameOf(doc.targets[i])}`;
  if (target && !item) {
    const n = (right[target.id] ?? []).length;
    return `Target ${numbered(column)}: ${n} ${n === 1 ? "item is" : "items are"} right here`;
  }
  if (!item) return "";
  const rightIn = doc.targets.flatMap((t, i) => ((right[t.id] ?? []).includes(item.id) ? [i] : []));
  if (!target) {
    return rightIn.length === 0
      ? `${nameOf(item)} belongs nowhere`
      : `${nameOf(item)} is right in ${rightIn.map(numbered).join(" and ")}`;
  }
  const isIn = (lets[target.id] ?? []).includes(item.id);
  const head = `${nameOf(item)} in ${numbered(column)}: `;
  if (letting) return head + (isIn ? "let in" : "turned away");
  if (!isIn) return head + "turned away, so it cannot be right";
  if (!rightIn.includes(column)) return head + "let in, not right";
  const others = rightIn.filter((i) => i !== column);
  return head + "right" + (others.length > 0 ? `, as is ${others.map(numbered).join(", ")}` : "");
}
