import { memo, useEffect, useRef } from "react";
import { CircleCheck, OctagonX, TriangleAlert } from "lucide-react";
import { plural, t } from "@lingui/core/macro";
import { tip } from "../../kit/tip";
import { useDraft, useDraftStore } from "../model/draft";
import { Pieces, Silent, Targets, Ways } from "./Figures";
import { ProofPanel } from "./ProofPanel";
import { useProof } from "./useProof";
import { chanceWords } from "./words";

const stopMark = <OctagonX size={16} aria-hidden />;
const warnMark = <TriangleAlert size={16} aria-hidden />;
const goodMark = <CircleCheck size={16} aria-hidden />;

/** What is known before anyone plays; while nothing is right yet, what is still to do. */
export const ProofStrip = memo(function ProofStrip() {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  const fault = useDraft((s) => s.fault);
  const known = useDraft((s) => s.known);
  const open = useDraft((s) => s.proofOpen);
  const proof = useProof(doc, !fault && !!known && !known.settled);
  const { solved, count, chance, covers, stale, slow, left } = proof;
  useEffect(() => store.setState({ covers }), [store, covers]);
  const started = solved?.state === "keyed";
  const findings = [...(solved?.findings ?? []), ...(proof.replies ?? [])];
  const stops = findings.filter((f) => f.severity === "stop").length;
  const warns = findings.filter((f) => f.severity === "warn").length;
  const toggle = useRef<HTMLButtonElement>(null);
  const close = () => {
    store.setState({ proofOpen: false, way: undefined });
    toggle.current?.focus();
  };
  const grey = (part: Parameters<typeof stale.has>[0]) => (stale.has(part) ? "opacity-45" : "");
  return (
    <footer
      data-zone="proof"
      aria-label={t`Proof`}
      className="relative border-t border-line bg-paper"
      onKeyDown={(e) => {
        if (e.key !== "Escape" || !open || e.defaultPrevented) return;
        e.stopPropagation();
        close();
      }}
    >
      {open && <ProofPanel proof={proof} findings={findings} onClose={close} />}
      <div className="flex min-h-10 flex-wrap items-center gap-x-6 gap-y-1 px-4 py-1.5">
        <button
          ref={toggle}
          type="button"
          aria-expanded={open}
          aria-label={t`Proof: what is known`}
          onClick={() => (open ? close() : store.setState({ proofOpen: true }))}
          className="-mx-2 flex h-7 items-center gap-1.5 rounded-(--radius) px-2 font-medium text-feather hover:bg-shade"
        >
          {t`Proof`} <span aria-hidden>{open ? "▾" : "▴"}</span>
        </button>
        {fault && <span className="text-ember">{fault}</span>}
        {known && (
          <>
            <span>
              <Pieces n={known.pieces} />
            </span>
            <span>
              <Targets n={known.targets} />
            </span>
          </>
        )}
        {solved && !started && (
          <span className="text-slate">{t`No answer key yet. Mark which items belong in which targets.`}</span>
        )}
        {started && (
          <>
            {solved.solvable ? (
              count && (
                <span className={grey("count")} data-figure="ways">
                  <Ways count={count} />
                </span>
              )
            ) : (
              <span className={`font-semibold text-ember ${grey("solved")}`}>{t`Can’t be solved`}</span>
            )}
            {chance && solved.solvable && (
              <span
                className={grey("chance")}
                data-figure="chance"
                {...tip(
                  chance.exact
                    ? t`Chance that guessing gets everything right. The mean score of guessing is ${chance.meanPercent}%`
                    : t`Chance that guessing gets everything right, from 20,000 draws. The mean score of guessing is ${chance.meanPercent}%`,
                )}
              >
                {t`chance by guessing`} <b>{chanceWords(chance)}</b>
              </span>
            )}
            {left.size > 0 && !slow && <span className="text-slate">{t`not counted`}</span>}
            {slow && (
              <span className="flex items-center gap-2 text-slate" role="status">
                {t`counting…`}
                <button type="button" className="text-feather underline" onClick={proof.leave}>
                  {t`Stop`}
                </button>
              </span>
            )}
          </>
        )}
        {started && covers && doc.replies.length > 0 && covers.silent.length > 0 && (
          <button
            type="button"
            onClick={() => store.setState({ lens: "replies", allReplies: true })}
            className={`text-slate ${grey("replies")}`}
          >
            <Silent n={covers.silent.length} />
          </button>
        )}
        {solved && findings.length > 0 && (
          <button
            type="button"
            onClick={() => store.setState({ proofOpen: true })}
            className={`flex items-center gap-1.5 ${grey("solved")} ${stops > 0 ? "text-ember" : warns > 0 ? "text-brass" : "text-slate"}`}
          >
            {stops > 0 ? stopMark : warnMark}
            <span className="border-b border-dotted border-current">
              {plural(findings.length, { one: "# finding", other: "# findings" })}
            </span>
          </button>
        )}
        {started && findings.length === 0 && !stale.has("replies") && (
          <span className="flex items-center gap-1.5 text-teal">
            {goodMark} {t`no issues`}
          </span>
        )}
      </div>
    </footer>
  );
});
