import { useMemo, useRef, useState } from "react";
import { X } from "lucide-react";
import { t } from "@lingui/core/macro";
import type { Doc, Item } from "../../api/types";
import { Button } from "../../kit/Button";
import { useClipboard } from "../../kit/useClipboard";
import { tip } from "../../kit/tip";
import { nameOf } from "../../document/parts";
import { toTabs } from "../grid/tabs";
import { useDraft, useDraftStore } from "../model/draft";
import { useKeptScroll } from "../model/view";
import { pair, setBlock } from "../model/key";
import { PlacingTools } from "./PlacingTools";
import { useSets } from "./useSets";

type Props = { solution: number; onByItem: (on: boolean) => void };

const nothing = () => {};
const folded = (s: string) => s.trim().toLocaleLowerCase();

/** The target that a text means: its name, its number, or what its name begins with or has in it. */
function targetBy(doc: Doc, text: string) {
  const key = folded(text);
  if (!key) return undefined;
  return (
    doc.targets.find((x) => folded(nameOf(x)) === key) ??
    doc.targets[/^\d+$/.test(key) ? Number(key) - 1 : -1] ??
    doc.targets.find((x) => folded(nameOf(x)).startsWith(key)) ??
    doc.targets.find((x) => folded(nameOf(x)).includes(key)) ??
    doc.targets.find((x) => folded(x.label.text).includes(key))
  );
}

