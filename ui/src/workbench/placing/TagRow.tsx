import { memo } from "react";
import { t } from "@lingui/core/macro";
import { nameOf } from "../../document/parts";
import { cellLook, isRanged, type RowProps } from "./rows";

type Props = RowProps & {
  tag: string;
  count: number;
  /** The tags that are right in each target as such. */
  right: ReadonlyMap<string, ReadonlySet<string>>;
};

/** A tag over its items: a cell here says that everything with the tag is right there, later items too. */
export const TagRow = memo(function TagRow(p: Props) {
  const { tag, targets, number } = p;
  const cells = [];
  for (let column = p.first; tag && column <= p.last && column < targets.length; column++) {
    const target = targets[column]!;
    const right = !p.letting && p.right.get(target.id)?.has(tag);
    cells.push(
      <div
        key={target.id}
        id={`cell-${number}-${column}`}
        role="gridcell"
        aria-colindex={column + 2}
        aria-selected={isRanged(p, column)}
        aria-label={
          right
            ? t`Everything tagged ${tag} in ${nameOf(target)}: correct`
            : t`Everything tagged ${tag} in ${nameOf(target)}: not by the tag`
        }
        data-cell={`${number} ${column}`}
        data-tagged={right ? "right" : "open"}
        style={{ gridColumn: column + 2, gridRow: 1 }}
        className={`cursor-default ${cellLook(p, column)}`}
      />,
    );
  }
  return (
    <div
      role="row"
      aria-rowindex={number + 2}
      style={{ top: p.top, height: p.height, gridTemplateColumns: p.columns }}
      className="absolute inset-x-0 grid border-b border-line/60 bg-shade text-[13px] text-slate"
    >
      <div
        id={`cell-${number}--1`}
        role="rowheader"
        data-cell={`${number} -1`}
        className={`sticky left-0 z-10 truncate bg-shade px-4 leading-[25px] ${cellLook(p, -1)}`}
      >
        {tag || t`no tag`} · {p.count}
      </div>
      {cells}
    </div>
  );
});
