import { useEffect, useState } from "react";
import type { StoreApi } from "zustand";
import type { Session } from "./history";
import { Saver, type Write } from "./saver";
import { UnsavedWork } from "./unsaved";

type Options<D> = {
  store: StoreApi<Session<D>>;
  draft: { id: string; document: D; revision: number };
  write: Write<D>;
  /** Who works on it, and what kind of document it is. */
  account: string;
  form: "activity" | "series";
  /** All is saved and the view is left. */
  onLeft: () => void;
};

/** Saves a document for as long as its view is there, and brings back what was not saved before. */
export function useSaver<D>({ store, draft, write, account, form, onLeft }: Options<D>): Saver<D> | null {
  const [saver, setSaver] = useState<Saver<D> | null>(null);
  useEffect(() => {
    const made = new Saver(store, write, new UnsavedWork<D>(account, form, draft.id));
    setSaver(made);
    void made.comeBack(draft);
    const warn = (e: BeforeUnloadEvent) => {
      if (store.getState().saving !== "saved") e.preventDefault();
    };
    window.addEventListener("beforeunload", warn);
    return () => {
      window.removeEventListener("beforeunload", warn);
      void made.stop().then(onLeft);
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what is left is what was there when it came
  }, [store, draft]);
  return saver;
}
