import { Redo2, Undo2 } from "lucide-react";
import { useStore, type StoreApi } from "zustand";
import type { Session } from "./history";

const words = {
  saved: "Saved",
  unsaved: "Saving…",
  saving: "Saving…",
  failed: "Not saved",
  conflict: "Not saved",
};

/** How a document stands with saving, and its undo and redo. */
export function Standing<D>({ store }: { store: StoreApi<Session<D>> }) {
  const { saving, problem, past, future, undone, undo, redo } = useStore(store);
  const tool = "grid size-8 place-items-center rounded-(--radius) text-slate hover:bg-shade disabled:opacity-40";
  return (
    <>
      <span
        role="status"
        className={saving === "failed" ? "font-medium text-ember" : "text-slate"}
        title={problem?.detail}
      >
        {words[saving]}
        {saving === "failed" && `: ${problem?.detail}`}
      </span>
      <button
        type="button"
        className={tool}
        disabled={past.length === 0}
        onClick={undo}
        aria-label="Undo"
        title={past.length ? `Undo: ${past.at(-1)!.says} (Ctrl+Z)` : "Nothing to undo"}
      >
        <Undo2 size={18} />
      </button>
      <button
        type="button"
        className={tool}
        disabled={future.length === 0}
        onClick={redo}
        aria-label="Redo"
        title={future.length ? `Redo: ${future.at(-1)!.says} (Ctrl+Y)` : "Nothing to redo"}
      >
        <Redo2 size={18} />
      </button>
      <span aria-live="polite" className="sr-only">
        {undone}
      </span>
    </>
  );
}
