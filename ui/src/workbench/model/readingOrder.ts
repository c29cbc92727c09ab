import { t } from "@lingui/core/macro";
import { frameOf, readingOrder } from "./frames";
import type { Change } from "./changes";
import type { PartID } from "../../document/parts";

/** Reads these parts first, in this order, and the rest as before. */
export function readFirst(parts: PartID[]): Change {
  return {
    says: t`change the reading order`,
    apply: (doc) => {
      const ids = parts.map((p) => p.id);
      doc.order = unique([...ids, ...readingOrder(doc).map((p) => p.id)]);
    },
  };
}

/** Reads a part at a place in the order, from 1. */
export function readAt(part: PartID, place: number): Change {
  return {
    says: t`change the reading order`,
    apply: (doc) => {
      const ids = unique(readingOrder(doc).map((p) => p.id)).filter((id) => id !== part.id);
      ids.splice(place - 1, 0, part.id);
      doc.order = ids;
    },
  };
}

/** Reads the board in rows from its top, what is in the tray last. */
export function orderByPlace(): Change {
  return {
    says: t`set the reading order by place`,
    apply: (doc) => {
      const far = { x: 0, y: doc.board.height + 1, w: 0, h: 0 };
      const parts = readingOrder(doc).map((p) => ({ p, f: frameOf(doc, p) ?? far }));
      // What overlaps by more than half of its height with what began a row stands in that row.
      parts.sort((a, b) => a.f.y - b.f.y);
      const rows: (typeof parts)[] = [];
      for (const x of parts) {
        const row = rows.at(-1);
        if (row && x.f.y + x.f.h / 2 < row[0]!.f.y + row[0]!.f.h && x.f !== far) row.push(x);
        else rows.push([x]);
      }
      doc.order = unique(rows.flatMap((row) => row.sort((a, b) => a.f.x - b.f.x).map((x) => x.p.id)));
    },
  };
}

/** An item and a target may have one id; the order names it once. */
const unique = (ids: string[]) => [...new Set(ids)];
