import { useEffect, useRef, useState } from "react";
import type { Place, Range } from "./range";

type Options = {
  rows: number;
  columns: number;
  /** The lowest place: -1 where heads, or names before the first column, are places too. */
  low: Place;
  /** byKey: what it goes to may not be in view. */
  onGo: (range: Range, byKey: boolean) => void;
};

/** A cell in focus and the range from it, as in any grid: arrows, pages, ends, Shift, Ctrl+A, the pointer. */
export function useRange({ rows, columns, low, onGo }: Options) {
  const [chosen, setRange] = useState<Range>({ from: { row: 0, column: 0 }, to: { row: 0, column: 0 } });
  // Rows and columns can have gone since it was chosen.
  const within = ({ row, column }: Place): Place => ({
    row: Math.max(low.row, Math.min(row, rows - 1)),
    column: Math.max(low.column, Math.min(column, columns - 1)),
  });
  const range = { from: within(chosen.from), to: within(chosen.to) };
  const dragging = useRef(false);

  useEffect(() => {
    const up = () => (dragging.current = false);
    window.addEventListener("pointerup", up);
    return () => window.removeEventListener("pointerup", up);
  }, []);

  const take = (next: Range, byKey: boolean) => {
    setRange(next);
    onGo(next, byKey);
  };
  const go = (to: Place, extend: boolean, byKey = false) => {
    // A range does not run from the cells into the heads or the names.
    const floor = (low: number, from: number) => (extend && from >= 0 ? 0 : low);
    const place = {
      row: Math.min(Math.max(to.row, floor(low.row, range.from.row)), rows - 1),
      column: Math.min(Math.max(to.column, floor(low.column, range.from.column)), columns - 1),
    };
    take(extend ? { from: range.from, to: place } : { from: place, to: place }, byKey);
  };

  /** Handles a key that moves; false when it is not one. */
  const moves = (e: React.KeyboardEvent): boolean => {
    const at = range.to;
    const page = e.key === "PageDown" ? 10 : e.key === "PageUp" ? -10 : 0;
    const step = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] }[e.key];
    if ((step || page) && !e.altKey) {
      go({ row: at.row + (step?.[0] ?? page), column: at.column + (step?.[1] ?? 0) }, e.shiftKey, true);
    } else if (e.key === "Home" || e.key === "End") {
      const end = e.key === "End";
      go({ row: e.ctrlKey ? (end ? rows - 1 : 0) : at.row, column: end ? columns - 1 : 0 }, e.shiftKey, true);
    } else if (e.key.toLowerCase() === "a" && (e.ctrlKey || e.metaKey)) {
      take({ from: { row: 0, column: 0 }, to: { row: rows - 1, column: columns - 1 } }, true);
    } else if (e.key === "Escape") go(at, false);
    else return false;
    return true;
  };

  const pointer = {
    down: (place: Place, extend: boolean) => {
      dragging.current = true;
      go(place, extend);
    },
    /** Extends the range while the button is down; false when it is not. */
    over: (place: Place) => {
      if (dragging.current) go(place, true);
      return dragging.current;
    },
  };
  return { range, at: range.to, go, set: (next: Range) => take(next, true), moves, pointer };
}
