import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { Switch } from "radix-ui";
import { engine } from "../../engine/engine";
import { nameOf, rename, takeCells, type PartID } from "../changes";
import { useDraft, useDraftStore } from "../draft";
import { Head } from "./Head";
import { columnWidth, nameWidth, PlacingBody, type BodyHandle } from "./PlacingBody";
import { rangeColumns, rangeRows, rowsOf, type Place, type Range } from "./rows";
import { useKeptScroll } from "../view";
import { useRange } from "./useRange";
import { cellWords } from "./words";

const empty: Record<string, string[]> = {};

/** Which item is right in which target, or, with the switch, who is let in. */
export function PlacingGrid({ solution }: { solution: number }) {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  const known = useDraft((s) => s.known);
  const selection = useDraft((s) => s.selection);
  const [letting, setLetting] = useState(false);
  const [naming, setNaming] = useState<Place | null>(null);
  const scroller = useRef<HTMLDivElement>(null);
  const grid = useRef<HTMLDivElement>(null);
  const body = useRef<BodyHandle>(null);

  useKeptScroll(scroller, "placing");
  const rows = useMemo(() => rowsOf(doc), [doc]);
  // The rows of items, as the grid counts them, and where each stands among all rows.
  const items = useMemo(() => rows.flatMap((r, index) => (r.item ? [{ item: r.item, index }] : [])), [rows]);
  const right = known?.cells.right[solution] ?? empty;
  const lets = known?.cells.lets ?? empty;
  const rightOf = useMemo(() => byItem(right), [right]);
  const letsOf = useMemo(() => byItem(lets), [lets]);

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
      if (row) body.current?.show(row.index, next.to.column);
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

  const named = useCallback(
    (part: PartID, name: string) => {
      setNaming(null);
      grid.current?.focus();
      if (name) store.getState().change(rename(part, name));
    },
    [store],
  );
  const namedItem = useCallback((id: string, name: string) => named({ kind: "item", id }, name), [named]);

  /** The cell that an event is over, and what is done to it. */
  const cellAt = (e: { target: EventTarget }) => {
    const at = (e.target as HTMLElement).closest<HTMLElement>("[data-cell]")?.dataset.cell?.split(" ").map(Number);
    return at && { row: at[0]!, column: at[1]! };
  };
  const over = (e: React.PointerEvent) => {
    const cell = cellAt(e);
    if (!cell || pointer.over(cell)) return;
    const item = items[cell.row]?.item;
    const target = doc.targets[cell.column];
    if (item) store.getState().point({ items: [item.id], targets: target ? [target.id] : [] });
  };

  // What is selected on the board comes into view here.
  const firstSelected = selection.items[0];
  const shownBefore = useRef(firstSelected);
  useEffect(() => {
    if (shownBefore.current === firstSelected) return;
    shownBefore.current = firstSelected;
    const row = items.find((x) => x.item.id === firstSelected);
    if (row) body.current?.show(row.index, -1);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only when another item is selected
  }, [firstSelected]);

  const columns = `minmax(${nameWidth}px, 1fr) repeat(${doc.targets.length}, ${columnWidth}px) 136px`;
  const width = nameWidth + doc.targets.length * columnWidth + 136;
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
        className="group/grid flex min-h-0 flex-1 flex-col outline-none"
      >
        <div
          ref={scroller}
          className="min-h-0 flex-1 overflow-auto"
          onPointerDown={(e) => {
            const cell = cellAt(e);
            if (!cell) return;
            grid.current?.focus();
            pointer.down(cell, e.shiftKey);
          }}
          onPointerOver={over}
          onDoubleClick={(e) => {
            const cell = cellAt(e);
            if (!cell) return;
            if (cell.column < 0) setNaming(cell);
            else toggle();
          }}
        >
          <div className="flex min-h-full flex-col" style={{ width: `max(100%, ${width}px)` }}>
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
            <PlacingBody
              ref={body}
              scroller={scroller}
              rows={rows}
              targets={doc.targets}
              columns={columns}
              known={known !== undefined}
              letting={letting}
              right={rightOf}
              lets={letsOf}
              range={range}
              selected={selection.items}
              naming={naming}
              onNamed={namedItem}
            />
            <div
              className="sticky bottom-0 z-20 mt-auto grid border-t border-line bg-shade text-[13px] text-slate"
              style={{ gridTemplateColumns: columns }}
            >
              <span className="sticky left-0 bg-shade px-4 py-1.5">holds</span>
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
        </div>
      </div>
    </>
  );
}

/** The targets of each item, from the items of each target. */
function byItem(cells: Record<string, string[]>): ReadonlyMap<string, ReadonlySet<string>> {
  const out = new Map<string, Set<string>>();
  for (const [target, list] of Object.entries(cells)) {
    for (const item of list) {
      const set = out.get(item) ?? new Set();
      out.set(item, set.add(target));
    }
  }
  return out;
}
