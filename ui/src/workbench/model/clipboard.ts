import { t } from "@lingui/core/macro";
import type { Doc } from "../../api/types";
import { engine } from "../../engine/engine";
import { keep, kept } from "../../kit/kept";
import { act } from "./acts";
import type { DraftStore, Selection } from "./draft";

/** Where copied parts wait, for this activity and others of this browser. */
const copied = "magpie-parts";

/** Keeps parts for pasting, here and in other activities; cut takes them out. */
export async function copyParts(store: DraftStore, parts: Selection, cut: boolean) {
  const { doc, id } = store.getState();
  const { document } = await engine.edit(doc, { act: "keep", parts });
  if (!keep(copied, { from: id, doc: document })) {
    store.setState({ remark: t`This browser does not let the page store anything, so nothing was copied.` });
  } else if (cut) act(store, "cut", "remove");
  else store.setState({ remark: t`Copied. Paste here or in another activity.` });
}

/** Puts in what was copied, here a little aside, elsewhere where it was. */
export function pasteParts(store: DraftStore) {
  const waiting = kept<{ from: string; doc: Doc }>(copied);
  if (!waiting) {
    store.setState({ remark: t`Nothing has been copied yet.` });
    return;
  }
  const { from, doc } = waiting;
  const aside = from === store.getState().id ? 24 : 0;
  void store.getState().edit(t`paste parts`, { act: "insert", from: doc, dx: aside, dy: aside });
}
