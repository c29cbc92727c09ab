import { useEffect, useRef, type ReactNode } from "react";
import { useVirtualizer } from "@tanstack/react-virtual";
import { t } from "@lingui/core/macro";
import { tip } from "../../kit/tip";
import { CellField } from "./CellField";
import { useKeptScroll } from "../model/view";

import { inRange, rangeColumns, rangeRows, type Range } from "./range";
import { useCells } from "./useCells";
import { useRange } from "./useRange";
import { useActiveCell } from "./useActiveCell";

export type GridColumn = { key: string; title: string; head?: ReactNode; width: number; number?: boolean };
export type GridRow = { id: string; name: string };
export type GridCell = { row: GridRow; column: GridColumn };
export type GridWrite = GridCell & { text: string };

type Props = {
  label: string;
  rows: GridRow[];
  columns: GridColumn[];
  /** What a cell holds; what is copied and typed over. */
  read: (cell: GridCell) => string;
  /** What a cell shows, where that is more than its text. */
  draw?: (cell: GridCell) => ReactNode;
  /** What a screen reader says of a cell. */
  say: (cell: GridCell) => string;
  write: (says: string, writes: GridWrite[]) => void;
  /** The cells that are chosen now. */
  onChosen?: (cells: GridCell[]) => void;
  /** A row to go to. */
  goTo?: string;
  onRow?: (id: string) => void;
};

const rowHeight = 30;
const nameWidth = 140;

/** A table of texts: typed, filled, copied and pasted as in a spreadsheet. */
export function TextGrid({ label, rows, columns, read, draw, say, write, onChosen, goTo, onRow }: Props) {
  const name = label.replace(/\s+/g, "-");
  const scroller = useRef<HTMLDivElement>(null);
  const grid = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 10,
  });
  useKeptScroll(scroller, label);
  const cells = (r: Range) => {
    const [a, b] = rangeRows(r);
    const [c, d] = rangeColumns(r);
    return rows.slice(a, b + 1).map((row) => columns.slice(c, d + 1).map((column) => ({ row, column })));
  };
  const { range, at, go, moves, pointer } = useRange({
    rows: rows.length,
    columns: columns.length,
    low: { row: 0, column: 0 },
    onGo: (next, byKey) => {
      if (byKey) {
        virtual.scrollToIndex(next.to.row);
        grid.current
          ?.querySelector(`[id="${name}-head-${next.to.column}"]`)
          ?.scrollIntoView({ block: "nearest", inline: "nearest" });
      }
      onChosen?.(cells(next).flat());
      const row = rows[next.to.row];
      if (row) onRow?.(row.id);
    },
  });
  useEffect(() => {
    const row = rows.findIndex((r) => r.id === goTo);
    if (goTo && row >= 0) virtual.scrollToIndex(row);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only when it is to go elsewhere
  }, [goTo]);

  const all = (says: string, text: string) =>
    write(
      says,
      cells(range)
        .flat()
        .map((c) => ({ ...c, text })),
    );
  const fillDown = () => {
    const [first = [], ...rest] = cells(range);
    write(
      t`fill down`,
      rest.flatMap((row) => row.map((c, i) => ({ ...c, text: read(first[i]!) }))),
    );
  };
  const paste = (table: string[][]) => {
    const [top] = rangeRows(range);
    const [left] = rangeColumns(range);
    write(
      t`paste ${table.length} rows`,
      table.flatMap((line, i) =>
        line.flatMap((text, j) => {
          const row = rows[top + i];
          const column = columns[left + j];
          return row && column ? [{ row, column, text }] : [];
        }),
      ),
    );
  };
  const { editing, begin, keys, typed } = useCells({
    grid,
    range,
    at,
    go,
    moves,
    texts: () => cells(range).map((row) => row.map(read)),
    editable: ({ row, column }) => !!rows[row] && !!columns[column],
    write: (cell, text) => {
      const row = rows[cell.row];
      const column = columns[cell.column];
      if (row && column && text !== read({ row, column }))
        write(t`change ${column.title.toLowerCase()}`, [{ row, column, text }]);
      return true;
    },
    fill: (says, text) => {
      all(says, text);
      return true;
    },
    fillDown,
    clear: () => all(t`clear cells`, ""),
    paste,
  });

  const template = `minmax(${nameWidth}px, 1fr) ${columns.map((c) => `${c.width}px`).join(" ")}`;
  const width = nameWidth + columns.reduce((sum, c) => sum + c.width, 0);
  useActiveCell(grid, `${name}-${at.row}-${at.column}`);
  return (
    <div ref={scroller} className="min-h-0 flex-1 overflow-auto max-lg:min-h-64 max-lg:flex-none">
      <div
        ref={grid}
        role="grid"
        aria-label={label}
        aria-rowcount={rows.length + 1}
        aria-colcount={columns.length + 1}
        tabIndex={0}
        onKeyDown={keys}
        className="group/grid relative outline-none select-none"
        style={{ minWidth: width }}
      >
        <div
          role="row"
          className="sticky top-0 z-20 grid items-end border-b border-edge bg-shade text-[13px] font-semibold"
          style={{ gridTemplateColumns: template }}
        >
          <span role="columnheader" className="sticky left-0 z-10 bg-shade px-3 py-1">
            {t`Item`}
          </span>
          {columns.map((c, i) => (
            <span
              key={c.key}
              id={`${name}-head-${i}`}
              role="columnheader"
              {...tip(c.title)}
              className="truncate px-1.5 py-1"
            >
              {c.head ?? c.title}
            </span>
          ))}
        </div>
        <div className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map((v) => {
            const row = rows[v.index]!;
            return (
              <div
                key={row.id}
                role="row"
                className="absolute inset-x-0 grid border-b border-line/70"
                style={{ gridTemplateColumns: template, height: rowHeight, top: v.start }}
              >
                <span
                  role="rowheader"
                  {...tip(row.name)}
                  className="sticky left-0 z-10 truncate bg-paper px-3 leading-7.5"
                >
                  {row.name}
                </span>
                {columns.map((column, i) => {
                  const here = at.row === v.index && at.column === i;
                  const cell = { row, column };
                  return (
                    <div
                      key={column.key}
                      id={`${name}-${v.index}-${i}`}
                      role="gridcell"
                      aria-label={say(cell)}
                      aria-selected={inRange(range, v.index, i)}
                      onPointerDown={(e) => {
                        if (e.button !== 0) return;
                        e.preventDefault();
                        grid.current?.focus();
                        pointer.down({ row: v.index, column: i }, e.shiftKey);
                      }}
                      onPointerOver={() => pointer.over({ row: v.index, column: i })}
                      onDoubleClick={() => begin()}
                      className={`flex min-w-0 cursor-cell items-center gap-1 border-l border-line/70 px-1.5 ${column.number ? "justify-end tabular-nums" : ""} ${inRange(range, v.index, i) ? "bg-feather-soft" : ""} ${here ? "outline-2 -outline-offset-2 outline-edge group-focus/grid:outline-feather" : ""}`}
                    >
                      {editing?.row === v.index && editing.column === i ? (
                        <CellField
                          label={say(cell)}
                          value={editing.start ?? read(cell)}
                          whole={editing.start === undefined}
                          onDone={typed}
                        />
                      ) : (
                        (draw?.(cell) ?? <span className="truncate">{read(cell)}</span>)
                      )}
                    </div>
                  );
                })}
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}
