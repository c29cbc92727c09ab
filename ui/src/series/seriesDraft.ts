import { createStore, type StoreApi } from "zustand";
import { api, ask } from "../api/client";
import type { Series, SeriesDraft } from "../api/types";
import { documentSession, type Session } from "../document/history";
import type { Write } from "../document/saver";

export const write: Write<Series> = (id, revision, save, doc) =>
  ask(api.PUT("/api/series/{id}", { params: { path: { id }, query: { revision, save } }, body: doc }));

/** Keeps a document as a series of its own. */
export const keepCopy = (doc: Series) => ask(api.POST("/api/series/documents", { body: doc }));

export type SeriesStore = StoreApi<Session<Series>>;

/** A series being worked on. */
export const createSeries = (draft: SeriesDraft, mayChange: boolean): SeriesStore =>
  createStore<Session<Series>>((set, get) => documentSession<Series, Session<Series>>(draft, set, get, { mayChange }));

/** What the fields of a series need of it. */
export type SeriesEditing = {
  id: string;
  doc: Series;
  change: (says: string, apply: (doc: Series) => void, merge?: string) => void;
};
