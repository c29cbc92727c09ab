import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { t } from "@lingui/core/macro";
import { rename } from "../model/changes";
import { type PartID } from "../../document/parts";
import { useDraft, useDraftStore } from "../model/draft";
import { useKeptScroll } from "../model/view";
import { Foot } from "./Foot";
import { Head } from "./Head";
import { useClipboard } from "../../kit/useClipboard";
import { useEvent } from "../../kit/useEvent";
import { useSame } from "../../kit/useSame";
import { fromTabs, toTabs } from "../grid/tabs";
import { setBlock, setCells } from "../model/key";
import { LaneStrip } from "./LaneStrip";
import { columnWidth, nameWidth, PlacingBody, type BodyHandle } from "./PlacingBody";
import { PlacingTools } from "./PlacingTools";
import { cellAt, rangeColumns, rangeRows, type Place } from "../grid/range";
import { blockOf, rowsOf } from "./rows";
import { useRange } from "../grid/useRange";
import { useSets } from "./useSets";
import { useActiveCell } from "../grid/useActiveCell";

type Props = { solution: number; compare?: number; onByItem: (on: boolean) => void };

/** Which item is right in which target, or, with the switch, who is let in. */
export function PlacingGrid({ solution, compare, onByItem }: Props) {
  const store = useDraftStore();
  const allItems = useDraft((s) => s.doc.items);
  const allTargets = useDraft((s) => s.doc.targets);
  const known = useDraft((s) => s.known !== undefined);
  const selection = useDraft((s) => s.selection);
  const [letting, setLetting] = useState(false);
  const [naming, setNaming] = useState<Place | null>(null);
  const [asked, setAsked] = useState<string>();
  const scroller = useRef<HTMLDivElement>(null);
  const grid = useRef<HTMLDivElement>(null);
  const body = useRef<BodyHandle>(null);

  useKeptScroll(scroller, "placing");
  const rows = useMemo(() => rowsOf(allItems), [allItems]);
  const sets = useSets(solution, compare);
  const { range, at, go, moves, pointer } = useRange({
    rows: rows.length,
    columns: allTargets.length,
    low: { row: -1, column: -1 },
    onGo: (next, byKey) => {
      // Under the pointer nothing may move: a second click would land elsewhere.
      if (byKey && rows[next.to.row]) body.current?.show(next.to.row, next.to.column);
      const { items, targets } = blockOf(allTargets, rows, next);
      store.getState().select({ items, targets });
    },
  });
  // What decided a move is gone to.
  const cellAsked = useDraft((s) => s.cellAsked);
  useEffect(() => {
    if (!cellAsked) return;
    const row = rows.findIndex((x) => x.item?.id === cellAsked.item);
    const column = allTargets.findIndex((target) => target.id === cellAsked.target);
    store.setState({ cellAsked: undefined });
    if (row < 0 || column < 0) return;
    go({ row, column }, false, true);
    grid.current?.focus();
    // Come from another lens, the table knows how large it is only once it is drawn.
    requestAnimationFrame(() => body.current?.show(row, column));
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only when it is asked for
  }, [cellAsked]);
  const block = useSame(blockOf(allTargets, rows, range));
  // What is selected otherwise, on the board or as whole rows, is spoken of instead of the range.
  const { items, targets } = selection;
  const elsewhere =
    items.length + targets.length > 0 &&
    (items.join() !== block.items.join() || targets.join() !== block.targets.join());
  const of = useSame(elsewhere ? { items, targets, tags: [] } : block);

  const set = (on: boolean) => setBlock(store, letting ? -1 : solution, block, on);
  const toggle = () => {
    const right = store.getState().doc.key.solutions[solution]?.right;
    const all =
      block.tags.length > 0
        ? block.targets.every((id) => block.tags.every((tag) => right?.[id]?.tags.includes(tag)))
        : block.items.every((i) => block.targets.every((id) => cells.get(i)?.has(id)));
    set(!all);
  };

  const keys = (e: React.KeyboardEvent) => {
    if (e.target !== e.currentTarget) return;
    const inCells = at.column >= 0 && at.row >= 0;
    if (e.key === " ") toggle();
    else if (e.key === "Delete" || e.key === "Backspace") set(false);
    else if (/^[0-9]$/.test(e.key) && !e.ctrlKey && !e.altKey && !e.metaKey && !letting && block.items.length > 0) {
      setAsked(e.key);
    } else if (e.key === "F2" || e.key === "Enter") {
      if (inCells) return e.key === "Enter" ? toggle() : setNaming({ row: at.row, column: -1 });
      if (at.row < 0 || rows[at.row]?.item) setNaming(at);
    } else if (!moves(e)) return;
    e.preventDefault();
  };

  const cells = letting ? sets.lets : sets.right;
  useClipboard(grid, {
    copy: () => toTabs(block.items.map((i) => block.targets.map((id) => (cells.get(i)?.has(id) ? "1" : "")))),
    cut: () => set(false),
    // What says anything but no is set; a single text sets, or clears, the whole range.
    paste: (e) => {
      const table = fromTabs(e.clipboardData?.getData("text/plain") ?? "");
      const says = (text: string) => !["", "0", "-", "no"].includes(text.trim().toLowerCase());
      if (table.length === 1 && table[0]!.length === 1) return set(says(table[0]![0]!));
      const top = Math.max(0, rangeRows(range)[0]);
      const left = Math.max(0, rangeColumns(range)[0]);
      const below = rows.slice(top).flatMap((r) => (r.item ? [r.item.id] : []));
      setCells(
        store,
        letting ? -1 : solution,
        table.flatMap((line, i) =>
          line.flatMap((text, j) => {
            const item = below[i];
            const target = allTargets[left + j]?.id;
            return item && target ? [{ item, target, on: says(text) }] : [];
          }),
        ),
      );
    },
  });

  const named = useCallback(
    (part: PartID, name: string) => {
      setNaming(null);
      grid.current?.focus();
      if (name) store.getState().change(rename(part, name));
    },
    [store],
  );
  const namedItem = useCallback((id: string, name: string) => named({ kind: "item", id }, name), [named]);
  const namedTarget = useCallback((id: string, name: string) => named({ kind: "target", id }, name), [named]);
  const nameHead = useCallback((column: number) => setNaming({ row: -1, column }), []);
  const focusGrid = useCallback(() => grid.current?.focus(), []);
  const point = useCallback((target: string) => store.getState().point({ targets: [target] }), [store]);
  const goToHead = useEvent((column: number, extend: boolean) => {
    focusGrid();
    go({ row: -1, column }, extend);
  });

  const over = (e: React.PointerEvent) => {
    const cell = cellAt(e);
    if (!cell || pointer.over(cell)) return;
    const item = rows[cell.row]?.item;
    const target = allTargets[cell.column];
    if (item) store.getState().point({ items: [item.id], targets: target ? [target.id] : [] });
  };

  // What is selected on the board comes into view here.
  const firstSelected = selection.items[0];
  const shownBefore = useRef(firstSelected);
  useEffect(() => {
    if (shownBefore.current === firstSelected) return;
    shownBefore.current = firstSelected;
    const row = rows.findIndex((x) => x.item?.id === firstSelected);
    if (row >= 0) body.current?.show(row, -1);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only when another item is selected
  }, [firstSelected]);

  const columns = `minmax(${nameWidth}px, 1fr) repeat(${allTargets.length}, ${columnWidth}px) 136px`;
  const width = nameWidth + allTargets.length * columnWidth + 136;
  useActiveCell(grid, `cell-${at.row}-${at.column}`);
  return (
    <>
      <PlacingTools
        solution={solution}
        block={of}
        letting={letting}
        onLetting={setLetting}
        byItem={false}
        onByItem={onByItem}
        asked={asked}
        onAsked={setAsked}
        onAnswered={focusGrid}
      />
      <div
        ref={grid}
        role="grid"
        tabIndex={0}
        aria-label={letting ? t`Items and targets: what is accepted` : t`Items and targets: the answer key`}
        aria-multiselectable
        aria-rowcount={rows.length + 1}
        aria-colcount={allTargets.length + 2}
        onKeyDown={keys}
        onPointerLeave={() => store.getState().point({ items: [], targets: [] })}
        className="group/grid flex min-h-0 flex-1 flex-col outline-none select-none"
      >
        <div
          ref={scroller}
          className="min-h-0 flex-1 scroll-pt-27 scroll-pb-16 scroll-pl-36 overflow-auto"
          onPointerDown={(e) => {
            const cell = cellAt(e);
            if (!cell) return;
            grid.current?.focus();
            pointer.down(cell, e.shiftKey);
          }}
          onPointerOver={over}
          onClick={(e) => {
            const item = (e.target as HTMLElement).closest<HTMLElement>("[data-must]")?.dataset.must;
            const row = rows.findIndex((r) => r.item && r.item.id === item);
            if (!item || row < 0) return;
            const many = selection.items.includes(item) ? selection.items : [item];
            go({ row, column: -1 }, false);
            store.getState().select({ items: many });
            setAsked("");
          }}
          onDoubleClick={(e) => {
            const cell = cellAt(e);
            if (!cell) return;
            if (cell.column >= 0) toggle();
            else if (rows[cell.row]?.item) setNaming(cell);
          }}
        >
          <div className="flex min-h-full flex-col" style={{ width: `max(100%, ${width}px)` }}>
            <Head
              targets={allTargets}
              columns={columns}
              at={at.row === -1 ? at.column : undefined}
              naming={naming?.row === -1 ? naming.column : undefined}
              count={allItems.length}
              onGo={goToHead}
              onName={nameHead}
              onNamed={namedTarget}
              onPoint={point}
              selected={selection.targets}
            />
            <PlacingBody
              ref={body}
              scroller={scroller}
              rows={rows}
              targets={allTargets}
              columns={columns}
              known={known}
              letting={letting}
              {...sets}
              solution={solution}
              range={range}
              selected={selection.items}
              naming={naming}
              onNamed={namedItem}
            />
            <Foot targets={allTargets} columns={columns} solution={solution} selected={selection.targets} />
          </div>
        </div>
      </div>
      <LaneStrip solution={solution} />
    </>
  );
}
