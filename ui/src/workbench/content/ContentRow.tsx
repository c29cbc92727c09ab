import type { CSSProperties } from "react";
import type { Doc } from "../../api/types";
import { mediaURL } from "../../shared/mediaURL";
import { itemOf, nameOf, targetOf, type PartID } from "../changes";
import { inRange, type Range } from "../ledger/rows";
import { CellField } from "./CellField";
import { columnAt, columns, readCell } from "./columns";

type Props = {
  doc: Doc;
  part: PartID;
  number: number;
  template: string;
  style: CSSProperties;
  range: Range;
  editing: { column: number; start?: string } | null;
  onTyped: (text: string | undefined, step: [number, number]) => void;
  onDown: (column: number, extend: boolean) => void;
  onOver: (column: number) => void;
  onEdit: () => void;
};

/** One item or target with what it is, cell by cell. */
export function ContentRow(p: Props) {
  const item = p.part.kind === "item" ? itemOf(p.doc, p.part.id) : undefined;
  const found = item ?? targetOf(p.doc, p.part.id);
  const name = nameOf(found);
  const cell = (index: number) => {
    const column = columnAt(index)!;
    const text = readCell(p.doc, p.part, column);
    const here = p.range.to.row === p.number && p.range.to.column === index;
    const editing = p.editing?.column === index ? p.editing : null;
    const ranged = inRange(p.range, p.number, index) || inRange(p.range, p.number, -1);
    const missing = index >= 0 && column.key === "alt" && item?.picture && !item.alt && !item.text;
    return (
      <div
        key={column.key}
        id={`content-${p.number}-${index}`}
        role={index < 0 ? "rowheader" : "gridcell"}
        aria-selected={ranged}
        aria-label={`${name}, ${column[p.part.kind]?.name ?? column.title}: ${text === undefined ? "not applicable" : text || "empty"}`}
        onPointerDown={(e) => !editing && p.onDown(index, e.shiftKey)}
        onPointerEnter={() => p.onOver(index)}
        onDoubleClick={p.onEdit}
        className={`flex min-w-0 cursor-default items-center gap-2 border-b border-line/60 ${index < 0 ? "sticky left-0 z-10 pl-4" : "border-l px-2"} ${
          ranged ? "bg-feather-soft" : text === undefined ? "bg-shade" : "bg-paper"
        } ${here ? "outline-2 -outline-offset-2 outline-edge group-focus/grid:outline-feather" : ""} ${column.number ? "justify-end tabular-nums" : ""}`}
      >
        {index < 0 && item && <Face picture={item.picture} />}
        {editing ? (
          <CellField
            label={`${name}, ${column.title}`}
            value={editing.start ?? text ?? ""}
            whole={editing.start === undefined}
            onDone={p.onTyped}
          />
        ) : (
          <span className={`truncate ${missing ? "text-brass" : ""}`}>{missing ? "missing" : text}</span>
        )}
      </div>
    );
  };
  return (
    <div
      role="row"
      aria-rowindex={p.number + 2}
      style={{ ...p.style, display: "grid", gridTemplateColumns: p.template }}
    >
      {cell(-1)}
      {columns.map((_, i) => cell(i))}
    </div>
  );
}

function Face({ picture }: { picture: string }) {
  return (
    <span className="cut-corner grid h-6 w-7 shrink-0 place-items-center bg-mist p-0.5 [--s:0.4]">
      {picture && (
        <img src={mediaURL(picture)} alt="" className="size-full bg-picture object-contain" draggable={false} />
      )}
    </span>
  );
}
