import { replaceEqualDeep } from "@tanstack/react-query";
import { current, isDraft } from "immer";
import { t } from "@lingui/core/macro";
import type { Change as Made } from "../../document/history";
import { itemOf, sceneryOf, targetOf, type PartID } from "../../document/parts";
import type { Doc, Item, Rect, Target } from "../../api/types";

export type Change = Made<Doc>;

/** Several changes as one undo step. */
export function together(says: string, changes: Change[]): Change {
  return { says, apply: (doc) => changes.forEach((c) => c.apply(doc)) };
}

/** Names a part; a face or label that showed the old name shows the new one. */
export function setName(part: Item | Target, name: string) {
  if ("label" in part) {
    if (part.label.text === part.name) part.label.text = name.slice(0, 200);
  } else if (part.text === part.name) part.text = name.slice(0, 200);
  part.name = name.slice(0, 200);
}

/** What stands on a target's rim; a target without a name of its own is called so. */
export function setLabel(target: Target, text: string) {
  const own = target.name !== "" && target.name !== target.label.text;
  target.label.text = text.slice(0, 200);
  if (!own && text) target.name = target.label.text;
}

/** The text on a piece; an item without a name of its own is called so. */
export function setText(item: Item, text: string) {
  const own = item.name !== "" && item.name !== item.text;
  item.text = text.slice(0, 1000);
  if (!own && text) item.name = text.slice(0, 200);
}

export function rename({ kind, id }: PartID, name: string): Change {
  return {
    says: t`rename to ${name}`,
    apply: (doc) => {
      const part = kind === "item" ? itemOf(doc, id) : kind === "target" ? targetOf(doc, id) : undefined;
      if (part) setName(part, name);
    },
  };
}

export function retitle(title: string): Change {
  return { says: t`change the title`, apply: (doc) => void (doc.title = title) };
}

export function instruct(text: string): Change {
  return { says: t`change the instructions`, apply: (doc) => void (doc.instructions = text) };
}

const inBoard = (v: number, size: number, room: number) =>
  Math.round(Math.min(Math.max(v, 0), Math.max(0, room - size)));

/** Moves parts by so much; none leaves the board. Items in the tray stay there. */
export function move(parts: PartID[], dx: number, dy: number, merge?: string): Change {
  return {
    says: parts.length === 1 ? t`move` : t`move ${parts.length} parts`,
    merge,
    apply: (doc) => {
      const { width, height } = doc.board;
      for (const { kind, id } of parts) {
        const home = kind === "item" ? itemOf(doc, id)?.home : undefined;
        const size = kind === "item" ? itemOf(doc, id)?.size : undefined;
        if (home && size) {
          home.x = inBoard(home.x + dx, size.w, width);
          home.y = inBoard(home.y + dy, size.h, height);
        }
        const target = kind === "target" ? targetOf(doc, id) : undefined;
        if (target) {
          const { x, y, w, h } = target.frame;
          moveFrame(target, { x: inBoard(x + dx, w, width), y: inBoard(y + dy, h, height), w, h });
        }
        const scenery = kind === "scenery" ? sceneryOf(doc, id) : undefined;
        if (scenery?.frame) {
          const { x, y, w, h } = scenery.frame;
          scenery.frame = { x: inBoard(x + dx, w, width), y: inBoard(y + dy, h, height), w, h };
        }
        for (const end of [scenery?.from, scenery?.to]) {
          if (!end) continue;
          end.x = inBoard(end.x + dx, 0, width);
          end.y = inBoard(end.y + dy, 0, height);
        }
      }
    },
  };
}

/** Gives an item a place of its own on the board, or, without one, the tray. */
export function setHome(id: string, at: { x: number; y: number } | undefined): Change {
  return {
    says: at ? t`put on the board` : t`put into the tray`,
    apply: (doc) => {
      const item = itemOf(doc, id);
      if (!item) return;
      if (!at) delete item.home;
      else {
        item.home = {
          x: inBoard(at.x, item.size.w, doc.board.width),
          y: inBoard(at.y, item.size.h, doc.board.height),
        };
      }
    },
  };
}

const hundredths = (v: number) => Math.round(100 * v);