/** One row an item, with the targets in which it is right: for matching, labelling, and many targets. */
export function ByItem({ solution, onByItem }: Props) {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  const selection = useDraft((s) => s.selection);
  const sets = useSets(solution);
  const scroller = useRef<HTMLDivElement>(null);
  const [at, setAt] = useState(0);
  const [unread, setUnread] = useState("");
  const [asked, setAsked] = useState<string>();
  useKeptScroll(scroller, "byItem");

  const put = (says: string, rows: { item: string; targets: string[] }[]) =>
    void store.getState().edit(says, { act: "rightIn", solution, rows });
  /** One more place or one fewer, whatever an act that is still under way makes of the rest. */
  const turn = (item: Item, target: string, on: boolean) =>
    setBlock(store, solution, { items: [item.id], targets: [target], tags: [] }, on);
  const rightIn = (item: Item) =>
    doc.targets.filter((target) => sets.right.get(item.id)?.has(target.id)).map((target) => target.id);
  const chosen = doc.items.filter((i) => selection.items.includes(i.id));

  const focus = (row: number) => {
    const to = Math.max(0, Math.min(row, doc.items.length - 1));
    setAt(to);
    scroller.current?.querySelector<HTMLElement>(`[data-row="${to}"] input`)?.focus();
  };
  const select = (row: number, extend: boolean) => {
    const from = extend ? Math.min(at, row) : row;
    const to = extend ? Math.max(at, row) : row;
    if (!extend) setAt(row);
    store.getState().select({ items: doc.items.slice(from, to + 1).map((i) => i.id) });
  };
  const fillDown = () => {
    const rows = chosen.length > 1 ? chosen : doc.items.slice(at - 1, at + 1);
    const [first, ...rest] = rows;
    if (!first || rest.length === 0) return;
    put(
      t`fill ${rest.length} down`,
      rest.map((i) => ({ item: i.id, targets: rightIn(first) })),
    );
  };
  /** Two columns, names and places; or one, of places from the row in focus on. */
  const paste = (text: string) => {
    const lines = text.replace(/\r?\n$/, "").split(/\r?\n/);
    const bad: string[] = [];
    const rows: { item: string; targets: string[] }[] = [];
    lines.forEach((line, i) => {
      const cells = line.split("\t");
      const item =
        cells.length > 1 ? doc.items.find((x) => folded(nameOf(x)) === folded(cells[0]!)) : doc.items[at + i];
      const names = (cells[1] ?? cells[0]!).split(/[;,]/).filter((s) => s.trim());
      const targets = names.map((n) => targetBy(doc, n)?.id);
      if (!item || targets.includes(undefined)) bad.push(String(i + 1));
      else rows.push({ item: item.id, targets: targets as string[] });
    });
    setUnread(
      bad.length > 0
        ? bad.length === 1
          ? t`Line ${bad.join(", ")} skipped: unknown item or target. The others were imported.`
          : t`Lines ${bad.join(", ")} skipped: unknown item or target. The others were imported.`
        : "",
    );
    if (rows.length > 0) put(t`paste ${rows.length} places`, rows);
  };
  useClipboard(scroller, {
    copy: () =>
      toTabs(
        (chosen.length > 0 ? chosen : doc.items.slice(at, at + 1)).map((i) => [
          nameOf(i),
          rightIn(i)
            .map((id) => nameOf(doc.targets.find((target) => target.id === id)))
            .join("; "),
        ]),
      ),
    paste: (e) => paste(e.clipboardData?.getData("text/plain") ?? ""),
    // One name goes into the field; a list goes to the rows.
    pasteInField: (text) => {
      if (!/[\t\n]/.test(text)) return false;
      paste(text);
      return true;
    },
  });
  const block = useMemo(() => ({ items: selection.items, targets: selection.targets, tags: [] }), [selection]);
  const taken = useMemo(
    () =>
      new Set(
        doc.targets.flatMap((target) =>
          doc.items.some((i) => sets.right.get(i.id)?.has(target.id)) ? [target.id] : [],
        ),
      ),
    [doc, sets],
  );

  return (
    <>
      <PlacingTools
        solution={solution}
        block={block}
        letting={false}
        onLetting={nothing}
        byItem
        onByItem={onByItem}
        asked={asked}
        onAsked={setAsked}
      />
      <div className="flex flex-wrap items-center gap-2 border-b border-line px-4 py-1.5">
        <Button
          {...tip(t`Items and targets in the order of the document: those selected, or all`)}
          onClick={() => pair(store, solution)}
        >
          {t`Match in order`}
        </Button>
        <span className="min-w-0 flex-1 text-[13px] text-slate">
          {unread ||
            t`Type a target’s name or number. Ctrl+D fills down. You can paste two columns: items and targets.`}
        </span>
      </div>
      <datalist id="targets-by-name">
        {doc.targets.map((target, i) => (
          <option key={target.id} value={nameOf(target)}>
            {taken.has(target.id) ? i + 1 : t`${i + 1}, free`}
          </option>
        ))}
      </datalist>
      <div
        ref={scroller}
        className="min-h-0 flex-1 overflow-auto"
        role="grid"
        aria-label={t`Items and where they are correct`}
        onKeyDown={(e) => {
          if (e.key.toLowerCase() === "d" && (e.ctrlKey || e.metaKey)) {
            e.preventDefault();
            fillDown();
          }
        }}
      >
        {doc.items.map((item, row) => (
          <div
            key={item.id}
            role="row"
            data-row={row}
            className={`grid grid-cols-[minmax(9rem,2fr)_3fr_8rem] items-center border-b border-line ${selection.items.includes(item.id) ? "bg-feather-soft" : ""}`}
          >
            <button
              type="button"
              role="rowheader"
              tabIndex={-1}
              onPointerDown={(e) => select(row, e.shiftKey)}
              className="truncate py-1.5 pl-4 text-left"
            >
              {nameOf(item)}
            </button>
            <span role="gridcell" className="flex min-w-0 flex-wrap items-center gap-1 py-1">
              {rightIn(item).map((id) => {
                const i = doc.targets.findIndex((target) => target.id === id);
                return (
                  <span
                    key={id}
                    data-chip={id}
                    className="flex items-center gap-1 rounded-[3px] border border-edge bg-well py-0.5 pl-1"
                  >
                    <em className="rounded-[3px] bg-slate px-1 text-[11px] text-paper not-italic">{i + 1}</em>
                    {nameOf(doc.targets[i])}
                    <button
                      type="button"
                      tabIndex={-1}
                      aria-label={t`${nameOf(item)} is not correct in ${nameOf(doc.targets[i])}`}
                      className="grid size-5 place-items-center text-slate hover:text-ink"
                      onClick={() => turn(item, id, false)}
                    >
                      <X size={12} />
                    </button>
                  </span>
                );
              })}
              <input
                list="targets-by-name"
                aria-label={t`${nameOf(item)} is correct in`}
                placeholder={rightIn(item).length === 0 ? t`belongs in…` : ""}
                onFocus={() => select(row, false)}
                onKeyDown={(e) => {
                  const field = e.currentTarget;
                  const add = () => {
                    const target = targetBy(doc, field.value);
                    if (target) turn(item, target.id, true);
                    setUnread(target || !field.value ? "" : t`No target is called “${field.value}”.`);
                    return !!target || !field.value;
                  };
                  if (e.key === "Enter" || e.key === ";") {
                    e.preventDefault();
                    if (add()) {
                      field.value = "";
                      if (e.key === "Enter") focus(row + 1);
                    }
                  } else if (e.key === "ArrowDown" && !field.value) focus(row + 1);
                  else if (e.key === "ArrowUp" && !field.value) focus(row - 1);
                  else if (e.key === "Backspace" && !field.value) {
                    const last = rightIn(item).at(-1);
                    if (last) turn(item, last, false);
                  }
                }}
                className="h-7 min-w-20 flex-1 rounded-(--radius) bg-transparent px-1.5 outline-offset-0"
              />
            </span>
            <span className="truncate px-2 text-[13px] text-slate" {...tip(sets.must.get(item.id))}>
              {sets.must.get(item.id)}
            </span>
          </div>
        ))}
      </div>
    </>
  );
}
