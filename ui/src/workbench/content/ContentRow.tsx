import { memo, useMemo } from "react";
import { useShallow } from "zustand/react/shallow";
import { t } from "@lingui/core/macro";
import type { Doc } from "../../api/types";
import { mediaURL } from "../../board/mediaURL";
import { itemOf, nameOf, targetOf, type PartID } from "../../document/parts";
import { useDraft } from "../model/draft";
import { CellField } from "../grid/CellField";
import { columnAt, columns, readCell } from "./columns";

type Props = {
  kind: PartID["kind"];
  id: string;
  number: number;
  template: string;
  top: number;
  height: number;
  /** The columns of the range, where it reaches this row; a name alone is the whole row. */
  from?: number;
  to?: number;
  /** The column in focus, or being typed, where it is in this row. */
  at?: number;
  typing?: number;
  start?: string;
  onTyped: (text: string | undefined, step: [number, number]) => void;
};

/** What a part's cells say, its name first; undefined where it has none. Read again only when the document changes. */
function useTexts(kind: PartID["kind"], id: string): (string | undefined)[] {
  const read = useMemo(() => {
    let doc: Doc | undefined;
    let texts: (string | undefined)[] = [];
    return (now: Doc) => {
      if (now !== doc) texts = [-1, ...columns.keys()].map((i) => readCell(now, { kind, id }, columnAt(i)!));
      doc = now;
      return texts;
    };
  }, [kind, id]);
  return useDraft(useShallow((s) => read(s.doc)));
}

/** One item or target with what it is, cell by cell. The grid handles what is done to them: each says its row and column. */
export const ContentRow = memo(function ContentRow(p: Props) {
  const texts = useTexts(p.kind, p.id);
  const name = useDraft((s) => nameOf((p.kind === "item" ? itemOf : targetOf)(s.doc, p.id)));
  const picture = useDraft((s) => (p.kind === "item" ? itemOf(s.doc, p.id)?.picture : undefined));
  const mute = useDraft(({ doc }) => {
    const item = p.kind === "item" ? itemOf(doc, p.id) : undefined;
    return !!item?.picture && !item.alt && !item.text;
  });
  const { from = 0, to = -2 } = p;
  const cell = (index: number) => {
    const column = columnAt(index)!;
    const text = texts[index + 1];
    const editing = p.typing === index;
    const ranged = (index >= from && index <= to) || from < 0;
    const missing = mute && column.key === "alt";
    return (
      <div
        key={column.key}
        id={`content-${p.number}-${index}`}
        role={index < 0 ? "rowheader" : "gridcell"}
        aria-selected={ranged}
        aria-label={`${name}, ${column[p.kind]?.name ?? column.title}: ${text === undefined ? t`not applicable` : text || t`empty`}`}
        data-cell={editing ? undefined : `${p.number} ${index}`}
        className={`flex min-w-0 cursor-default items-center gap-2 border-b border-line/60 ${index < 0 ? "sticky left-0 z-10 pl-4" : "border-l px-2"} ${
          ranged ? "bg-feather-soft" : text === undefined ? "bg-shade" : "bg-paper"
        } ${p.at === index ? "outline-2 -outline-offset-2 outline-edge group-focus/grid:outline-feather" : ""} ${column.number ? "justify-end tabular-nums" : ""}`}
      >
        {index < 0 && picture !== undefined && (
          <span className="cut-corner grid h-6 w-7 shrink-0 place-items-center bg-mist p-0.5 [--s:0.4]">
            {picture && (
              <img src={mediaURL(picture)} alt="" className="size-full bg-picture object-contain" draggable={false} />
            )}
          </span>
        )}
        {editing ? (
          <CellField
            label={`${name}, ${column.title}`}
            value={p.start ?? text ?? ""}
            whole={p.start === undefined}
            onDone={p.onTyped}
          />
        ) : (
          <span className={`truncate ${missing ? "text-brass" : ""}`}>{missing ? t`missing` : text}</span>
        )}
      </div>
    );
  };
  return (
    <div
      role="row"
      aria-rowindex={p.number + 2}
      className="absolute left-0 grid"
      style={{ top: p.top, height: p.height, gridTemplateColumns: p.template }}
    >
      {cell(-1)}
      {columns.map((_, i) => cell(i))}
    </div>
  );
});
