import type { StoreApi } from "zustand";
import { t } from "@lingui/core/macro";
import { problemOf } from "../api/client";
import { requestID } from "../api/request";
import type { Session } from "./history";
import type { UnsavedWork } from "./unsaved";

const pause = 500; // ms without a change before it is saved
const retry = 3000;
const mostSent = 500; // ids that are remembered

/** Writes a document that was made from a revision, under the id of this save. */
export type Write<D> = (id: string, revision: number, save: string, doc: D) => Promise<{ revision: number }>;

/**
 * Does something with a document while nothing else in this browser saves it: who
 * leaves and comes straight back finds what was just saved. (Browsers lend locks to
 * secure pages and localhost alone; elsewhere it goes without.)
 */
export async function whileSettled<T>(id: string, act: () => Promise<T>): Promise<T> {
  return navigator.locks ? await navigator.locks.request(`magpie-save-${id}`, () => act()) : act();
}

/** Saves a document by itself, one save at a time, until it is stopped. */
export class Saver<D> {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private running: Promise<void> | undefined;
  private stopped = false;
  private sent: string[] = [];
  /** The document that went out last and was not answered. */
  private tried: D | undefined;
  private readonly stopListening: () => void;

  constructor(
    private readonly store: StoreApi<Session<D>>,
    private readonly write: Write<D>,
    readonly unsaved: UnsavedWork<D>,
  ) {
    const online = () => this.store.getState().saving === "failed" && void this.flush();
    window.addEventListener("online", online);
    const unsubscribe = store.subscribe((now, before) => {
      if (now.doc === before.doc) return;
      this.keep();
      if (now.saving !== "conflict") this.soon(pause);
    });
    this.stopListening = () => {
      window.removeEventListener("online", online);
      unsubscribe();
    };
  }

  private keep() {
    const { doc, revision } = this.store.getState();
    this.unsaved.keep({ doc, revision, sent: this.sent });
  }

  private soon(wait: number) {
    clearTimeout(this.timer);
    if (!this.stopped) this.timer = setTimeout(() => void this.flush(), wait);
  }

  /** Goes on with what an earlier visit could not save; a newer revision of others is a conflict like any other. */
  async comeBack(draft: { document: D; revision: number }) {
    const saved = JSON.stringify(draft.document);
    // Whoever has gone on working meanwhile goes on with that; what was left stays kept.
    const isUntouched = () => !this.stopped && this.store.getState().doc === draft.document;
    const work = await this.unsaved.takeOver((doc) => JSON.stringify(doc) === saved, isUntouched);
    if (!work || !isUntouched()) return;
    this.sent = work.sent;
    this.store.setState({ doc: work.doc, revision: work.revision, saving: "unsaved" });
    await this.flush();
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
      await this.store.getState().acting; // it belongs to what was done
      const { id, doc, revision, saving } = this.store.getState();
      // What failed is tried again by a later flush, not by this one.
      if (saving !== "unsaved" && !(first && saving === "failed")) return;
      first = false;
      this.store.setState({ saving: "saving" });
      await this.save(id, doc, revision);
    }
  }

  private async save(id: string, doc: D, revision: number) {
    // The same document goes out again under its id: however long there is no connection, the
    // one that may have reached the server stays among those that are remembered.
    if (doc !== this.tried) this.sent = [...this.sent.slice(1 - mostSent), requestID()];
    this.tried = doc;
    const save = this.sent.at(-1)!;
    this.keep();
    try {
      const saved = await whileSettled(id, () => this.write(id, revision, save, doc));
      this.saved(doc, saved.revision);
    } catch (error) {
      const problem = problemOf(error);
      const { current } = problem;
      if (problem.code === "newer-revision" && current?.save && this.sent.includes(current.save)) {
        // It is one of ours, whose answer was lost: what has changed since is made from it.
        this.store.setState({ revision: current.revision, saving: "unsaved", problem: undefined });
        return;
      }
      const conflict = problem.code === "newer-revision";
      const detail =
        problem.code === "no-server"
          ? t`No connection to the server. Your work is kept here, and saving is tried again.`
          : problem.detail;
      this.store.setState({ problem: { ...problem, detail }, saving: conflict ? "conflict" : "failed" });
      if (!conflict) this.soon(retry);
    }
  }

  private saved(doc: D, revision: number) {
    const unchanged = this.store.getState().doc === doc;
    this.sent = [];
    this.tried = undefined;
    this.store.setState({ revision, saving: unchanged ? "saved" : "unsaved", problem: undefined });
    if (unchanged) this.unsaved.forget();
    else this.keep();
  }

  /** Goes on with this document in place of the newer one. */
  overwrite(revision: number) {
    this.store.setState({ revision, saving: "unsaved", problem: undefined });
    return this.flush();
  }

  /** Saves what is not saved, and stops. */
  async stop() {
    this.stopListening();
    this.stopped = true;
    await this.flush();
    clearTimeout(this.timer);
  }
}