/** How far from its new edge a corner is, in hundredths. */
const scaled = (far: number, to: number, from: number) =>
  Math.round((hundredths(far) * hundredths(to)) / Math.max(1, hundredths(from)));

/**
 * A target's new frame; the corners of a polygon go with it. The core has the rule (SetFrame), and a test holds this to
 * it: a drag cannot wait for an answer.
 */
export function moveFrame(target: Target, to: Target["frame"]) {
  const from = target.frame;
  target.points = (target.points ?? []).map((p) => [
    (hundredths(to.x) + scaled(p![0]! - from.x, to.w, from.w)) / 100,
    (hundredths(to.y) + scaled(p![1]! - from.y, to.h, from.h)) / 100,
  ]);
  target.frame = to;
}

const smallest = 24;

/** Gives parts a new frame; an item in the tray takes its size only. */
export function resize(part: PartID, to: Rect, merge?: string): Change {
  const frame = {
    x: Math.round(to.x),
    y: Math.round(to.y),
    w: Math.max(smallest, Math.round(to.w)),
    h: Math.max(smallest, Math.round(to.h)),
  };
  return {
    says: t`resize`,
    merge,
    apply: (doc) => {
      const item = part.kind === "item" ? itemOf(doc, part.id) : undefined;
      if (item) {
        item.size = { w: frame.w, h: frame.h };
        if (item.home) item.home = { x: Math.max(0, frame.x), y: Math.max(0, frame.y) };
      }
      const target = part.kind === "target" ? targetOf(doc, part.id) : undefined;
      if (target) moveFrame(target, { ...frame, x: Math.max(0, frame.x), y: Math.max(0, frame.y) });
      const scenery = part.kind === "scenery" ? sceneryOf(doc, part.id) : undefined;
      if (scenery) scenery.frame = { ...frame, x: Math.max(0, frame.x), y: Math.max(0, frame.y) };
    },
  };
}

/** Moves one end of a line. The first end of a pointer let go over another target is tied to that. */
export function bendLine(id: string, end: "from" | "to", to: { x: number; y: number }): Change {
  return {
    says: t`move an end`,
    apply: (doc) => {
      const s = sceneryOf(doc, id);
      if (!s) return;
      s[end] = { x: inBoard(to.x, 0, doc.board.width), y: inBoard(to.y, 0, doc.board.height) };
      if (end === "from" && s.tie) {
        const over = doc.targets.find(
          ({ frame: f }) => to.x >= f.x && to.y >= f.y && to.x <= f.x + f.w && to.y <= f.y + f.h,
        );
        s.tie = over?.id ?? "";
      }
    },
  };
}

/** Lines that are tied to a target begin at its edge, on the way to where they point. */
export function tieLines(doc: Doc) {
  for (const s of doc.scenery) {
    const f = s.tie ? targetOf(doc, s.tie)?.frame : undefined;
    if (!f || !s.from || !s.to) continue;
    // As the core does it, in halves of hundredths.
    const [w, h] = [hundredths(f.w), hundredths(f.h)];
    const [cx, cy] = [2 * hundredths(f.x) + w, 2 * hundredths(f.y) + h];
    const [dx, dy] = [2 * hundredths(s.to.x) - cx, 2 * hundredths(s.to.y) - cy];
    let [num, den] = w < Math.abs(dx) ? [w, Math.abs(dx)] : [1, 1];
    if (h * den < num * Math.abs(dy)) [num, den] = [h, Math.abs(dy)];
    const x = Math.round((cx * den + dx * num) / (200 * den));
    const y = Math.round((cy * den + dy * num) / (200 * den));
    if (s.from.x !== x || s.from.y !== y) s.from = { x, y };
  }
}

/** Takes over a document that the core has changed. */
export function takeDocument(from: Doc, says: string): Change {
  return {
    says,
    apply: (doc) => {
      // What is as it was stays the same object: it is no step of undo, and is not drawn again.
      const was = isDraft(doc) ? current(doc) : doc;
      const next = replaceEqualDeep(was, from);
      for (const key of Object.keys(next) as (keyof Doc)[]) {
        if (next[key] !== was[key]) Object.assign(doc, { [key]: next[key] });
      }
    },
  };
}
