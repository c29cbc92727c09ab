import { replaceEqualDeep } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { engine, EngineError } from "../../engine/engine";
import type { Doc } from "../../api/types";
import { takeDocument } from "./changes";
import { arrangedAlike } from "./frames";
import { lostWords, useDraft, useDraftStore, type DraftStore } from "./draft";

/** Asks the engine about the draft after each change; a late answer to an older draft is dropped. */
export function Known() {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  const last = useRef<{ doc: Doc; follows: boolean }>(undefined);
  useEffect(() => {
    let live = true;
    engine.figures(doc, "latest").then(
      ({ follows, samples, ...known }) => {
        if (!live) return;
        // What is as it was stays the same object, and nothing that shows it is drawn again.
        store.setState((s) => ({ known: replaceEqualDeep(s.known, known), samples: samples > 0, fault: undefined }));
        const before = last.current;
        last.current = { doc, follows };
        if (before?.follows && !follows && arrangedAlike(before.doc, doc)) void fill(store, doc);
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

/** Longer words want larger pieces: a board that nobody has arranged is laid out again, as part of the same step. */
async function fill(store: DraftStore, doc: Doc) {
  const filled = await engine.edit(doc, { act: "fill" });
  if (store.getState().doc === doc) store.getState().adjust((d) => takeDocument(filled.document, "").apply(d));
}
