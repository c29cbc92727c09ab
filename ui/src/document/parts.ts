import type { Doc, Item, Target } from "../api/types";

export type PartID = { kind: "item" | "target" | "scenery"; id: string };

export const itemOf = (doc: Doc, id: string) => doc.items.find((i) => i.id === id);
export const targetOf = (doc: Doc, id: string) => doc.targets.find((t) => t.id === id);
export const sceneryOf = (doc: Doc, id: string) => doc.scenery.find((s) => s.id === id);
/** The item of a piece: its copies are counted behind a tilde. */
export const itemOfPiece = (piece: string) => piece.split("~")[0]!;
export const nameOf = (part: Item | Target | undefined) => part?.name || part?.id || "";
