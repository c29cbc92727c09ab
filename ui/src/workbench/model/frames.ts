import type { Doc, Item, Rect, Scenery, Target } from "../../api/types";
import { itemOf, sceneryOf, targetOf, type PartID } from "../../document/parts";

/** The part itself, whichever list it is in. */
export function partOf(doc: Doc, { kind, id }: PartID): Item | Target | Scenery | undefined {
  return (kind === "item" ? itemOf : kind === "target" ? targetOf : sceneryOf)(doc, id);
}

/** Where a part is on the board; an item in the tray is nowhere. */
export function frameOf(doc: Doc, part: PartID): Rect | undefined {
  if (part.kind === "item") {
    const item = itemOf(doc, part.id);
    return item?.home && { ...item.home, ...item.size };
  }
  if (part.kind === "target") return targetOf(doc, part.id)?.frame;
  const s = sceneryOf(doc, part.id);
  if (s?.frame) return s.frame;
  return s?.from && s.to ? around([corner(s.from), corner(s.to)]) : undefined;
}

const corner = (p: { x: number; y: number }): Rect => ({ ...p, w: 0, h: 0 });

/** The smallest frame that holds all. */
export function around(frames: Rect[]): Rect {
  const x = Math.min(...frames.map((f) => f.x));
  const y = Math.min(...frames.map((f) => f.y));
  return {
    x,
    y,
    w: Math.max(...frames.map((f) => f.x + f.w)) - x,
    h: Math.max(...frames.map((f) => f.y + f.h)) - y,
  };
}

export const meets = (a: Rect, b: Rect) => a.x < b.x + b.w && b.x < a.x + a.w && a.y < b.y + b.h && b.y < a.y + a.h;

export const holds = (f: Rect, p: { x: number; y: number }) =>
  p.x >= f.x && p.y >= f.y && p.x <= f.x + f.w && p.y <= f.y + f.h;

/** All parts of the board in document order: scenery, targets, items. */
export const allParts = (doc: Doc): PartID[] => [
  ...doc.scenery.map((s) => ({ kind: "scenery" as const, id: s.id })),
  ...doc.targets.map((t) => ({ kind: "target" as const, id: t.id })),
  ...doc.items.map((i) => ({ kind: "item" as const, id: i.id })),
];

/** The reading order: as it is set, then what it leaves out in document order. */
export function readingOrder(doc: Doc): PartID[] {
  const all = allParts(doc);
  const byID = new Map(all.toReversed().map((p) => [p.id, p])); // of several, the first
  const set = new Set(doc.order.flatMap((id) => byID.get(id) ?? []));
  return [...set, ...all.filter((p) => !set.has(p))];
}

/** Whether two states of a document differ in nothing that somebody arranges: in words, pictures and the key alone. */
export function arrangedAlike(a: Doc, b: Doc): boolean {
  const arranged = ({ kind, board, items, targets, scenery }: Doc) =>
    JSON.stringify([
      [kind, board],
      items.map(({ id, size, home, looks }) => [id, size, home, looks]),
      targets.map(({ id, frame, shape, points, arrange, label, looks }) => [
        id,
        frame,
        shape,
        points,
        arrange,
        label.side,
        looks,
      ]),
      scenery.map(({ id, frame, from, to, style }) => [id, frame, from, to, style]),
    ]);
  return arranged(a) === arranged(b);
}
