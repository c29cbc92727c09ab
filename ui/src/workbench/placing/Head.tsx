import { memo } from "react";
import { plural, t } from "@lingui/core/macro";
import type { Target } from "../../api/types";
import { nameOf } from "../../document/parts";
import { NameField } from "../../kit/NameField";
import { tip } from "../../kit/tip";

type Props = {
  targets: Target[];
  columns: string;
  /** The column whose head is in focus, or is being renamed. */
  at?: number;
  naming?: number;
  count: number;
  selected: string[];
  onGo: (column: number, extend: boolean) => void;
  onName: (column: number) => void;
  onNamed: (target: string, name: string) => void;
  onPoint: (target: string) => void;
};

/** The targets' heads, numbered as on the board, the names turned. */
export const Head = memo(function Head({
  targets,
  columns,
  at,
  naming,
  count,
  selected,
  onGo,
  onName,
  onNamed,
  onPoint,
}: Props) {
  return (
    <div
      role="row"
      aria-rowindex={1}
      className="sticky top-0 z-20 grid items-end border-b border-line bg-paper"
      style={{ gridTemplateColumns: columns }}
    >
      <span
        role="columnheader"
        className="sticky left-0 z-10 self-stretch bg-paper px-4 pb-2 font-semibold text-slate flex items-end"
      >
        {plural(count, { one: "# item", other: "# items" })}
      </span>
      {targets.map((target, i) => (
        <div
          key={target.id}
          id={`cell--1-${i}`}
          role="columnheader"
          aria-label={t`Target ${i + 1} ${nameOf(target)}`}
          {...tip(t`${nameOf(target)} (double-click or F2 renames)`)}
          onPointerDown={(e) => onGo(i, e.shiftKey)}
          onDoubleClick={() => onName(i)}
          onPointerEnter={() => onPoint(target.id)}
          className={`relative flex h-26 cursor-default flex-col items-center justify-end gap-1.5 pb-1.5 ${at === i ? "outline-2 -outline-offset-2 outline-edge group-focus/grid:outline-feather" : ""} ${selected.includes(target.id) ? "bg-feather-soft" : ""}`}
        >
          <span className="max-h-18 rotate-180 truncate text-[13px] font-semibold [writing-mode:vertical-rl]">
            {nameOf(target)}
          </span>
          <em className="rounded-[3px] bg-slate px-1 text-[11px] text-paper not-italic">{i + 1}</em>
          {naming === i && (
            <span className="absolute right-0 bottom-1 z-20">
              <NameField
                label={t`Name of target ${i + 1}`}
                value={nameOf(target)}
                className="w-36"
                onDone={(name) => onNamed(target.id, name)}
              />
            </span>
          )}
        </div>
      ))}
      <span role="columnheader" className="px-3 pb-2 text-[13px] font-semibold text-slate">
        {t`required`}
      </span>
    </div>
  );
});
