import { ChevronDown, X } from "lucide-react";
import { t } from "@lingui/core/macro";
import type { Condition } from "../../api/types";
import { Select } from "../../kit/Select";
import { Menu, MenuItem } from "../../kit/Menu";
import { useDraft } from "../model/draft";
import { ConditionFields } from "./ConditionFields";
import { forms, formOf, type Form } from "./forms";

type Props = {
  moment: string;
  list: Condition[];
  onChange: (list: Condition[]) => void;
  /** How they are joined: all of them by default. */
  join?: "all" | "any" | "none";
  depth?: number;
};

const joins = { all: t`and`, any: t`or`, none: t`nor` };

/** Conditions as an outline, each with its choices; groups are lists within. */
export function ConditionList({ moment, list, onChange, join = "all", depth = 0 }: Props) {
  const set = (i: number, c: Condition) => onChange(list.map((x, k) => (k === i ? c : x)));
  return (
    <div className={depth > 0 ? "ml-3 border-l-2 border-line pl-3" : "mt-1.5"}>
      {list.map((c, i) => {
        const form = formOf(c);
        const group = form === "all" || form === "any" || form === "none";
        return (
          <div key={i} className="flex flex-col py-0.5">
            <div className="flex flex-wrap items-center gap-1.5">
              <span className="w-8 text-right text-slate">{i > 0 ? joins[join] : depth === 0 ? t`if` : ""}</span>
              {group ? (
                <Select
                  label={t`Group`}
                  value={form}
                  onPick={(to) => set(i, { [to]: inside(c) } as unknown as Condition)}
                  className="h-7 rounded-(--radius) border border-line bg-paper px-1"
                  options={[
                    ["all", t`all of these`],
                    ["any", t`one of these`],
                    ["none", t`none of these`],
                  ]}
                />
              ) : (
                <ConditionFields condition={c} onChange={(next) => set(i, next)} />
              )}
              <button
                type="button"
                aria-label={t`Remove condition`}
                onClick={() => onChange(list.filter((_, k) => k !== i))}
                className="grid size-6 place-items-center rounded-(--radius) text-slate hover:bg-mist"
              >
                <X size={14} aria-hidden />
              </button>
            </div>
            {group && (
              <ConditionList
                moment={moment}
                list={inside(c)}
                join={form}
                depth={depth + 1}
                onChange={(next) => set(i, { [form]: next } as unknown as Condition)}
              />
            )}
          </div>
        );
      })}
      <AddCondition moment={moment} onAdd={(c) => onChange([...list, c])} />
    </div>
  );
}

function inside(c: Condition): Condition[] {
  return "all" in c ? c.all : "any" in c ? c.any : "none" in c ? c.none : [];
}

function AddCondition({ moment, onAdd }: { moment: string; onAdd: (c: Condition) => void }) {
  const doc = useDraft((s) => s.doc);
  const selection = useDraft((s) => s.selection);
  const offered = (Object.entries(forms) as [Form, (typeof forms)[Form]][]).filter(
    ([, f]) => !f.placed || moment === "placed",
  );
  return (
    <Menu
      trigger={
        <button
          type="button"
          className="mt-0.5 flex items-center gap-1 text-feather underline decoration-dotted underline-offset-4 hover:decoration-solid"
        >
          {t`Add a condition`} <ChevronDown size={13} aria-hidden />
        </button>
      }
    >
      {offered.map(([form, f]) => (
        <MenuItem key={form} onSelect={() => onAdd(f.make(doc, selection))}>
          {f.title}
        </MenuItem>
      ))}
    </Menu>
  );
}
