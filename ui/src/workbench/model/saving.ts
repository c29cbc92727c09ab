import { api, ask } from "../../api/client";
import type { Doc, Draft } from "../../api/types";
import type { Write } from "../../document/saver";

export const write: Write<Doc> = (id, revision, save, doc) =>
  ask(api.PUT("/api/activities/{id}", { params: { path: { id }, query: { revision, save } }, body: doc }));

/** Keeps a document as an activity of its own. */
export function keepCopy(doc: Doc): Promise<Draft> {
  return ask(api.POST("/api/activities", { body: doc }));
}
