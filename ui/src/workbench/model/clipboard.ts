import { t } from "@lingui/core/macro";
import type { Doc } from "../../api/types";
import { engine } from "../../engine/engine";
import { nameOf } from "../../document/parts";
import { keep, kept } from "../../kit/kept";
import { act } from "./acts";
import type { DraftStore, Selection } from "./draft";

/** Where copied parts wait, for this activity and others of this browser. */
const copied = "magpie-parts";

type Copied = { from: string; doc: Doc; text: string };

/** What other programs get of copied parts. */
export const textOfParts = (doc: Doc, parts: Selection) =>
  [...doc.items, ...doc.targets]
    .filter((p) => [...parts.items, ...parts.targets].includes(p.id))
    .map(nameOf)
    .join("\n");

// What is copied is worked out before it is kept: a paste that comes meanwhile waits for it.
let copying = Promise.resolve();

/** Keeps parts for pasting, here and in other activities; cut takes them out. */
export function copyParts(store: DraftStore, parts: Selection, cut: boolean) {
  const { doc, id } = store.getState();
  const text = textOfParts(doc, parts);
  copying = store.getState().queue(async () => {
    const { document } = await engine.edit(doc, { act: "keep", parts });
    if (!keep(copied, { from: id, doc: document, text } satisfies Copied)) {
      store.setState({ remark: t`This browser does not let the page store anything, so nothing was copied.` });
    } else if (cut) act(store, "cut", "remove");
    else store.setState({ remark: t`Copied. Paste here or in another activity.` });
  });
}

/** Copies what is selected without the browser's own command for it. */
export function copySelected(store: DraftStore, cut: boolean) {
  const { doc, selection } = store.getState();
  // Where a page may not write to it, other programs get nothing.
  void navigator.clipboard?.writeText(textOfParts(doc, selection)).catch(() => {});
  copyParts(store, selection, cut);
}

/** Rows or cells, as a spreadsheet copies them. */
const isTable = (text: string) => /[\t\n]/.test(text.trim());

/**
 * Puts in what was copied, here a little aside, elsewhere where it was. Rows that have been
 * copied in another program since are shown as the table that they would be taken in as.
 */
export async function pasteParts(store: DraftStore, text = "") {
  if (store.getState().refuses()) return;
  await copying;
  const waiting = kept<Copied>(copied);
  const rows = text.replace(/\r\n?/g, "\n");
  if (isTable(rows) && rows !== waiting?.text) {
    store.setState({ asking: "table", table: rows });
    return;
  }
  if (!waiting) {
    store.setState({ remark: t`Nothing has been copied yet.` });
    return;
  }
  const { from, doc } = waiting;
  const aside = from === store.getState().id ? 24 : 0;
  await store.getState().edit(t`paste parts`, { act: "insert", from: doc, dx: aside, dy: aside });
}
