import { memo } from "react";
import { Check, ChevronDown, Trash2 } from "lucide-react";
import { t } from "@lingui/core/macro";
import { Select } from "../../kit/Select";
import { Button } from "../../kit/Button";
import { Popover } from "../../kit/Popover";
import { Num } from "../../kit/sentences";
import { TypedInput } from "../../kit/TypedInput";
import { useDraft, useDraftStore } from "../model/draft";
import { solutionName } from "../model/key";

type Props = { solution: number; compare?: number; onCompare: (solution: number | undefined) => void };

/** The solutions: which is looked at, its name and credit, another one from it, and where two differ. */
export const Solutions = memo(function Solutions({ solution, compare, onCompare }: Props) {
  const store = useDraftStore();
  const solutions = useDraft((s) => s.doc.key.solutions);
  const go = (k: number) => {
    store.setState({ solution: k });
    if (compare === k) onCompare(undefined);
  };
  const set = (says: string, k: number, apply: (s: (typeof solutions)[number]) => void) =>
    store.getState().change({ says, merge: `${says} ${k}`, apply: (d) => apply(d.key.solutions[k]!) });
  return (
    <Popover
      align="end"
      label={t`Solutions`}
      content={
        <div className="flex w-96 flex-col gap-2">
          <p className="text-slate">
            {t`Each solution is a complete correct answer, checked separately. Credit is the share of points it earns.`}
          </p>
          <ul className="flex flex-col gap-1">
            {solutions.map((s, k) => (
              <li
                key={k}
                className={`flex items-center gap-1.5 rounded-(--radius) p-1 ${k === solution ? "bg-feather-soft" : ""}`}
              >
                <button
                  type="button"
                  aria-label={t`Show ${solutionName(solutions, k)}`}
                  aria-pressed={k === solution}
                  onClick={() => go(k)}
                  className="grid size-7 place-items-center rounded-(--radius) border border-line bg-paper"
                >
                  {k === solution ? <Check size={15} /> : k + 1}
                </button>
                <TypedInput
                  label={t`Name of solution ${k + 1}`}
                  value={s.name}
                  placeholder={t`Solution ${k + 1}`}
                  maxLength={200}
                  onDone={(name) => set(t`name a solution`, k, (x) => (x.name = name))}
                  className="min-w-0 flex-1"
                />
                <Num
                  label={t`Credit of solution ${k + 1} in percent`}
                  value={s.credit}
                  low={1}
                  high={100}
                  whole
                  onDone={(n) => set(t`change the credit`, k, (x) => (x.credit = n))}
                />
                <span aria-hidden>%</span>
                <button
                  type="button"
                  aria-label={t`Delete ${solutionName(solutions, k)}`}
                  disabled={solutions.length === 1}
                  onClick={() => void store.getState().edit(t`delete a solution`, { act: "dropSolution", solution: k })}
                  className="grid size-7 place-items-center rounded-(--radius) text-slate hover:bg-shade disabled:opacity-40"
                >
                  <Trash2 size={14} />
                </button>
              </li>
            ))}
          </ul>
          <div className="flex items-center justify-between gap-2">
            <Button
              onClick={() => void store.getState().edit(t`another solution`, { act: "anotherSolution", solution })}
            >
              {t`Duplicate solution`}
            </Button>
            {solutions.length > 1 && (
              <label className="flex items-center gap-2">
                {t`compare with`}
                <Select
                  value={compare ?? ""}
                  onPick={(to) => onCompare(to === "" ? undefined : Number(to))}
                  className="h-8 max-w-32 rounded-(--radius) border border-line bg-paper px-1.5"
                  options={[
                    ["", "none"],
                    ...solutions.map((_, k) => k !== solution && ([k, solutionName(solutions, k)] as const)),
                  ]}
                />
              </label>
            )}
          </div>
        </div>
      }
    >
      <button
        type="button"
        className="mb-1.5 ml-auto flex h-8 max-w-80 items-center gap-1.5 rounded-(--radius) border border-line bg-paper px-2 hover:bg-shade"
      >
        <span className="truncate">
          {solutions.length > 1
            ? t`${solutionName(solutions, solution)} of ${solutions.length}`
            : solutionName(solutions, solution)}
          {compare !== undefined && <>, {t`compared with ${solutionName(solutions, compare)}`}</>}
        </span>
        <ChevronDown size={14} aria-hidden />
      </button>
    </Popover>
  );
});
