import { api, ask, problemOf } from "../api/client";
import type { Doc, Draft } from "../api/types";
import type { DraftStore } from "./draft";

const pause = 500; // ms without a change before it is saved
const retry = 3000;

/** Keeps what is not yet saved in this browser, so that closing it loses nothing. */
const keptKey = (id: string) => `magpie-unsaved-${id}`;

export function unsavedOf(id: string): { doc: Doc; revision: number } | undefined {
  try {
    const kept = localStorage.getItem(keptKey(id));
    return kept ? (JSON.parse(kept) as { doc: Doc; revision: number }) : undefined;
  } catch {
    return undefined;
  }
}

export const forgetUnsaved = (id: string) => localStorage.removeItem(keptKey(id));

function write(id: string, revision: number, doc: Doc) {
  return ask(
    api.PUT("/api/activities/{id}", {
      params: { path: { id }, query: { revision } },
      body: doc,
    }),
  );
}

/** Keeps a document as an activity of its own. */
export function keepCopy(doc: Doc): Promise<Draft> {
  return ask(api.POST("/api/activities", { body: doc }));
}

/**
 * Does something with an activity while nothing else in this browser saves it: who
 * leaves the workbench and comes straight back finds what was just saved. (Browsers
 * lend locks to secure pages and localhost alone; elsewhere it goes without.)
 */
export async function whileSettled<T>(id: string, act: () => Promise<T>): Promise<T> {
  return navigator.locks ? await navigator.locks.request(`magpie-save-${id}`, () => act()) : act();
}

/** Saves the draft by itself, one save at a time, until it is stopped. */
export class Saver {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private running: Promise<void> | undefined;
  private readonly stopListening: () => void;

  constructor(private readonly store: DraftStore) {
    this.stopListening = store.subscribe((now, before) => {
      if (now.doc === before.doc) return;
      localStorage.setItem(keptKey(now.id), JSON.stringify({ doc: now.doc, revision: now.revision }));
      if (now.saving !== "conflict") this.soon(pause);
    });
  }

  private soon(wait: number) {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.flush(), wait);
  }

  /** Saves now what is not saved, and waits for it. Whoever asks meanwhile waits for the same. */
  flush(): Promise<void> {
    clearTimeout(this.timer);
    this.running ??= this.saveAll().finally(() => (this.running = undefined));
    return this.running;
  }

  private async saveAll() {
    let first = true;
    for (;;) {
      const { id, doc, revision, saving } = this.store.getState();
      // What failed is tried again by a later flush, not by this one.
      if (saving !== "unsaved" && !(first && saving === "failed")) return;
      first = false;
      this.store.setState({ saving: "saving" });
      await this.save(id, doc, revision);
    }
  }

  private async save(id: string, doc: Doc, revision: number) {
    try {
      const saved = await whileSettled(id, () => write(id, revision, doc));
      const unchanged = this.store.getState().doc === doc;
      this.store.setState({ revision: saved.revision, saving: unchanged ? "saved" : "unsaved", problem: undefined });
      if (unchanged) forgetUnsaved(id);
    } catch (error) {
      const problem = problemOf(error);
      this.store.setState({ problem, saving: problem.code === "newer-revision" ? "conflict" : "failed" });
      if (problem.code !== "newer-revision") this.soon(retry);
    }
  }

  /** Goes on with this draft in place of the newer one. */
  overwrite(revision: number) {
    this.store.setState({ revision, saving: "unsaved", problem: undefined });
    return this.flush();
  }

  /** Saves what is not saved, and stops. */
  async stop() {
    this.stopListening();
    await this.flush();
    clearTimeout(this.timer);
  }
}
