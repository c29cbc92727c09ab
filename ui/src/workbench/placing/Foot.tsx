import { memo } from "react";
import { t } from "@lingui/core/macro";
import type { Target } from "../../api/types";
import { Popover } from "../../kit/Popover";
import { ChoiceField, NumberField } from "../../kit/fields";
import { nameOf } from "../../document/parts";
import { useDraft, useDraftStore } from "../model/draft";
import { amountWords, setNeeds } from "../model/key";
import { NeedsFields } from "./NeedsFields";

type Props = { targets: Target[]; columns: string; solution: number; selected: string[] };

/** Under each target: what it needs in this solution, how many it holds. Several that are selected change together. */
export const Foot = memo(function Foot({ targets, columns, solution, selected }: Props) {
  const store = useDraftStore();
  const needs = useDraft((s) => s.doc.key.solutions[solution]?.needs) ?? [];
  /** The target, or all that are selected with it. */
  const together = (target: Target) =>
    selected.includes(target.id) ? targets.filter((x) => selected.includes(x.id)) : [target];
  const names = (list: Target[]) => (list.length === 1 ? nameOf(list[0]) : t`${list.length} targets`);
  const cell = "h-7 w-full truncate border-l border-line/60 px-0.5 text-center tabular-nums hover:bg-feather-soft";
  return (
    <div className="sticky bottom-0 z-20 mt-auto border-t border-line bg-shade text-[13px] text-slate">
      <div role="row" className="grid" style={{ gridTemplateColumns: columns }}>
        <span role="rowheader" className="sticky left-0 bg-shade px-4 leading-7">
          {t`required`}
        </span>
        {targets.map((target) => {
          const here = needs.filter((n) => n.target === target.id);
          const some = together(target);
          return (
            <div role="gridcell" key={target.id} className="grid min-w-0">
              <Popover
                label={t`Needs of ${names(some)}`}
                content={
                  <NeedsFields
                    title={some.length === 1 ? t`${names(some)} needs` : t`${names(some)} each need`}
                    needs={here}
                    onDone={(list) =>
                      setNeeds(
                        store,
                        solution,
                        some.map((x) => x.id),
                        list,
                      )
                    }
                  />
                }
              >
                <button
                  type="button"
                  className={`${cell} ${here.length > 0 ? "font-semibold text-ink" : ""}`}
                  aria-label={
                    here.length === 0
                      ? t`Needs of ${nameOf(target)}: none`
                      : t`Needs of ${nameOf(target)}: ${here.map(amountWords).join(", ")}`
                  }
                >
                  {here.length === 0 ? "–" : here.map(amountWords).join(" ")}
                </button>
              </Popover>
            </div>
          );
        })}
        <span role="gridcell" />
      </div>
      <div role="row" className="grid border-t border-line/60" style={{ gridTemplateColumns: columns }}>
        <span role="rowheader" className="sticky left-0 bg-shade px-4 leading-7">
          {t`capacity`}
        </span>
        {targets.map((target) => {
          const some = together(target);
          const set = (says: string, apply: (target: Target) => void) =>
            store.getState().change({
              says,
              apply: (d) => d.targets.filter((x) => some.some((s) => s.id === x.id)).forEach(apply),
            });
          return (
            <div role="gridcell" key={target.id} className="grid min-w-0">
              <Popover
                label={t`What ${names(some)} holds`}
                content={
                  <div className="grid w-72 grid-cols-2 gap-2">
                    <p className="col-span-2 font-medium text-ink">{names(some)}</p>
                    <NumberField
                      label={t`how many it holds`}
                      values={some.map((x) => x.holds)}
                      low={1}
                      high={999}
                      whole
                      empty={t`any number`}
                      onDone={(n) =>
                        set(t`change how many it holds`, (x) => {
                          if (n === undefined) delete x.holds;
                          else x.holds = n;
                        })
                      }
                    />
                    <ChoiceField
                      label={t`when full`}
                      values={some.map((x) => x.whenFull)}
                      options={[
                        ["refuse", t`reject`],
                        ["oust", t`return the earlier piece`],
                        ["trade", t`swap`],
                      ]}
                      onDone={(to) =>
                        set(t`change what happens when full`, (x) => (x.whenFull = to as Target["whenFull"]))
                      }
                    />
                  </div>
                }
              >
                <button
                  type="button"
                  className={`${cell} ${target.holds ? "font-semibold text-ink" : ""}`}
                  aria-label={
                    target.holds ? t`${nameOf(target)} holds ${target.holds}` : t`${nameOf(target)} holds any number`
                  }
                >
                  {target.holds ?? t`any`}
                  {target.holds && target.whenFull !== "refuse" ? (target.whenFull === "oust" ? " ⌂" : " ⇄") : ""}
                </button>
              </Popover>
            </div>
          );
        })}
        <span role="gridcell" />
      </div>
    </div>
  );
});
