import { useEffect, useMemo, useRef, useState } from "react";
import { useVirtualizer } from "@tanstack/react-virtual";
import { t } from "@lingui/core/macro";
import { partsOf, selectionOf, useDraft, useDraftStore } from "../model/draft";
import { useKeptScroll } from "../model/view";
import { cellAt, rangeColumns, rangeRows, type Place, type Range } from "../grid/range";
import { useCells } from "../grid/useCells";
import { useRange } from "../grid/useRange";
import { ContentHead } from "./ContentHead";
import { ContentRow } from "./ContentRow";
import { ContentTools } from "./ContentTools";
import { columnAt, columns, hasCell, nameColumn, readCell, writeCells, type Write } from "./columns";
import { contentRows } from "./contentRows";
import { cellSaid } from "./words";
import { useActiveCell } from "../grid/useActiveCell";
import { useEvent } from "../../kit/useEvent";

const rowHeight = 30;
const width = nameColumn.width + columns.reduce((sum, c) => sum + c.width, 0);
const template = `${nameColumn.width}px ${columns.map((c) => `${c.width}px`).join(" ")}`;

/** Everything that items and targets are, as a table: typed, filled, copied and pasted. */
export function ContentGrid() {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  const selection = useDraft((s) => s.selection);
  const remark = useDraft((s) => s.remark);
  const [find, setFind] = useState("");
  const [byTag, setByTag] = useState(false);
  const [faults, setFaults] = useState<string[]>([]);
  const faultsAreNew = useRef(false);
  const scroller = useRef<HTMLDivElement>(null);
  const grid = useRef<HTMLDivElement>(null);

  const rows = useMemo(() => contentRows(doc, find, byTag), [doc, find, byTag]);
  const parts = useMemo(() => rows.flatMap((r, index) => (r.part ? [{ part: r.part, index }] : [])), [rows]);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 10,
  });

  useKeptScroll(scroller, "content"); // after the virtualizer, which begins at the top

  const partsIn = (r: Range) => {
    const [a, b] = rangeRows(r);
    return parts.slice(Math.max(0, a), b + 1).map((x) => x.part);
  };
  const { range, at, go, set, moves, pointer } = useRange({
    rows: parts.length,
    columns: columns.length,
    low: { row: 0, column: -1 },
    onGo: (next) => {
      const row = parts[next.to.row];
      if (row) virtual.scrollToIndex(row.index);
      scroller.current
        ?.querySelector(`[id="content-head-${next.to.column}"]`)
        ?.scrollIntoView({ block: "nearest", inline: "nearest" });
      store.getState().select(selectionOf(partsIn(next)));
      if (!faultsAreNew.current) setFaults([]);
    },
  });

  /** The cells of the range, row by row. Whole: with names alone as range, all cells of their rows. */
  const block = (whole = false) => {
    const [c, last] = rangeColumns(range);
    const d = whole && last < 0 ? columns.length - 1 : last;
    const wide = Array.from({ length: d - c + 1 }, (_, i) => columnAt(c + i)!);
    return partsIn(range).map((part) => wide.map((column) => ({ part, column })));
  };
  /** Writes cells in one step; false when some could not be. */
  const write = (says: string, writes: Write[], merge?: string) => {
    const { change, acts, faults } = writeCells(store.getState().doc, says, writes);
    const step = merge ?? (acts.length > 0 ? `${says} ${Date.now()}` : undefined);
    if (writes.some((w) => !w.column.item?.act)) store.getState().change({ ...change, merge: step });
    for (const act of acts) void store.getState().edit(says, act, step);
    setFaults(faults);
    // The press that ended the typing may go elsewhere, and the reason stays.
    faultsAreNew.current = true;
    queueMicrotask(() => (faultsAreNew.current = false));
    return faults.length === 0;
  };
  const clear = () => {
    if (rangeColumns(range)[0] < 0) return remove();
    write(
      t`clear cells`,
      block().flatMap((row) => row.map((cell) => ({ ...cell, text: "" }))),
    );
  };
  const fillDown = () => {
    const [first = [], ...rest] = block();
    const texts = first.map((cell) => readCell(doc, cell.part, cell.column) ?? "");
    write(
      t`fill down`,
      rest.flatMap((row) => row.map((cell, i) => ({ ...cell, text: texts[i]! }))),
    );
  };
  const remove = () => {
    const list = partsIn(range);
    void store.getState().edit(list.length === 1 ? t`delete a part` : t`delete ${list.length} parts`, {
      act: "remove",
      parts: selectionOf(list),
    });
  };
  const reorder = (by: number) => {
    const list = partsIn(range).filter((p) => p.kind === "item");
    const ids = list.map((p) => p.id);
    const from = doc.items.findIndex((i) => ids.includes(i.id));
    // Only where the rows are all the items in their order, so that what is seen is what moves.
    if (find || byTag || ids.length === 0 || from + by < 0 || from + by + ids.length > doc.items.length) return;
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

  /** What is pasted starts at the first cell of the range; rows past the end become items. */
  const paste = async (table: string[][]) => {
    const top = rangeRows(range)[0];
    const left = rangeColumns(range)[0];
    let list = parts.slice(top).map((x) => x.part);
    const sameKind = list.findIndex((p) => p.kind !== list[0]?.kind);
    if (sameKind > 0) list = list.slice(0, sameKind);
    const more = table.slice(list.length).map((row) => (left < 0 ? (row[0] ?? "") : ""));
    const merge = `paste ${Date.now()}`; // new items and their cells are one step
    if (more.length > 0 && (list[0]?.kind ?? "item") === "item") {
      const made = await store
        .getState()
        .edit(t`paste ${table.length} rows`, { act: "addItems", own: true, names: more }, merge);
      list = [...list, ...(made ? partsOf(made) : [])];
    }
    const writes = table.flatMap((row, i) =>
      row.flatMap((text, j) => {
        const column = columnAt(left + j);
        const part = list[i];
        return part && column && hasCell(part, column) ? [{ part, column, text }] : [];
      }),
    );
    write(t`paste ${table.length} rows`, writes, merge);
  };

  const cellsAt = (cell: Place) => {
    const part = parts[cell.row]?.part;
    const column = columnAt(cell.column);
    return part && column && hasCell(part, column) ? { part, column } : undefined;
  };
  const { editing, begin, keys, typed } = useCells({
    grid,
    range,
    at,
    go,
    moves,
    texts: () => block(true).map((row) => row.map((cell) => readCell(doc, cell.part, cell.column) ?? "")),
    editable: (cell) => !!cellsAt(cell),
    write: (cell, text) => {
      const found = cellsAt(cell);
      return !found || write(t`change ${found.column.title.toLowerCase()}`, [{ ...found, text }]);
    },
    fill: (says, text) =>
      write(
        says,
        block().flatMap((row) => row.filter((c) => hasCell(c.part, c.column)).map((cell) => ({ ...cell, text }))),
      ),
    fillDown,
    clear,
    paste: (table) => void paste(table),
    others: (e) => {
      if (!e.altKey || (e.key !== "ArrowUp" && e.key !== "ArrowDown")) return false;
      reorder(e.key === "ArrowUp" ? -1 : 1);
      return true;
    },
  });

  const onTyped = useEvent(typed);
  const [top, bottom] = rangeRows(range);
  const [left, right] = rangeColumns(range);

  // What is selected on the board comes into view here.
  const first = selection.items[0] ?? selection.targets[0];
  const shownBefore = useRef(first);
  useEffect(() => {
    if (shownBefore.current === first) return;
    shownBefore.current = first;
    const row = parts.find((x) => x.part.id === first);
    if (row) virtual.scrollToIndex(row.index);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only when another part is selected
  }, [first]);

  // Files that come while cards are chosen are theirs.
  const cards = left === right && columnAt(left)?.key === "card";
  useEffect(() => {
    store.setState({ cards });
    return () => store.setState({ cards: false });
  }, [store, cards]);

  useActiveCell(grid, `content-${at.row}-${at.column}`);
  return (
    <>
      <ContentTools
        find={find}
        onFind={setFind}
        byTag={byTag}
        onByTag={setByTag}
        said={
          faults.length > 0
            ? faultWords(faults)
            : remark || cellSaid(doc, parts[at.row]?.part, at.column, partsIn(range).length)
        }
        wrong={faults.length > 0}
      />
      <div
        ref={(e) => {
          grid.current = e;
          scroller.current = e;
        }}
        role="grid"
        tabIndex={0}
        aria-label={t`Content: items and targets`}
        aria-multiselectable
        aria-rowcount={parts.length + 1}
        aria-colcount={columns.length + 1}
        onKeyDown={keys}
        onPointerDown={(e) => {
          const cell = cellAt(e);
          if (!cell) return;
          grid.current?.focus();
          pointer.down(cell, e.shiftKey);
        }}
        onPointerOver={(e) => {
          const cell = cellAt(e);
          const part = cell && parts[cell.row]?.part;
          if (part && !pointer.over(cell)) store.getState().point(selectionOf([part]));
        }}
        onPointerLeave={() => store.getState().point({ items: [], targets: [] })}
        onDoubleClick={(e) => cellAt(e) && begin()}
        className="group/grid min-h-0 flex-1 overflow-auto outline-none select-none"
      >
        <ContentHead template={template} />
        <div role="rowgroup" className="relative" style={{ height: virtual.getTotalSize(), width }}>
          {virtual.getVirtualItems().map((v) => {
            const row = rows[v.index]!;
            if (!row.part) {
              return (
                <div key={v.key} className="absolute inset-x-0" style={{ top: v.start, height: v.size }} role="row">
                  <span
                    role="gridcell"
                    className="sticky left-0 px-4 text-[13px] whitespace-nowrap leading-[30px] font-semibold text-slate"
                  >
                    {row.title}
                  </span>
                </div>
              );
            }
            const { part, number } = row;
            const reached = number >= top && number <= bottom;
            const here = editing?.row === number ? editing : undefined;
            return (
              <ContentRow
                key={`${part.kind}-${part.id}`}
                kind={part.kind}
                id={part.id}
                number={number}
                template={template}
                top={v.start}
                height={v.size}
                from={reached ? left : undefined}
                to={reached ? right : undefined}
                at={at.row === number ? at.column : undefined}
                typing={here?.column}
                start={here?.start}
                onTyped={onTyped}
              />
            );
          })}
        </div>
      </div>
    </>
  );
}

const faultWords = (faults: string[]) =>
  faults.length > 1
    ? t`${faults[0]!}. ${faults.length - 1} more. They are left as they were.`
    : t`${faults[0]!}. It is left as it was.`;
