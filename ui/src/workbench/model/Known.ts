import { replaceEqualDeep } from "@tanstack/react-query";
import { useEffect } from "react";
import { engine, EngineError } from "../../engine/engine";
import { takeDocument } from "./changes";
import { lostWords, useDraft, useDraftStore } from "./draft";

/** Asks the engine about the draft after each change; a late answer to an older draft is dropped. */
export function Known() {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  useEffect(() => {
    let live = true;
    engine.figures(doc, "latest").then(
      (known) => {
        if (!live) return;
        // What is as it was stays the same object, and nothing that shows it is drawn again.
        store.setState((s) => ({ known: replaceEqualDeep(s.known, known), fault: undefined }));
        // Tags or copies have changed, and an order or a need rested on them.
        if (known.settled) {
          const { settled, lost } = known;
          store.getState().adjust((d) => takeDocument(settled, "").apply(d));
          if (lost?.length) store.setState({ remark: lostWords(lost) });
        }
      },
      (error: unknown) => {
        if (!live) return;
        const faults = error instanceof EngineError ? error.failure.faults : undefined;
        store.setState({ fault: faults?.[0]?.message ?? (error instanceof Error ? error.message : String(error)) });
      },
    );
    return () => {
      live = false;
    };
  }, [store, doc]);
  return null;
}
