import { useEffect, useRef } from "react";
import type { Doc } from "../../api/types";
import type { RehearsedStep } from "../../engine/engine";
import { itemOf, targetOf } from "../changes";
import { useDraft, useDraftStore } from "../draft";
import type { Rehearsal } from "./rehearsal";
import { stepWords } from "./trailWords";

/** The trail: each move, what it came to, and by which rule. */
export function Trail({ rehearsal }: { rehearsal: Rehearsal }) {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  const end = useRef<HTMLLIElement>(null);
  const steps = rehearsal.now?.steps ?? [];
  useEffect(() => {
    end.current?.scrollIntoView({ block: "nearest" });
  }, [steps.length]);
  return (
    <section
      aria-label="Trail"
      className="absolute inset-x-0 bottom-0 flex h-1/2 flex-col border-t-2 border-feather bg-paper shadow-(--shadow-raised)"
    >
      <h2 className="border-b border-line bg-shade px-4 py-1.5 text-base">Trail</h2>
      <ol className="flex-1 overflow-auto px-4 py-2">
        {steps.length === 0 && (
          <li className="text-slate">Every move is listed here, with what was decided and why.</li>
        )}
        {steps.map((step) => (
          <li key={step.move.n} ref={end} className="flex gap-3 border-b border-line/60 py-1.5">
            <span className="w-6 shrink-0 text-right text-slate">{step.move.n}</span>
            <button
              type="button"
              className="text-left"
              title="Show in the ledger"
              onClick={() => store.getState().select(partsIn(doc, step))}
            >
              {step.trail.map((t, i) => (
                <span key={i} className={`block ${i > 0 ? "text-slate" : "font-medium"}`}>
                  {stepWords(doc, t, step)}
                </span>
              ))}
            </button>
          </li>
        ))}
      </ol>
    </section>
  );
}

const partsIn = (doc: Doc, step: RehearsedStep) => {
  const item = step.trail.find((t) => t.item)?.item;
  return {
    items: item && itemOf(doc, item) ? [item] : [],
    targets: step.target && targetOf(doc, step.target) ? [step.target] : [],
  };
};
