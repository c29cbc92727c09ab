import { useMemo, useState } from "react";
import { t } from "@lingui/core/macro";
import type { Doc } from "../../api/types";
import { BandsBar } from "../../kit/BandsBar";
import { nameOf } from "../../document/parts";
import { useDraft, useDraftStore } from "../model/draft";
import { numbered } from "../model/key";
import { TextGrid, type GridCell, type GridColumn, type GridWrite } from "../grid/TextGrid";
import { cellWords, readPoints, writeCell } from "./cells";
import { Examples } from "./Examples";
import { MarksFields } from "./MarksFields";

/** What it scores: points and penalties by item and by cell, how they add up, and what that comes to. */
export function MarksLens() {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  const lets = useDraft((s) => s.known?.cells.lets);
  const [fault, setFault] = useState("");
  const byTarget = doc.marks.by === "target" || doc.marks.by === "order";
  const columns = useMemo<GridColumn[]>(
    () => [
      { key: "weight", title: t`Points`, width: 64, number: true },
      { key: "penalty", title: t`Penalty`, width: 68, number: true },
      ...doc.targets.map((target, i) => ({
        key: `in ${target.id}`,
        title: t`In ${numbered(doc, target.id)}`,
        head: String(i + 1),
        width: 58,
        number: true,
      })),
    ],
    [doc],
  );
  const rows = useMemo(
    () => [
      ...doc.items.map((i) => ({ id: i.id, name: nameOf(i) })),
      // Where targets count as such, they have points of their own.
      ...(byTarget
        ? doc.targets.map((target) => ({ id: `target ${target.id}`, name: t`Target ${numbered(doc, target.id)}` }))
        : []),
    ],
    [doc, byTarget],
  );
  const read = ({ row, column }: GridCell) => {
    if (row.id.startsWith("target ")) {
      const target = doc.targets.find((x) => x.id === row.id.slice(7));
      return column.key === "weight" ? String(target?.weight ?? "") : "";
    }
    const item = doc.items.find((i) => i.id === row.id);
    if (!item) return "";
    if (column.key === "weight") return String(item.weight);
    if (column.key === "penalty") return String(item.penalty);
    return cellWords(doc.marks.cells[`${item.id}/${column.key.slice(3)}`]);
  };
  const write = (says: string, writes: GridWrite[]) => {
    const faults = writes.flatMap((w) => (readPoints(w.text, w.column.key) ? [] : [w.text]));
    store
      .getState()
      .change({ says, apply: (d) => writes.forEach((w) => writeCell(d, w.row.id, w.column.key, w.text)) });
    setFault(
      faults.length > 0
        ? t`“${faults[0]!}” could not be read: points are whole numbers from 0 to 1000; in a target also a penalty, like “2 -1”.`
        : "",
    );
  };
  return (
    <div className="flex min-h-0 flex-1 flex-col max-lg:overflow-auto">
      <MarksFields />
      <BandsBar
        {...doc.marks}
        onBands={(says, apply, merge) => store.getState().change({ says, merge, apply: (d) => apply(d.marks.bands) })}
        onPass={(n) =>
          store
            .getState()
            .change({ says: t`move the pass mark`, merge: "pass-mark", apply: (d) => void (d.marks.passMark = n) })
        }
      />
      {fault && (
        <p role="status" className="border-b border-line px-4 py-1 text-ember">
          {fault}
        </p>
      )}
      <TextGrid
        label={t`Marks`}
        rows={rows}
        columns={columns}
        read={read}
        draw={(cell) => {
          const text = read(cell);
          if (cell.row.id.startsWith("target ")) return <span className="truncate">{text}</span>;
          if (!cell.column.key.startsWith("in "))
            return text === "0" ? <span className="text-edge">0</span> : <span>{text}</span>;
          const target = cell.column.key.slice(3);
          if (lets && !lets[target]?.includes(cell.row.id))
            return <span className="hatched absolute inset-0" aria-hidden />;
          return text ? <b>{text}</b> : <span className="text-edge">·</span>;
        }}
        say={(cell) => sayCell(doc, cell, read(cell))}
        write={write}
        onChosen={(cells) =>
          store.getState().select({
            items: [...new Set(cells.map((c) => c.row.id))].filter((id) => !id.startsWith("target ")),
            targets: [
              ...new Set(cells.flatMap((c) => (c.column.key.startsWith("in ") ? [c.column.key.slice(3)] : []))),
            ],
          })
        }
      />
      <Examples />
    </div>
  );
}

function sayCell(doc: Doc, { row, column }: GridCell, text: string): string {
  if (!column.key.startsWith("in ")) return `${row.name}, ${column.title.toLowerCase()}: ${text || t`none`}`;
  return t`${row.name} in ${numbered(doc, column.key.slice(3))}: ${text || t`same as item`}`;
}
