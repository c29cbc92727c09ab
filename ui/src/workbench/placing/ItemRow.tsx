import { memo } from "react";
import { t } from "@lingui/core/macro";
import type { Item } from "../../api/types";
import { mediaURL } from "../../board/mediaURL";
import { nameOf } from "../../document/parts";
import { NameField } from "../../kit/NameField";
import { tip } from "../../kit/tip";
import { cellLook, isRanged, type RowProps } from "./rows";

const none: ReadonlySet<string> = new Set();

type Props = RowProps & {
  item: Item;
  /** False until the engine has said what the cells are. */
  known: boolean;
  /** The targets in which the item is right, and that let it in. */
  right?: ReadonlySet<string>;
  /** By target, the items that are not right there as an exception to a tag. */
  except: ReadonlyMap<string, ReadonlySet<string>>;
  /** The targets in which it is right in one of two solutions that are compared. */
  differs?: ReadonlySet<string>;
  ranks: ReadonlyMap<string, ReadonlyMap<string, number>>;
  must: string;
  solution: number;
  lets?: ReadonlySet<string>;
  selected: boolean;
  naming: boolean;
  onNamed: (item: string, name: string) => void;
};

/** One item with its cells. The grid handles what is done to them: each says its row and column. */
export const ItemRow = memo(function ItemRow(p: Props) {
  const { item, number, targets, first, last, right = none, lets = none } = p;
  const ranged = (column: number) => isRanged(p, column);
  const look = (column: number) => cellLook(p, column);
  const cells = [];
  for (let column = first; column <= last && column < targets.length; column++) {
    const target = targets[column]!;
    const isRight = right.has(target.id) && !p.letting;
    const isIn = lets.has(target.id);
    const excepted = !p.letting && !isRight && p.except.get(target.id)?.has(item.id);
    const rank = isRight ? p.ranks.get(target.id)?.get(item.id) : undefined;
    const state = !p.known
      ? t`not known yet`
      : isRight
        ? rank
          ? t`correct, solution ${p.solution + 1}, place ${rank}`
          : t`correct, solution ${p.solution + 1}`
        : isIn
          ? excepted
            ? t`accepted, an exception`
            : t`accepted`
          : excepted
            ? t`not accepted, an exception`
            : t`not accepted`;
    cells.push(
      <div
        key={target.id}
        id={`cell-${number}-${column}`}
        role="gridcell"
        aria-colindex={column + 2}
        aria-selected={ranged(column)}
        aria-label={t`${nameOf(item)} in ${nameOf(target)}: ${state}`}
        data-cell={`${number} ${column}`}
        data-rank={rank}
        data-differs={p.differs?.has(target.id) || undefined}
        style={{ gridColumn: column + 2, gridRow: 1 }}
        data-socket={
          !p.known
            ? undefined
            : isRight
              ? "right"
              : excepted
                ? "except"
                : !isIn
                  ? "away"
                  : ranged(column)
                    ? p.letting
                      ? "let"
                      : "in"
                    : undefined
        }
        className={`cursor-default ${look(column)}`}
      />,
    );
  }
  return (
    <div
      role="row"
      aria-rowindex={number + 2}
      style={{ top: p.top, height: p.height, gridTemplateColumns: p.columns }}
      className={`absolute inset-x-0 grid border-b border-line [contain:layout_paint_style] ${p.selected ? "bg-feather-soft/60" : ""}`}
    >
      <div
        id={`cell-${number}--1`}
        role="rowheader"
        {...tip(t`${nameOf(item)} (double-click or F2 renames)`)}
        data-cell={p.naming ? undefined : `${number} -1`}
        className={`sticky left-0 z-10 flex min-w-0 cursor-default items-center gap-2 pl-4 ${p.selected ? "bg-feather-soft" : "bg-paper"} ${look(-1)}`}
      >
        <span className="cut-corner grid h-6 w-7 shrink-0 place-items-center bg-mist p-0.5 [--s:0.4]">
          {item.picture && (
            <img
              src={mediaURL(item.picture)}
              alt=""
              className="size-full bg-picture object-contain"
              draggable={false}
            />
          )}
        </span>
        {p.naming ? (
          <NameField
            label={t`Name of item ${nameOf(item)}`}
            value={nameOf(item)}
            className="min-w-0 flex-1"
            onDone={(name) => p.onNamed(item.id, name)}
          />
        ) : (
          <span className="truncate">
            {nameOf(item)}
            {item.copies > 1 && <span className="text-slate"> × {item.copies}</span>}
          </span>
        )}
      </div>
      {/* Most cells are alike: their sockets are drawn once for the row, and by a cell where it is not. */}
      {p.known && (
        <span
          aria-hidden
          data-sockets={p.letting ? "let" : "in"}
          style={{ gridColumn: `2 / span ${targets.length}`, gridRow: 1 }}
        />
      )}
      {cells}
      <div
        role="gridcell"
        aria-colindex={targets.length + 2}
        className="grid min-w-0"
        style={{ gridColumn: targets.length + 2, gridRow: 1 }}
      >
        <button
          type="button"
          data-must={item.id}
          tabIndex={-1}
          {...tip(t`${p.must} (change)`)}
          aria-label={t`Required: ${p.must}`}
          className="truncate px-3 text-left text-[13px] leading-[29px] text-slate hover:text-feather hover:underline"
        >
          {p.known && p.must}
        </button>
      </div>
    </div>
  );
});
