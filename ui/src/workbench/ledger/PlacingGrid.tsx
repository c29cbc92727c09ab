import { useEffect, useMemo, useRef, useState } from "react";
import { useVirtualizer } from "@tanstack/react-virtual";
import { Switch } from "radix-ui";
import { engine } from "../../engine/engine";
import { nameOf, rename, takeCells, type PartID } from "../changes";
import { useDraft, useDraftStore } from "../draft";
import { Head } from "./Head";
import { ItemRow } from "./ItemRow";
import { inRange, rangeColumns, rangeRows, rowsOf, type Place, type Range } from "./rows";
import { useRange } from "./useRange";
import { cellWords } from "./words";

const rowHeight = 30;
const groupHeight = 24;

/** Which item is right in which target, or, with the switch, who is let in. */
export function PlacingGrid({ solution }: { solution: number }) {
  const store = useDraftStore();
  const { doc, known, selection } = useDraft((s) => s);
  const [letting, setLetting] = useState(false);
  const [naming, setNaming] = useState<Place | null>(null);
  const scroller = useRef<HTMLDivElement>(null);
  const grid = useRef<HTMLDivElement>(null);

  const rows = useMemo(() => rowsOf(doc), [doc]);
  // The rows of items, as the grid counts them, and where each stands among all rows.
  const items = useMemo(() => rows.flatMap((r, index) => (r.item ? [{ item: r.item, index }] : [])), [rows]);
  const right = known?.cells.right[solution] ?? {};
  const lets = known?.cells.lets ?? {};

  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: (i) => (rows[i]?.item ? rowHeight : groupHeight),
    overscan: 12,
  });

  const partsIn = (r: Range) => {
    const [a, b] = rangeRows(r);
    const [c, d] = rangeColumns(r);
    return {
      items: items.slice(Math.max(0, a), b + 1).map((x) => x.item.id),
      targets: doc.targets.slice(Math.max(0, c), d + 1).map((t) => t.id),
    };
  };
  const { range, at, go, moves, pointer } = useRange({
    rows: items.length,
    columns: doc.targets.length,
    low: { row: -1, column: -1 },
    onGo: (next) => {
      const row = items[next.to.row];
      if (row) virtual.scrollToIndex(row.index);
      store.getState().select(partsIn(next));
    },
  });

  const set = (on: boolean) => {
    const block = partsIn(range);
    if (block.items.length === 0 || block.targets.length === 0) return;
    void store.getState().queue(async () => {
      const before = store.getState().doc;
      const after = await engine.setCells(before, letting ? -1 : solution, block.items, block.targets, on);
      const what = letting ? (on ? "let in" : "turn away") : on ? "make right" : "make not right";
      store
        .getState()
        .change(takeCells(after, block.items.length * block.targets.length > 1 ? `${what}, a range` : what));
    });
  };
  const toggle = () => {
    const block = partsIn(range);
    const cells = letting ? lets : right;
    const all = block.targets.every((t) => block.items.every((i) => cells[t]?.includes(i)));
    set(!all);
  };

  const keys = (e: React.KeyboardEvent) => {
    if (e.target !== e.currentTarget) return;
    if (e.key === " ") toggle();
    else if (e.key === "Delete" || e.key === "Backspace") set(false);
    else if (e.key === "F2" || e.key === "Enter") {
      if (at.column >= 0 && at.row >= 0) return e.key === "Enter" ? toggle() : setNaming({ row: at.row, column: -1 });
      setNaming(at);
    } else if (!moves(e)) return;
    e.preventDefault();
  };

  const named = (part: PartID, name: string) => {
    setNaming(null);
    grid.current?.focus();
    if (name) store.getState().change(rename(part, name));
  };

  // What is selected on the board comes into view here.
  const firstSelected = selection.items[0];
  useEffect(() => {
    const row = items.find((x) => x.item.id === firstSelected);
    if (row) virtual.scrollToIndex(row.index);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only when another item is selected
  }, [firstSelected]);

  const columns = `minmax(140px, 1fr) repeat(${doc.targets.length}, 44px) 136px`;
  return (
    <>
      <div className="flex items-center gap-3 border-b border-line px-4 py-1.5">
        <span className="min-h-[1.4em] flex-1 text-slate" data-said>
          {cellWords({
            doc,
            item: items[at.row]?.item,
            column: at.column,
            right,
            lets,
            letting,
            block: partsIn(range),
          })}
        </span>
        <label className="flex items-center gap-2 whitespace-nowrap">
          Who is let in
          <Switch.Root
            checked={letting}
            onCheckedChange={setLetting}
            className="h-5 w-9 rounded-full border border-edge bg-mist p-px data-[state=checked]:bg-feather"
          >
            <Switch.Thumb className="block size-4 rounded-full bg-slate transition-transform data-[state=checked]:translate-x-4 data-[state=checked]:bg-on-feather" />
          </Switch.Root>
        </label>
      </div>
      <div
        ref={grid}
        role="grid"
        tabIndex={0}
        aria-label={letting ? "Items and targets: who is let in" : "Items and targets: what is right"}
        aria-multiselectable
        aria-rowcount={items.length + 1}
        aria-colcount={doc.targets.length + 2}
        aria-activedescendant={`cell-${at.row}-${at.column}`}
        onKeyDown={keys}
        onPointerLeave={() => store.getState().point({ items: [], targets: [] })}
        className="group/grid flex min-h-0 flex-1 flex-col overflow-x-auto outline-none"
      >
        <Head
          doc={doc}
          columns={columns}
          at={at}
          naming={naming}
          count={items.length}
          onGo={(column) => {
            grid.current?.focus();
            go({ row: -1, column }, false);
          }}
          onName={(column) => setNaming({ row: -1, column })}
          onNamed={(id, name) => named({ kind: "target", id }, name)}
          onPoint={(id) => store.getState().point({ items: [], targets: [id] })}
          selected={selection.targets}
        />
        <div ref={scroller} className="min-h-0 flex-1 overflow-y-auto">
          <div className="relative" style={{ height: virtual.getTotalSize() }}>
            {virtual.getVirtualItems().map((v) => {
              const row = rows[v.index]!;
              const style = { position: "absolute" as const, top: v.start, height: v.size, left: 0, right: 0 };
              if (!row.item) {
                return (
                  <div
                    key={v.key}
                    style={style}
                    className="border-b border-line/60 bg-shade px-4 text-[13px] leading-6 text-slate"
                  >
                    {row.group} · {row.count}
                  </div>
                );
              }
              const item = row.item;
              const number = items.findIndex((x) => x.item === item);
              return (
                <ItemRow
                  key={item.id}
                  item={item}
                  number={number}
                  style={{ ...style, display: "grid", gridTemplateColumns: columns }}
                  targets={doc.targets}
                  known={known !== undefined}
                  letting={letting}
                  right={right}
                  lets={lets}
                  at={at}
                  inRange={(column) => inRange(range, number, column)}
                  selected={selection.items.includes(item.id)}
                  naming={naming?.row === number && naming.column === -1}
                  onNamed={(name) => named({ kind: "item", id: item.id }, name)}
                  onDown={(column, extend) => {
                    grid.current?.focus();
                    pointer.down({ row: number, column }, extend);
                  }}
                  onOver={(column) => {
                    if (!pointer.over({ row: number, column }))
                      store
                        .getState()
                        .point({ items: [item.id], targets: column >= 0 ? [doc.targets[column]!.id] : [] });
                  }}
                  onAct={(column) => {
                    if (column < 0) setNaming({ row: number, column });
                    else toggle();
                  }}
                />
              );
            })}
          </div>
        </div>
        <div
          className="grid border-t border-line bg-shade text-[13px] text-slate"
          style={{ gridTemplateColumns: columns }}
        >
          <span className="px-4 py-1.5">holds</span>
          {doc.targets.map((t) => (
            <span
              key={t.id}
              className="border-l border-line/60 py-1.5 text-center"
              title={`${nameOf(t)} holds ${t.holds ?? "any number"}`}
            >
              {t.holds ?? "any"}
            </span>
          ))}
          <span />
        </div>
      </div>
    </>
  );
}
