import { useState, type KeyboardEvent, type RefObject } from "react";
import { flushSync } from "react-dom";
import { t } from "@lingui/core/macro";
import { useClipboard } from "../../kit/useClipboard";
import { fromTabs, toTabs } from "./tabs";
import type { Place, Range } from "./range";
import type { useRange } from "./useRange";

/** A cell being typed; start is what it begins with, where that is not what it holds. */
export type Editing = Place & { start?: string };

/** What a grid does to its cells. */
export type CellActs = {
  /** What is copied of the range. */
  texts: () => string[][];
  editable: (cell: Place) => boolean;
  /** Writes a text into one cell, or into all of a range; false when some could not take it. */
  write: (cell: Place, text: string) => boolean;
  fill: (says: string, text: string) => boolean;
  fillDown: () => void;
  clear: () => void;
  /** Takes a block of texts that begins at the first cell of the range. */
  paste: (table: string[][]) => void;
  /** Keys of this grid alone; false when it is not one. */
  others?: (e: KeyboardEvent) => boolean;
};

type Options = CellActs &
  Pick<ReturnType<typeof useRange>, "range" | "at" | "go" | "moves"> & { grid: RefObject<HTMLElement | null> };

/** Typing, filling, cut, copy and paste, the same in every grid of texts. */
export function useCells(o: Options) {
  const [editing, setEditing] = useState<Editing | null>(null);
  const begin = (start?: string) => {
    if (o.editable(o.at)) setEditing({ ...o.at, start });
  };
  useClipboard(o.grid, {
    copy: () => toTabs(o.texts()),
    cut: o.clear,
    paste: (e) => {
      const table = fromTabs(e.clipboardData?.getData("text/plain") ?? "");
      if (table.length === 1 && table[0]!.length === 1) o.fill(t`paste`, table[0]![0]!);
      else o.paste(table);
    },
  });
  const keys = (e: KeyboardEvent) => {
    if (e.target !== e.currentTarget) return;
    const command = e.ctrlKey || e.metaKey;
    if (e.key === "F2" || e.key === "Enter") begin();
    else if (e.key === "Delete" || e.key === "Backspace") o.clear();
    else if (command && e.key.toLowerCase() === "d") o.fillDown();
    else if (o.others?.(e)) {
      // it was one
    } else if (e.key.length === 1 && !command && !e.altKey) {
      // The field is there and empty before the key does what it does: it types into it.
      flushSync(() => begin(""));
      return;
    } else if (!o.moves(e)) return;
    e.preventDefault();
  };
  /** What was typed, and where to go on. On a range it goes to every cell, and the range stays. */
  const typed = (text: string | undefined, step: [number, number]) => {
    const cell = editing!;
    setEditing(null);
    // A press elsewhere ended it: the focus is where that was.
    if (step[0] || step[1] || text === undefined) o.grid.current?.focus();
    const filling = cell.start !== undefined && !isOne(o.range);
    const done = text === undefined || (filling ? o.fill(t`fill cells`, text) : o.write(cell, text));
    // Where it could not be, the cell keeps the focus and the reason stands.
    if (done && !filling && (step[0] || step[1])) {
      o.go({ row: cell.row + step[0], column: cell.column + step[1] }, false, true);
    }
  };
  return { editing, begin, keys, typed, edit: setEditing };
}

const isOne = ({ from, to }: Range) => from.row === to.row && from.column === to.column;
