import { useCallback, useEffect, useRef, useState } from "react";
import { produce } from "immer";
import { api, ask, problemOf } from "../api/client";
import type { Problem, Series, SeriesDraft } from "../api/types";

type Step = { doc: Series; says: string; merge?: string; at: number };

/** A series being worked on: its document with undo, saved by itself. */
export function useSeriesDraft(draft: SeriesDraft) {
  const [doc, setDoc] = useState(draft.document);
  const [past, setPast] = useState<Step[]>([]);
  const [future, setFuture] = useState<Step[]>([]);
  const [saving, setSaving] = useState<"saved" | "saving" | "failed">("saved");
  const [problem, setProblem] = useState<Problem>();
  const revision = useRef(draft.revision);
  const saved = useRef(draft.document);
  const latest = useRef(doc);
  const running = useRef<Promise<void>>(undefined);

  /** Saves what is not saved, one save at a time. */
  const flush = useCallback(async () => {
    const save = async () => {
      while (saved.current !== latest.current) {
        const doc = latest.current;
        setSaving("saving");
        const done = await ask(
          api.PUT("/api/series/{id}", {
            params: { path: { id: draft.id }, query: { revision: revision.current } },
            body: doc,
          }),
        );
        revision.current = done.revision;
        saved.current = doc;
      }
      setSaving("saved");
      setProblem(undefined);
    };
    running.current ??= save()
      .catch((error: unknown) => {
        setProblem(problemOf(error));
        setSaving("failed");
      })
      .finally(() => (running.current = undefined));
    return running.current;
  }, [draft.id]);

  useEffect(() => {
    latest.current = doc;
    if (doc === saved.current) return;
    setSaving("saving");
    const timer = setTimeout(() => void flush(), 400);
    return () => clearTimeout(timer);
  }, [doc, flush]);
  useEffect(() => () => void flush(), [flush]);

  const change = (says: string, apply: (doc: Series) => void, merge?: string) => {
    const next = produce(doc, (d) => {
      apply(d);
    });
    if (next === doc) return;
    const last = past.at(-1);
    const at = Date.now();
    const joined = merge && last?.merge === merge && at - last.at < 1000;
    setPast(joined ? [...past.slice(0, -1), { ...last, at }] : [...past, { doc, says, merge, at }]);
    setFuture([]);
    setDoc(next);
  };
  const undo = () => {
    const step = past.at(-1);
    if (!step) return;
    setPast(past.slice(0, -1));
    setFuture([...future, { ...step, doc }]);
    setDoc(step.doc);
  };
  const redo = () => {
    const step = future.at(-1);
    if (!step) return;
    setFuture(future.slice(0, -1));
    setPast([...past, { ...step, doc }]);
    setDoc(step.doc);
  };
  return {
    id: draft.id,
    doc,
    change,
    undo,
    redo,
    undoable: past.at(-1)?.says,
    redoable: future.at(-1)?.says,
    saving,
    problem,
    flush,
    revision: () => revision.current,
    isSaved: () => saved.current === latest.current,
  };
}

export type SeriesEditing = ReturnType<typeof useSeriesDraft>;
