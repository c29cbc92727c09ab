import { memo, useEffect, useRef, useState } from "react";
import { CircleCheck, OctagonX, TriangleAlert } from "lucide-react";
import { tip } from "../../kit/tip";
import { useDraft, useDraftStore } from "../model/draft";
import { ProofPanel } from "./ProofPanel";
import { useProof } from "./useProof";
import { chanceWords, waysWords } from "./words";
import { count as quantity } from "../../words/count";

const stopMark = <OctagonX size={16} aria-hidden />;
const warnMark = <TriangleAlert size={16} aria-hidden />;
const goodMark = <CircleCheck size={16} aria-hidden />;

/** What is known before anyone plays; while nothing is right yet, what is still to do. */
export const ProofStrip = memo(function ProofStrip() {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  const fault = useDraft((s) => s.fault);
  const known = useDraft((s) => s.known);
  const [open, setOpen] = useState(false);
  const proof = useProof(doc, !fault && !!known && !known.settled);
  const { solved, count, chance, covers, stale, slow, left } = proof;
  useEffect(() => store.setState({ covers }), [store, covers]);
  const started = solved?.state === "keyed";
  const findings = [...(solved?.findings ?? []), ...(proof.replies ?? [])];
  const stops = findings.filter((f) => f.severity === "stop").length;
  const warns = findings.filter((f) => f.severity === "warn").length;
  const toggle = useRef<HTMLButtonElement>(null);
  const close = () => {
    setOpen(false);
    store.setState({ way: undefined });
  };
  const grey = (part: Parameters<typeof stale.has>[0]) => (stale.has(part) ? "opacity-45" : "");
  return (
    <footer
      data-zone="proof"
      aria-label="Proof"
      className="relative border-t border-line bg-paper"
      onKeyDown={(e) => {
        if (e.key !== "Escape" || !open || e.defaultPrevented) return;
        e.stopPropagation();
        close();
        toggle.current?.focus();
      }}
    >
      {open && <ProofPanel proof={proof} findings={findings} onClose={close} />}
      <div className="flex min-h-10 flex-wrap items-center gap-x-6 gap-y-1 px-4 py-1.5">
        <button
          ref={toggle}
          type="button"
          aria-expanded={open}
          aria-label="Proof: what is known"
          onClick={() => setOpen(!open)}
          className="-mx-2 flex h-7 items-center gap-1.5 rounded-(--radius) px-2 font-medium text-feather hover:bg-shade"
        >
          Proof <span aria-hidden>{open ? "▾" : "▴"}</span>
        </button>
        {fault && <span className="text-ember">{fault}</span>}
        {known && (
          <>
            <Figure n={known.pieces} one="piece" />
            <Figure n={known.targets} one="target" />
          </>
        )}
        {solved && !started && (
          <span className="text-slate">No answer key yet. Mark which items belong in which targets.</span>
        )}
        {started && (
          <>
            {solved.solvable ? (
              count && (
                <span className={grey("count")} data-figure="ways">
                  <b>{waysWords(count)}</b> correct{" "}
                  {count.count === "1" && count.exact ? "arrangement" : "arrangements"}
                </span>
              )
            ) : (
              <span className={`font-semibold text-ember ${grey("solved")}`}>Can’t be solved</span>
            )}
            {chance && solved.solvable && (
              <span
                className={grey("chance")}
                data-figure="chance"
                {...tip(
                  `Chance that guessing gets everything right${chance.exact ? "" : ", from 20,000 draws"}. The mean score of guessing is ${chance.meanPercent}%`,
                )}
              >
                chance by guessing <b>{chanceWords(chance)}</b>
              </span>
            )}
            {left.size > 0 && !slow && <span className="text-slate">not counted</span>}
            {slow && (
              <span className="flex items-center gap-2 text-slate" role="status">
                counting…
                <button type="button" className="text-feather underline" onClick={proof.leave}>
                  Stop
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
            <b>{covers.silent.length}</b> {covers.silent.length === 1 ? "situation" : "situations"} without feedback
          </button>
        )}
        {solved && findings.length > 0 && (
          <button
            type="button"
            onClick={() => setOpen(true)}
            className={`flex items-center gap-1.5 ${grey("solved")} ${stops > 0 ? "text-ember" : warns > 0 ? "text-brass" : "text-slate"}`}
          >
            {stops > 0 ? stopMark : warnMark}
            <span className="underline decoration-dotted underline-offset-4">
              {quantity(findings.length, "finding")}
            </span>
          </button>
        )}
        {started && findings.length === 0 && !stale.has("replies") && (
          <span className="flex items-center gap-1.5 text-teal">{goodMark} no issues</span>
        )}
      </div>
    </footer>
  );
});

const Figure = memo(function Figure({ n, one }: { n: number; one: string }) {
  return (
    <span>
      <b>{n}</b> {n === 1 ? one : one + "s"}
    </span>
  );
});
