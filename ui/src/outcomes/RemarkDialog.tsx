import { useState } from "react";
import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
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

const heads = [t`Learner`, t`Old score`, t`New score`, t`New band`, t`Moves judged differently`];

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
      busy={busy}
      onClose={onClose}
      title={applied ? t`What this re-mark changed` : t`Re-mark with the current draft`}
      about={
        applied
          ? t`Scores before and after this re-mark.`
          : t`Nothing changes until you say so, and it can be reverted.`
      }
    >
      <h3 className="font-semibold">
        {applied ? t`How the draft differed from this release` : t`How the draft differs from this release`}
      </h3>
      <ul className="mb-3 list-disc pl-5">
        {look.changes.map((c, i) => (
          <li key={i}>{c.message}</li>
        ))}
        {look.changes.length === 0 && <li>{t`No differences`}</li>}
      </ul>
      <p className="mb-3">
        <Changed look={look} applied={applied} keeps={keeps} />{" "}
        {look.rows.length > 0 && look.rows.length < changed && t`The ${look.rows.length} most changed are listed.`}{" "}
        {!!look.least && t`With fewer than ${look.least} sittings nobody is listed, to protect individual learners.`}
      </p>
      {look.rows.length > 0 && (
        <div
          tabIndex={0}
          role="group"
          aria-label={t`Scores before and after`}
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
                    {r.was.band !== r.is.band && (
                      <span className="text-slate"> {r.was.band ? t`(was ${r.was.band})` : t`(was none)`}</span>
                    )}
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
          {t`Never lower a score`}
        </label>
      )}
      {problem && <Said problem={problem} />}
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>{applied ? t`Close` : t`Cancel`}</Button>
        {!applied && (
          <Button kind="main" disabled={look.sittings === 0} onClick={() => onApply(neverLower)}>
            {t`Re-mark ${sittings(look.sittings)}`}
          </Button>
        )}
      </div>
    </Dialog>
  );
}

/** How many sittings get more, less and the same, before a re-mark and after it. */
function Changed({ look, applied, keeps }: { look: RemarkLook; applied: boolean; keeps: boolean }) {
  const same = look.sittings - look.better - look.worse;
  const of = sittings(look.sittings);
  const more = <b>{look.better}</b>;
  const less = <b>{look.worse}</b>;
  const kept = keeps && look.worse > 0;
  if (applied)
    return kept ? (
      <Trans>
        Of {of}, {more} scored more, {less} less (and kept their score), and {same} the same.
      </Trans>
    ) : (
      <Trans>
        Of {of}, {more} scored more, {less} less, and {same} the same.
      </Trans>
    );
  return kept ? (
    <Trans>
      Of {of}, {more} would score more, {less} less (and keep their score), and {same} the same.
    </Trans>
  ) : (
    <Trans>
      Of {of}, {more} would score more, {less} less, and {same} the same.
    </Trans>
  );
}
