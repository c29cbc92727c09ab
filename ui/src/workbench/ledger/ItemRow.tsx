import type { CSSProperties } from "react";
import type { Item, Target } from "../../api/types";
import { mediaURL } from "../../shared/mediaURL";
import { nameOf } from "../changes";
import { NameField } from "../NameField";
import type { Place } from "./rows";
import { mustWords } from "./words";

type Cells = Record<string, string[]>;

type Props = {
  item: Item;
  number: number;
  style: CSSProperties;
  targets: Target[];
  /** False until the engine has said what the cells are. */
  known: boolean;
  letting: boolean;
  right: Cells;
  lets: Cells;
  at: Place;
  inRange: (column: number) => boolean;
  selected: boolean;
  naming: boolean;
  onNamed: (name: string) => void;
  onDown: (column: number, extend: boolean) => void;
  onOver: (column: number) => void;
  onAct: (column: number) => void;
};

/** One item with its cells. */
export function ItemRow(p: Props) {
  const { item, number, targets, right, lets, at } = p;
  const here = (column: number) => at.row === number && at.column === column;
  const look = (column: number) =>
    `${p.inRange(column) ? "bg-feather-soft" : ""} ${here(column) ? "outline-2 -outline-offset-2 outline-edge group-focus/grid:outline-feather" : ""}`;
  return (
    <div
      role="row"
      aria-rowindex={number + 2}
      style={p.style}
      className={`border-b border-line/60 ${p.selected ? "bg-feather-soft/60" : ""}`}
    >
      <div
        id={`cell-${number}--1`}
        role="rowheader"
        title={`${nameOf(item)} (double-click or F2 renames)`}
        onPointerDown={(e) => !p.naming && p.onDown(-1, e.shiftKey)}
        onPointerEnter={() => p.onOver(-1)}
        onDoubleClick={() => p.onAct(-1)}
        className={`flex min-w-0 cursor-default items-center gap-2 pl-4 ${look(-1)}`}
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
            label={`Name of item ${nameOf(item)}`}
            value={nameOf(item)}
            className="min-w-0 flex-1"
            onDone={p.onNamed}
          />
        ) : (
          <span className="truncate">
            {nameOf(item)}
            {item.copies > 1 && <span className="text-slate"> × {item.copies}</span>}
          </span>
        )}
      </div>
      {targets.map((t, column) => {
        const isRight = (right[t.id] ?? []).includes(item.id);
        const isIn = (lets[t.id] ?? []).includes(item.id);
        const state = !p.known ? "not known yet" : isRight && !p.letting ? "right" : isIn ? "let in" : "turned away";
        return (
          <div
            key={t.id}
            id={`cell-${number}-${column}`}
            role="gridcell"
            aria-selected={p.inRange(column)}
            aria-label={`${nameOf(item)} in ${nameOf(t)}: ${state}`}
            onPointerDown={(e) => p.onDown(column, e.shiftKey)}
            onPointerEnter={() => p.onOver(column)}
            onDoubleClick={() => p.onAct(column)}
            className={`grid cursor-default place-items-center border-l border-line/60 ${look(column)}`}
          >
            {p.known && <Socket right={isRight && !p.letting} open={isIn} strong={p.letting} />}
          </div>
        );
      })}
      <span className="truncate px-3 text-[13px] leading-[29px] text-slate">{p.known && mustWords(item, right)}</span>
    </div>
  );
}

/** A seated piece is right, an empty socket lets it in, a hatched one turns it away. */
function Socket({ right, open, strong }: { right: boolean; open: boolean; strong: boolean }) {
  if (!open) return <span className="hatched h-3.5 w-4.5 rounded-[2px]" />;
  return (
    <span
      className={`relative h-3.5 w-4.5 rounded-[2px] ${strong ? "bg-feather-soft outline-1 outline-feather" : "sunk"}`}
    >
      {right && <span className="cut-corner absolute inset-0.5 bg-ink [--s:0.35]" />}
    </span>
  );
}
