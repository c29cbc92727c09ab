import { TriangleAlert } from "lucide-react";
import { itemOf, nameOf } from "../changes";
import { useDraft, useDraftStore } from "../draft";

const count = (n: number, one: string) => (
  <span>
    <b>{n}</b> {n === 1 ? one : one + "s"}
  </span>
);

/** What is known before anyone plays; while nothing is right yet, what is still to do. */
export function ProofStrip() {
  const store = useDraftStore();
  const { doc, known, fault } = useDraft((s) => s);
  const started = known?.cells.right.some((s) => Object.values(s).some((items) => items.length > 0));
  return (
    <footer
      data-zone="proof"
      aria-label="Proof"
      className="flex min-h-10 flex-wrap items-center gap-x-6 gap-y-1 border-t border-line bg-paper px-4 py-1.5"
    >
      <span className="text-slate">Proof</span>
      {fault && <span className="text-ember">{fault}</span>}
      {known && (
        <>
          {count(known.pieces, "piece")}
          {count(known.targets, "target")}
          {!started && (
            <span className="text-slate">Not done yet: mark in the ledger which item is right in which target.</span>
          )}
          {started && known.nowhere.length > 0 && (
            <button
              type="button"
              className="underline decoration-dotted underline-offset-4"
              title={known.nowhere.map((id) => nameOf(itemOf(doc, id))).join(", ")}
              onClick={() => store.getState().select({ items: known.nowhere, targets: [] })}
            >
              <b>{known.nowhere.length}</b> {known.nowhere.length === 1 ? "belongs" : "belong"} nowhere
            </button>
          )}
          {started && !known.impossible && <span className="text-teal">It can be solved</span>}
          {known.impossible && (
            <button
              type="button"
              className="inline-flex items-center gap-1.5 font-semibold text-brass"
              onClick={() =>
                store.getState().select({
                  items: known.impossible!.parts.filter((p) => itemOf(doc, p)),
                  targets: known.impossible!.parts.filter((p) => doc.targets.some((t) => t.id === p)),
                })
              }
            >
              <TriangleAlert size={16} aria-hidden /> It cannot be solved: what is asked for does not go together with
              what targets hold
            </button>
          )}
        </>
      )}
    </footer>
  );
}
