import { useRef, useState } from "react";
import { t } from "@lingui/core/macro";
import type { Merge } from "../../document/history";
import type { PartID } from "../../document/parts";
import { selectionOf, useDraftStore } from "../model/draft";
import { rangeColumns, rangeRows, type Place, type Range } from "../grid/range";
import type { CellActs } from "../grid/useCells";
import { columnAt, columns, hasCell, readCell, writeCells, type Write } from "./columns";
import { pasteRows } from "./pasteRows";

/** What could not be written, and is said until the range goes elsewhere. */
export function useFaults() {
  const [faults, setFaults] = useState<string[]>([]);
  const areNew = useRef(false);
  return {
    faults,
    tell: (faults: string[]) => {
      setFaults(faults);
      // The press that ended the typing may go elsewhere, and the reason stays.
      areNew.current = true;
      queueMicrotask(() => (areNew.current = false));
    },
    forget: () => {
      if (!areNew.current) setFaults([]);
    },
  };
}

type Options = {
  parts: PartID[];
  partsIn: (range: Range) => PartID[];
  range: Range;
  set: (range: Range) => void;
  /** That the rows are all the items in their order, so that what is seen is what moves. */
  asListed: boolean;
  tell: (faults: string[]) => void;
};

/** What is done to the cells of the range. */
export function useContentActs({ parts, partsIn, range, set, asListed, tell }: Options): CellActs {
  const store = useDraftStore();

  /** The cells of the range, row by row. Whole: with names alone as range, all cells of their rows. */
  const block = (whole = false) => {
    const [c, last] = rangeColumns(range);
    const d = whole && last < 0 ? columns.length - 1 : last;
    const wide = Array.from({ length: d - c + 1 }, (_, i) => columnAt(c + i)!);
    return partsIn(range).map((part) => wide.map((column) => ({ part, column })));
  };
  const read = (part: PartID, column: Write["column"]) => readCell(store.getState().doc, part, column) ?? "";
  const cellAt = (cell: Place) => {
    const part = parts[cell.row];
    const column = columnAt(cell.column);
    return part && column && hasCell(part, column) ? { part, column } : undefined;
  };
  /** Writes cells in one step and gives what could not be, after what could not before. */
  const write = (says: string, writes: Write[], merge?: Merge, before: string[] = []) => {
    const { change, acts, faults: now } = writeCells(store.getState().doc, says, writes);
    const faults = [...before, ...now];
    const step = merge ?? (acts.length > 0 ? Symbol() : undefined);
    if (writes.some((w) => !w.column.item?.act)) store.getState().change({ ...change, merge: step });
    for (const act of acts) void store.getState().edit(says, act, step);
    tell(faults);
    return faults;
  };
  const remove = () => {
    const list = partsIn(range);
    void store.getState().edit(list.length === 1 ? t`delete a part` : t`delete ${list.length} parts`, {
      act: "remove",
      parts: selectionOf(list),
    });
  };
  const reorder = (by: number) => {
    const { items } = store.getState().doc;
    const list = partsIn(range).filter((p) => p.kind === "item");
    const ids = list.map((p) => p.id);
    const from = items.findIndex((i) => ids.includes(i.id));
    if (!asListed || ids.length === 0 || from + by < 0 || from + by + ids.length > items.length) return;
    store.getState().change({
      says: t`reorder items`,
      merge: `reorder ${ids.join()}`,
      apply: (d) => {
        const moving = d.items.filter((i) => ids.includes(i.id));
        const others = d.items.filter((i) => !ids.includes(i.id));
        others.splice(from + by, 0, ...moving);
        d.items = others;
      },
    });
    const moved = (p: Place) => ({ ...p, row: p.row + by });
    set({ from: moved(range.from), to: moved(range.to) });
    store.getState().select({ items: ids });
  };
  return {
    texts: () => block(true).map((row) => row.map((cell) => read(cell.part, cell.column))),
    editable: (cell) => !!cellAt(cell),
    write: (cell, text) => {
      const found = cellAt(cell);
      return !found || write(t`change ${found.column.title.toLowerCase()}`, [{ ...found, text }]).length === 0;
    },
    fill: (says, text) =>
      write(
        says,
        block().flatMap((row) => row.filter((c) => hasCell(c.part, c.column)).map((cell) => ({ ...cell, text }))),
      ).length === 0,
    fillDown: () => {
      const [first = [], ...rest] = block();
      const texts = first.map((cell) => read(cell.part, cell.column));
      write(
        t`fill down`,
        rest.flatMap((row) => row.map((cell, i) => ({ ...cell, text: texts[i]! }))),
      );
    },
    clear: () => {
      if (rangeColumns(range)[0] < 0) return remove();
      write(
        t`clear cells`,
        block().flatMap((row) => row.map((cell) => ({ ...cell, text: "" }))),
      );
    },
    // What is pasted starts at the first cell of the range; rows past the end become items.
    paste: (table) => {
      const first = rangeRows(range)[0];
      const list = parts.slice(first);
      const otherKind = list.findIndex((p) => p.kind !== list[0]?.kind);
      const into = otherKind > 0 ? list.slice(0, otherKind) : list;
      void pasteRows(store, table, { first, into, left: rangeColumns(range)[0] }, write);
    },
    others: (e) => {
      if (!e.altKey || (e.key !== "ArrowUp" && e.key !== "ArrowDown")) return false;
      reorder(e.key === "ArrowUp" ? -1 : 1);
      return true;
    },
  };
}
