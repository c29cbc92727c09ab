import { applyPatches, enablePatches, produceWithPatches, type Patch } from "immer";
import type { StoreApi } from "zustand";
import { t } from "@lingui/core/macro";
import type { Problem } from "../api/types";
import { tell } from "../kit/notices";

enablePatches();

/**
 * What joins a change to the one before: a name, by which what is done again within a moment is
 * one step, as nudges are; or a symbol, which is one act's own, however long it is worked on.
 */
export type Merge = string | symbol;

/** What can be done to a document. Each is a function of the document, and one undo step. */
export type Change<D> = { says: string; merge?: Merge; apply: (doc: D) => void };

type Step = { says: string; merge?: Merge; at: number; patches: Patch[]; inverse: Patch[]; view: object };

export type Saving = "saved" | "unsaved" | "saving" | "failed" | "conflict";

/** A document that is worked on: with undo, and how it stands with saving. */
export type Session<D> = {
  id: string;
  doc: D;
  /** Whoever is here may change it; else it is looked at. */
  mayChange: boolean;
  /** The revision that the server has. */
  revision: number;
  saving: Saving;
  /** What is still worked out; what it does is not in the document yet. It never fails. */
  acting?: Promise<void>;
  problem?: Problem;
  past: Step[];
  future: Step[];
  /** What the last undo or redo did, for saying it. */
  undone: string;
  /** True where it may only be looked at, which is then said. */
  refuses(): boolean;
  change(change: Change<D>): void;
  /** What has to follow a change belongs to its step. */
  adjust(apply: (doc: D) => void): void;
  undo(): void;
  redo(): void;
};

type Options<D, S> = {
  mayChange: boolean;
  /** Brings in line what rests on what was changed. */
  settle?: (doc: D) => void;
  /** Where one was when something was done: undo goes back there. */
  view?: (state: S) => Partial<S>;
  /** What is over once something else is done, or undone. */
  over?: Partial<S>;
  overByUndo?: Partial<S>;
};

const mergeWithin = 1000; // ms in which nudges of the same kind are one step

/** The part of a store that is its document. */
export function documentSession<D extends object, S extends Session<D>>(
  draft: { id: string; document: D; revision: number },
  set: (part: Partial<S>) => void,
  get: StoreApi<S>["getState"],
  { mayChange, settle, view, over, overByUndo }: Options<D, S>,
): Session<D> {
  const put = (part: Partial<Session<D>>, more?: Partial<S>) => set({ ...part, ...more } as Partial<S>);
  const step = (back: boolean) => {
    const { doc, past, future } = get();
    const step = (back ? past : future).at(-1);
    if (!step) return;
    put(
      {
        doc: applyPatches(doc, back ? step.inverse : step.patches),
        past: back ? past.slice(0, -1) : [...past, { ...step, merge: undefined }],
        future: back ? [...future, step] : future.slice(0, -1),
        saving: "unsaved",
        undone: back ? t`Undone: ${step.says}` : t`Redone: ${step.says}`,
      },
      { ...step.view, ...overByUndo } as Partial<S>,
    );
  };
  return {
    id: draft.id,
    doc: draft.document,
    mayChange,
    revision: draft.revision,
    saving: "saved",
    past: [],
    future: [],
    undone: "",
    refuses: () => {
      if (!mayChange) tell(t`You can look at this and try it. A designer of the workspace can change it.`);
      return !mayChange;
    },
    change: (change) => {
      if (get().refuses()) return;
      const { doc, past } = get();
      const [next, patches, inverse] = produceWithPatches(doc, (d) => {
        change.apply(d as D);
        settle?.(d as D);
      });
      if (patches.length === 0) return;
      const last = past.at(-1);
      const at = Date.now();
      const joined =
        change.merge !== undefined &&
        last?.merge === change.merge &&
        (typeof change.merge === "symbol" || at - last.at < mergeWithin);
      const step = joined
        ? { ...last, at, patches: [...last.patches, ...patches], inverse: [...inverse, ...last.inverse] }
        : { says: change.says, merge: change.merge, at, patches, inverse, view: view?.(get()) ?? {} };
      put(
        { doc: next, past: [...(joined ? past.slice(0, -1) : past), step], future: [], saving: "unsaved", undone: "" },
        over,
      );
    },
    adjust: (apply) => {
      if (!mayChange) return;
      const { doc, past } = get();
      const [next, patches, inverse] = produceWithPatches(doc, (d) => apply(d as D));
      if (patches.length === 0) return;
      const last = past.at(-1);
      const step = last && { ...last, patches: [...last.patches, ...patches], inverse: [...inverse, ...last.inverse] };
      put({ doc: next, saving: "unsaved", ...(step ? { past: [...past.slice(0, -1), step] } : {}) });
    },
    undo: () => step(true),
    redo: () => step(false),
  };
}
