import { useRef, useState, type PointerEvent, type RefObject } from "react";
import type { Rect } from "../../api/types";
import { itemOf, move, resize, sceneryOf, setHome, targetOf, together, type PartID } from "../changes";
import { isSelected, nothing, partsOf, selectionOf, useDraftStore } from "../draft";

export type Handling =
  | { kind: "move"; parts: PartID[]; dx: number; dy: number }
  | { kind: "resize"; part: PartID; frame: Rect }
  | { kind: "marquee"; frame: Rect };

type Options = { board: RefObject<HTMLElement | null>; tray: RefObject<HTMLElement | null>; scale: number };
type Press = {
  id: number;
  x: number;
  y: number;
  part?: PartID;
  frame?: Rect;
  corner?: string;
  going: boolean;
  add: boolean;
};

const slack = 4;

/**
 * What the pointer does on the board: selects, moves, resizes, draws a marquee.
 * While it is down only the drawing follows; the document changes once, at the end.
 */
export function useHandling({ board, tray, scale }: Options) {
  const store = useDraftStore();
  const [handling, setHandling] = useState<Handling | null>(null);
  const press = useRef<Press | null>(null);

  const onBoard = (e: { clientX: number; clientY: number }) => {
    const r = board.current!.getBoundingClientRect();
    return { x: (e.clientX - r.left) / scale, y: (e.clientY - r.top) / scale };
  };
  const within = (element: HTMLElement | null, e: { clientX: number; clientY: number }) => {
    const r = element?.getBoundingClientRect();
    return !!r && e.clientX >= r.left && e.clientX <= r.right && e.clientY >= r.top && e.clientY <= r.bottom;
  };
  const delta = (p: Press, e: PointerEvent) => ({ dx: (e.clientX - p.x) / scale, dy: (e.clientY - p.y) / scale });
  const take = (e: PointerEvent, more: Partial<Press>) => {
    press.current = { id: e.pointerId, x: e.clientX, y: e.clientY, going: false, add: e.shiftKey, ...more };
    e.currentTarget.setPointerCapture(e.pointerId);
    e.stopPropagation();
  };
  const started = (p: Press, e: PointerEvent) => {
    p.going ||= Math.hypot(e.clientX - p.x, e.clientY - p.y) >= slack;
    return p.going;
  };
  const current = (e: PointerEvent) => (press.current?.id === e.pointerId ? press.current : null);
  const drop = () => {
    press.current = null;
    setHandling(null);
  };

  const select = (part: PartID, add: boolean) => {
    const { selection } = store.getState();
    if (!add) {
      store.getState().select(selectionOf([part]));
      return;
    }
    const parts = partsOf(selection);
    const others = parts.filter((x) => x.kind !== part.kind || x.id !== part.id);
    store.getState().select(selectionOf(others.length < parts.length ? others : [...parts, part]));
  };

  const partHandlers = (part: PartID) => ({
    onPointerDown: (e: PointerEvent<HTMLElement>) => {
      if (e.button !== 0) return;
      take(e, { part });
    },
    onPointerMove: (e: PointerEvent<HTMLElement>) => {
      const p = current(e);
      if (!p?.part || p.corner || !started(p, e)) return;
      if (!isSelected(store.getState().selection, part)) select(part, false);
      setHandling({ kind: "move", parts: movable(), ...delta(p, e) });
    },
    onPointerUp: (e: PointerEvent<HTMLElement>) => {
      const p = current(e);
      if (!p?.part || p.corner) return;
      if (p.going) settle(p, e);
      else select(part, p.add);
      drop();
    },
    onPointerCancel: drop,
  });

  /** Pinned parts are not dragged by accident; arrow keys move them. */
  const movable = () => {
    const { doc, selection } = store.getState();
    return partsOf(selection).filter(
      ({ kind, id }) => !(kind === "item" ? itemOf : kind === "target" ? targetOf : sceneryOf)(doc, id)?.pinned,
    );
  };

  /** Parts on the board move; items let go over the tray, or out of it, change sides: all in one step. */
  const settle = (p: Press, e: PointerEvent<HTMLElement>) => {
    const { doc, change } = store.getState();
    const parts = movable();
    const inTray = parts.filter((x) => x.kind === "item" && !itemOf(doc, x.id)?.home);
    const onGround = parts.filter((x) => !inTray.includes(x));
    const { dx, dy } = delta(p, e);
    if (within(tray.current, e)) {
      const home = onGround.filter((x) => x.kind === "item").map((x) => setHome(x.id, undefined));
      if (home.length > 0) change(together("put into the tray", home));
      return;
    }
    const out = within(board.current, e) ? inTray.map((x) => setHome(x.id, seen(x.id))) : [];
    const moved = onGround.length > 0 ? [move(onGround, dx, dy)] : [];
    if (out.length > 0) change(together("put on the board", [...out, ...moved]));
    else if (moved[0]) change(moved[0]);
  };

  /** Where an item of the tray is on the screen now, in board units. */
  const seen = (id: string) => {
    const r = tray.current?.querySelector(`[data-part="item-${id}"]`)?.getBoundingClientRect();
    return r && onBoard({ clientX: r.left, clientY: r.top });
  };

  const stretched = (p: Press, e: PointerEvent): Rect => {
    const { dx, dy } = delta(p, e);
    const f = p.frame!;
    const west = p.corner!.includes("w");
    const north = p.corner!.includes("n");
    const w = Math.max(24, f.w + (west ? -dx : dx));
    let h = Math.max(24, f.h + (north ? -dy : dy));
    const item = p.part!.kind === "item" ? itemOf(store.getState().doc, p.part!.id) : undefined;
    if (item?.picture && !e.shiftKey) h = (w * f.h) / f.w; // a picture keeps its proportion
    return { x: west ? f.x + f.w - w : f.x, y: north ? f.y + f.h - h : f.y, w, h };
  };

  const handleHandlers = (part: PartID, frame: Rect, corner: string) => ({
    onPointerDown: (e: PointerEvent<HTMLElement>) => e.button === 0 && take(e, { part, frame, corner }),
    onPointerMove: (e: PointerEvent<HTMLElement>) => {
      const p = current(e);
      if (p?.corner && started(p, e)) setHandling({ kind: "resize", part, frame: stretched(p, e) });
    },
    onPointerUp: (e: PointerEvent<HTMLElement>) => {
      const p = current(e);
      if (p?.corner && p.going) store.getState().change(resize(part, stretched(p, e)));
      drop();
    },
    onPointerCancel: drop,
  });

  const marquee = (p: Press, e: PointerEvent): Rect => {
    const a = onBoard({ clientX: p.x, clientY: p.y });
    const b = onBoard(e);
    return { x: Math.min(a.x, b.x), y: Math.min(a.y, b.y), w: Math.abs(a.x - b.x), h: Math.abs(a.y - b.y) };
  };

  const groundHandlers = {
    onPointerDown: (e: PointerEvent<HTMLElement>) => {
      if (e.button === 0) take(e, {});
    },
    onPointerMove: (e: PointerEvent<HTMLElement>) => {
      const p = current(e);
      if (p && !p.part && started(p, e)) setHandling({ kind: "marquee", frame: marquee(p, e) });
    },
    onPointerUp: (e: PointerEvent<HTMLElement>) => {
      const p = current(e);
      if (!p || p.part) return;
      const { doc, selection } = store.getState();
      const before = p.add ? selection : nothing;
      if (!p.going) {
        if (!p.add) store.getState().select(nothing);
      } else {
        const f = marquee(p, e);
        const meets = (r: Rect) => r.x < f.x + f.w && f.x < r.x + r.w && r.y < f.y + f.h && f.y < r.y + r.h;
        // The tray's items are met where they lie on the screen.
        const inTray = (id: string) => {
          const r = tray.current?.querySelector(`[data-part="item-${id}"]`)?.getBoundingClientRect();
          if (!r) return false;
          const at = onBoard({ clientX: r.left, clientY: r.top });
          return meets({ ...at, w: r.width / scale, h: r.height / scale });
        };
        const items = doc.items
          .filter((i) => (i.home ? meets({ ...i.home, ...i.size }) : inTray(i.id)))
          .map((i) => i.id);
        const targets = doc.targets.filter((t) => meets(t.frame)).map((t) => t.id);
        // What is pinned stays out of a marquee; it is selected by pressing it.
        const scenery = doc.scenery.filter((s) => !s.pinned && s.frame && meets(s.frame)).map((s) => s.id);
        store.getState().select({
          items: [...new Set([...before.items, ...items])],
          targets: [...new Set([...before.targets, ...targets])],
          scenery: [...new Set([...before.scenery, ...scenery])],
        });
      }
      drop();
    },
    onPointerCancel: drop,
  };

  return { handling, partHandlers, handleHandlers, groundHandlers };
}
