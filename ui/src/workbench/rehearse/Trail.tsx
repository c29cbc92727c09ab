import { useEffect, useRef } from "react";
import type { Doc } from "../../api/types";
import type { RehearsedStep, TrailStep } from "../../engine/engine";
import { itemOf, nameOf, targetOf } from "../changes";
import { useDraft, useDraftStore } from "../draft";
import type { Rehearsal } from "./rehearsal";

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
              {step.trail.length === 0 && moveWords(step)}
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

function moveWords(step: RehearsedStep): string {
  const words: Record<string, string> = {
    undone: "The last move is undone",
    reset: "All free pieces are back",
    again: "The next attempt begins; everything stays where it is",
    rejected: "This cannot be done now",
  };
  return words[step.result] ?? step.result;
}

/** A step as a sentence. */
function stepWords(doc: Doc, t: TrailStep, step: RehearsedStep): string {
  const item = nameOf(itemOf(doc, t.item ?? ""));
  const target = nameOf(targetOf(doc, t.target ?? ""));
  const v = t.verdict;
  switch (t.code) {
    case "hit":
      return `${item} is let go over ${target}: its middle is inside`;
    case "beside":
      return `${item} is let go beside every target`;
    case "letIn":
      return step.move.do === "drop" ? `${target} lets it in` : `${item} is put into ${target}, which lets it in`;
    case "turnedAway":
      return `${target} turns it away: who is let in there leaves ${item} out`;
    case "full":
      return `${target} turns it away: it holds ${t.holds}, and all places are taken`;
    case "ousted":
      return `${item} goes home to make room: it has been in ${target} longest`;
    case "traded":
      return `${item} trades places with it, into ${target}`;
    case "already":
      return `${item} is in ${target} already`;
    case "home":
      return `${item} goes back to the tray`;
    case "rightHere":
      return `${item} is right in ${target}`;
    case "wrongHere":
      return `${item} is not right in ${target}`;
    case "rightCount":
      return v ? `So far ${v.right.length} right, ${v.wrong.length} wrong, ${v.missing.length} missing` : "";
    case "score":
      return v
        ? `Checked: ${v.right.length} right, ${v.wrong.length} wrong, ${v.missing.length} missing. ${v.earned} of ${v.available} earned is ${v.fraction}, × ${t.share} % for this attempt, × ${doc.marks.points} points: ${v.score}`
        : "";
    case "goesHome":
      return `${item} goes home: wrong pieces go home after a failed check`;
    case "heldInPlace":
      return `${item} is held in place: it is right`;
    default:
      return t.code;
  }
}
