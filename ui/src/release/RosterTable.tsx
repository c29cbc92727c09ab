import { Trash2 } from "lucide-react";
import { t } from "@lingui/core/macro";
import type { RosterLearner } from "../api/types";
import { Button } from "../kit/Button";
import { Num } from "../kit/sentences";
import { TypedInput } from "../kit/TypedInput";
import { written } from "./codes";

type Props = {
  learners: RosterLearner[];
  onChange: (learner: RosterLearner, to: Partial<RosterLearner>) => void;
  onRemove: (learner: RosterLearner) => void;
};

/** The learners of a roster: their names, their codes, and how much of the time each gets. */
export function RosterTable({ learners, onChange, onRemove }: Props) {
  return (
    <table className="w-full">
      <thead>
        <tr className="text-left text-slate">
          <th className="py-1 pr-3 font-medium">{t`Learner`}</th>
          <th className="py-1 pr-3 font-medium">{t`Code`}</th>
          <th className="py-1 pr-3 font-medium">{t`Time`}</th>
          <td />
        </tr>
      </thead>
      <tbody>
        {learners.map((l, i) => (
          <tr key={l.id} className="border-t border-line">
            <td className="py-1 pr-3">
              <TypedInput
                label={t`Name of learner ${i + 1}`}
                value={l.name}
                maxLength={200}
                onDone={(name) => (name.trim() ? onChange(l, { name }) : false)}
                className="w-full min-w-20 sm:min-w-36 border-transparent hover:border-line"
              />
            </td>
            <td className="py-1 pr-3 font-medium tracking-wider whitespace-nowrap tabular-nums">{written(l.code)}</td>
            <td className="py-1 pr-3 whitespace-nowrap">
              <Num
                label={t`Time of ${l.name} in percent`}
                value={l.timePercent}
                low={100}
                high={1000}
                whole
                onDone={(timePercent) => onChange(l, { timePercent })}
              />{" "}
              %
            </td>
            <td className="text-right">
              <Button kind="quiet" className="px-2" aria-label={t`Remove ${l.name}`} onClick={() => onRemove(l)}>
                <Trash2 size={15} aria-hidden />
              </Button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
