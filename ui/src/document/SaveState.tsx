import { Redo2, Undo2 } from "lucide-react";
import { useStore, type StoreApi } from "zustand";
import { useShallow } from "zustand/react/shallow";
import { t } from "@lingui/core/macro";
import { tip } from "../kit/tip";
import { endsAt } from "../kit/ends";
import type { Session } from "./history";

const words = {
  saved: t`Saved`,
  unsaved: t`Saving…`,
  saving: t`Saving…`,
  failed: t`Not saved`,
  conflict: t`Not saved`,
};

/** How a document stands with saving, and its undo and redo. */
export function SaveState<D>({ store }: { store: StoreApi<Session<D>> }) {
  const { mayChange, state, problem, undone, undo, redo, back, forth } = useStore(
    store,
    useShallow(({ mayChange, saving, acting, problem, undone, undo, redo, past, future }) => ({
      mayChange,
      state: saving === "saved" && acting ? "unsaved" : saving,
      problem,
      undone,
      undo,
      redo,
      back: past.at(-1)?.says,
      forth: future.at(-1)?.says,
    })),
  );
  const tool = "grid size-8 place-items-center rounded-(--radius) text-slate hover:bg-shade aria-disabled:opacity-40";
  if (!mayChange) return <span className="text-slate">{t`View only`}</span>;
  return (
    <>
      <span
        role="status"
        className={state === "failed" ? "font-medium text-ember" : "text-slate"}
        {...tip(problem?.detail)}
      >
        {words[state]}
        {state === "failed" && `: ${problem?.detail}`}
      </span>
      <button
        type="button"
        className={tool}
        {...endsAt(back === undefined, undo)}
        aria-label={t`Undo`}
        {...tip(back === undefined ? t`Nothing to undo` : t`Undo: ${back} (Ctrl+Z)`)}
      >
        <Undo2 size={18} />
      </button>
      <button
        type="button"
        className={tool}
        {...endsAt(forth === undefined, redo)}
        aria-label={t`Redo`}
        {...tip(forth === undefined ? t`Nothing to redo` : t`Redo: ${forth} (Ctrl+Y)`)}
      >
        <Redo2 size={18} />
      </button>
      <span aria-live="polite" className="sr-only">
        {undone}
      </span>
    </>
  );
}
