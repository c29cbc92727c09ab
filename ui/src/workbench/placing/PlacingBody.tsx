import { memo, useEffect, useImperativeHandle, useMemo, useState, type Ref, type RefObject } from "react";
import { useVirtualizer } from "@tanstack/react-virtual";
import type { Target } from "../../api/types";
import { ItemRow } from "./ItemRow";
import { TagRow } from "./TagRow";
import { rangeColumns, rangeRows, type Place, type Range } from "../grid/range";
import type { Row, RowProps } from "./rows";

const rowHeight = 30;
const groupHeight = 26;
export const nameWidth = 140;
export const columnWidth = 44;
const beside = 4; // columns drawn on each side of those in view

/** Rows come and go in blocks: most frames of a scroll then change nothing in the page. */
function inBlocks({ startIndex, endIndex, count }: { startIndex: number; endIndex: number; count: number }): number[] {
  const from = Math.max(0, (Math.floor(startIndex / block) - 1) * block);
  const to = Math.min(count, (Math.floor(endIndex / block) + 2) * block);
  return Array.from({ length: to - from }, (_, i) => from + i);
}
const block = 3;

type Sets = ReadonlyMap<string, ReadonlySet<string>>;

/** Brings a row, and a column unless it is a name, into view. */
export type BodyHandle = { show: (index: number, column: number) => void };

type Props = {
  ref: Ref<BodyHandle>;
  scroller: RefObject<HTMLDivElement | null>;
  rows: Row[];
  targets: Target[];
  columns: string;
  known: boolean;
  letting: boolean;
  right: Sets;
  lets: Sets;
  /** The tags that are right in each target as such, and the items that are an exception to it. */
  byTag: Sets;
  except: Sets;
  /** By item, the targets in which two solutions differ. */
  differs: Sets;
  /** By lane, the line of its order on which each item stands. */
  ranks: ReadonlyMap<string, ReadonlyMap<string, number>>;
  must: ReadonlyMap<string, string>;
  solution: number;
  range: Range;
  selected: string[];
  naming: Place | null;
  onNamed: (item: string, name: string) => void;
};

/** The rows and cells that are in view, of however many there are. */
export const PlacingBody = memo(function PlacingBody(p: Props) {
  const { scroller, rows, targets } = p;
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: (i) => (rows[i]?.item ? rowHeight : groupHeight),
    overscan: 0,
    rangeExtractor: inBlocks,
    // The rows begin below the heads, which are as high, and the foot lies over the last ones.
    scrollPaddingEnd: 105 + 62,
  });
  const [first, last] = useColumns(scroller, targets.length);
  useImperativeHandle(p.ref, () => ({
    show: (index, column) => {
      virtual.scrollToIndex(index);
      const s = scroller.current;
      if (!s || column < 0) return;
      const left = column * columnWidth;
      if (s.scrollLeft > left) s.scrollLeft = left;
      else if (s.scrollLeft + s.clientWidth - nameWidth < left + columnWidth) {
        s.scrollLeft = left + columnWidth - s.clientWidth + nameWidth;
      }
    },
  }));
  const chosen = useMemo(() => new Set(p.selected), [p.selected]);
  const [top, bottom] = rangeRows(p.range);
  const [from, to] = rangeColumns(p.range);
  return (
    <div className="relative" style={{ height: virtual.getTotalSize() }}>
      {virtual.getVirtualItems().map((v) => {
        const row = rows[v.index]!;
        const reached = v.index >= top && v.index <= bottom;
        const common: RowProps = {
          number: v.index,
          top: v.start,
          height: v.size,
          columns: p.columns,
          targets,
          first,
          last,
          letting: p.letting,
          at: p.range.to.row === v.index ? p.range.to.column : undefined,
          from: reached ? from : undefined,
          to: reached ? to : undefined,
        };
        if (!row.item) return <TagRow key={v.key} {...common} tag={row.tag} count={row.count} right={p.byTag} />;
        const { item } = row;
        return (
          <ItemRow
            key={item.id}
            {...common}
            item={item}
            known={p.known}
            right={p.right.get(item.id)}
            lets={p.lets.get(item.id)}
            except={p.except}
            differs={p.differs.get(item.id)}
            ranks={p.ranks}
            must={p.must.get(item.id) ?? ""}
            solution={p.solution}
            selected={chosen.has(item.id)}
            naming={p.naming?.row === v.index && p.naming.column === -1}
            onNamed={p.onNamed}
          />
        );
      })}
    </div>
  );
});

/** The columns in view with some beside them, in steps, so that a row changes seldom. */
function useColumns(scroller: RefObject<HTMLDivElement | null>, count: number): [number, number] {
  const [seen, setSeen] = useState<[number, number]>([0, 30]);
  useEffect(() => {
    const s = scroller.current;
    if (!s) return;
    const look = () => {
      const first = Math.floor(s.scrollLeft / columnWidth / beside) * beside - beside;
      const last = first + Math.ceil(s.clientWidth / columnWidth / beside) * beside + 2 * beside;
      setSeen((was) => (was[0] === first && was[1] === last ? was : [first, last]));
    };
    look();
    s.addEventListener("scroll", look, { passive: true });
    const observer = new ResizeObserver(look);
    observer.observe(s);
    return () => {
      s.removeEventListener("scroll", look);
      observer.disconnect();
    };
  }, [scroller, count]);
  return [Math.max(0, seen[0]), Math.min(count - 1, seen[1])];
}
