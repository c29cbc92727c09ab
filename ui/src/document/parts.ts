import { t } from "@lingui/core/macro";
import type { Doc, Item, Target } from "../api/types";

export type PartID = { kind: "item" | "target" | "scenery"; id: string };

export const itemOf = (doc: Doc, id: string) => doc.items.find((i) => i.id === id);
export const targetOf = (doc: Doc, id: string) => doc.targets.find((target) => target.id === id);
export const sceneryOf = (doc: Doc, id: string) => doc.scenery.find((s) => s.id === id);
/** The item of a piece: its copies are counted behind a tilde. */
export const itemOfPiece = (piece: string) => piece.split("~")[0]!;
export const nameOf = (part: Item | Target | undefined) => part?.name || part?.id || "";

/** Where a piece of an item goes when it is put back. */
export const startOf = (item: Item | undefined) => (item?.home ? t`its start` : t`the tray`);

/** Where pieces go when they are put back. */
export function startsOf(doc: Doc) {
  const own = doc.items.filter((i) => i.home).length;
  return own === 0 ? t`the tray` : own === doc.items.length ? t`their starts` : t`where they started`;
}
