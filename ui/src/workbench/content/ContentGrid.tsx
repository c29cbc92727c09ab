import { useEffect, useMemo, useRef, useState } from "react";
import { useVirtualizer } from "@tanstack/react-virtual";
import { t } from "@lingui/core/macro";
import { selectionOf, useDraft, useDraftStore } from "../model/draft";
import { useKeptScroll } from "../model/view";
import { cellAt, rangeColumns, rangeRows, type Range } from "../grid/range";
import { useCells } from "../grid/useCells";
import { useRange } from "../grid/useRange";
import { ContentHead } from "./ContentHead";
import { ContentRow } from "./ContentRow";
import { ContentTools } from "./ContentTools";
import { columnAt, columns, nameColumn } from "./columns";
import { contentRows } from "./contentRows";
import { useContentActs, useFaults } from "./useContentActs";
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
  const { faults, tell, forget } = useFaults();
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
      forget();
    },
  });

  const acts = useContentActs({
    parts: useMemo(() => parts.map((x) => x.part), [parts]),
    partsIn,
    range,
    set,
    asListed: !find && !byTag,
    tell,
  });
  const { editing, begin, keys, typed } = useCells({ grid, range, at, go, moves, ...acts });

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
