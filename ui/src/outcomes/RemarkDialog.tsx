import { useState } from "react";
import type { Problem, RemarkLook } from "../api/types";
import { short } from "../words/words";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { Said } from "../kit/Said";
import { calledSo, sittings } from "./useOutcomes";
import { Checkbox } from "../kit/Checkbox";

type Props = {
  look: RemarkLook;
  busy: boolean;
  problem?: Problem;
  onApply: (neverLower: boolean) => void;
  onClose: () => void;
};

const heads = ["Learner", "Old score", "New score", "New band", "Moves judged differently"];

/** What a re-mark changes for whom: before it is applied, and afterwards as its record. */
export function RemarkDialog({ look, busy, problem, onApply, onClose }: Props) {
  const applied = look.appliedAt !== undefined;
  const changed = look.better + look.worse;
  const [neverLower, setNeverLower] = useState(false);
  const keeps = applied ? look.neverLower : neverLower;
  return (
    <Dialog
      open
      wide
      onClose={onClose}
      title={applied ? "What this re-mark changed" : "Re-mark with the current draft"}
      about={
        applied ? "Scores before and after this re-mark." : "Nothing changes until you say so, and it can be reverted."
      }
    >
      <h3 className="font-semibold">How the draft {applied ? "differed" : "differs"} from this release</h3>
      <ul className="mb-3 list-disc pl-5">
        {look.changes.map((c, i) => (
          <li key={i}>{c.message}</li>
        ))}
        {look.changes.length === 0 && <li>No differences</li>}
      </ul>
      <p className="mb-3">
        Of {sittings(look.sittings)}, <b>{look.better}</b> {applied ? "scored" : "would score"} more,{" "}
        <b>{look.worse}</b> less{keeps && look.worse > 0 && ` (and ${applied ? "kept" : "keep"} their score)`}, and{" "}
        {look.sittings - changed} the same.
        {look.rows.length > 0 && look.rows.length < changed && ` The ${look.rows.length} most changed are listed.`}
        {!!look.least && ` With fewer than ${look.least} sittings nobody is listed, to protect individual learners.`}
      </p>
      {look.rows.length > 0 && (
        <div
          tabIndex={0}
          role="group"
          aria-label="Scores before and after"
          className="max-h-72 overflow-auto rounded-(--radius) border border-line"
        >
          <table className="w-full">
            <thead>
              <tr className="bg-shade text-left text-slate">
                {heads.map((h) => (
                  <th key={h} className="sticky top-0 bg-shade px-3 py-1.5 font-semibold">
                    {h}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {look.rows.map((r) => (
                <tr key={r.sitting} className="border-t border-line/70">
                  <td className="px-3 py-1 font-medium">{calledSo(r.learner, r.sitting)}</td>
                  <td className="px-3 py-1 whitespace-nowrap tabular-nums">
                    {short(r.was.score)} ({short(r.was.percent)}%)
                  </td>
                  <td className="px-3 py-1 whitespace-nowrap tabular-nums">
                    <b>{short(r.is.score)}</b> ({short(r.is.percent)}%)
                  </td>
                  <td className="px-3 py-1">
                    {r.is.band}
                    {r.was.band !== r.is.band && <span className="text-slate"> (was {r.was.band || "none"})</span>}
                  </td>
                  <td className="px-3 py-1 tabular-nums">{r.gone || "–"}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {!applied && look.worse > 0 && (
        <label className="mt-3 flex items-center gap-2">
          <Checkbox on={neverLower} onChange={setNeverLower} />
          Never lower a score
        </label>
      )}
      {problem && <Said problem={problem} />}
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>{applied ? "Close" : "Cancel"}</Button>
        {!applied && (
          <Button kind="main" disabled={busy || look.sittings === 0} onClick={() => onApply(neverLower)}>
            Re-mark {sittings(look.sittings)}
          </Button>
        )}
      </div>
    </Dialog>
  );
}
