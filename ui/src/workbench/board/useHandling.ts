import { useCallback, useEffect, useRef, useState, type PointerEvent, type RefObject } from "react";
import { t } from "@lingui/core/macro";
import type { Rect } from "../../api/types";
import { bendLine, move, resize, setHome, together } from "../model/changes";
import { itemOf, targetOf, type PartID } from "../../document/parts";
import { isSelected, nothing, partsOf, selectionOf, useDraftStore, withGroups } from "../model/draft";
import { allParts, around, frameOf, meets, partOf } from "../model/frames";
import { partAt } from "../model/partNames";
import { traceSpot } from "../model/spots";
import { handle, useBoardViewStore } from "./boardView";
import { boxOf, drawn } from "./drawn";
import { liftedLayer } from "./liftedLayer";
import { snap, type Guide } from "./snapping";

type Point = { x: number; y: number };
type Options = {
  /** Board and tray together: what is pressed within is handled here. */
  surface: RefObject<HTMLElement | null>;
  board: RefObject<HTMLElement | null>;
  tray: RefObject<HTMLElement | null>;
  scroller: RefObject<HTMLElement | null>;
  scale: number;
};

type Press = {
  id: number;
  x: number;
  y: number;
  at: Point;
  going: boolean;
  add: boolean;
  doing:
    | { do: "part"; part: PartID; one: boolean }
    | { do: "resize"; part: PartID; frame: Rect; corner: string }
    | { do: "bend"; part: PartID; corner?: number; end?: "from" | "to" }
    | { do: "marquee" }
    | { do: "draw" }
    | { do: "pan"; left: number; top: number };
};

const slack = 4;
const magnet = 6; // pixels within which edges attract each other

/**
 * What the pointer does on the board: selects, moves, resizes, bends, draws. While it
 * is down only the drawing follows; the document changes once, at the end.
 */
export function useHandling({ surface, board, tray, scroller, scale }: Options) {
  const store = useDraftStore();
  const view = useBoardViewStore();
  const [trace, setTrace] = useState<[number, number][]>([]);
  const press = useRef<Press | null>(null);

  const onBoard = (e: { clientX: number; clientY: number }): Point => {
    const r = board.current!.getBoundingClientRect();
    return { x: (e.clientX - r.left) / scale, y: (e.clientY - r.top) / scale };
  };
  const within = (element: HTMLElement | null, e: { clientX: number; clientY: number }) => {
    const r = element?.getBoundingClientRect();
    return !!r && e.clientX >= r.left && e.clientX <= r.right && e.clientY >= r.top && e.clientY <= r.bottom;
  };

  const select = (part: PartID, add: boolean, one: boolean) => {
    const { selection, doc } = store.getState();
    const wanted = one ? [part] : withGroups(doc, [part]);
    if (!add) {
      store.getState().select(selectionOf(wanted));
      return;
    }
    const has = (list: PartID[], x: PartID) => list.some((p) => p.kind === x.kind && p.id === x.id);
    const parts = partsOf(selection);
    const others = parts.filter((x) => !has(wanted, x));
    store.getState().select(selectionOf(has(parts, part) ? others : [...others, ...wanted]));
  };

  /** Pinned parts are not dragged by accident; arrow keys move them. */
  const movable = () => {
    const { doc, selection } = store.getState();
    return partsOf(selection).filter((p) => !partOf(doc, p)?.pinned);
  };

  /** The frames of what is not being handled: what edges can line up with. */
  const others = (but: PartID[]) => {
    const { doc } = store.getState();
    const names = new Set(but.map((p) => `${p.kind} ${p.id}`));
    return allParts(doc)
      .filter((p) => !names.has(`${p.kind} ${p.id}`) && !partOf(doc, p)?.hidden)
      .flatMap((p) => frameOf(doc, p) ?? []);
  };
  const still = useRef<{ box: Rect | undefined; others: Rect[]; parts: PartID[] }>({
    box: undefined,
    others: [],
    parts: [],
  });
  const layer = useRef<HTMLElement | null>(null);
  const beginMove = () => {
    const parts = movable();
    layer.current = surface.current && liftedLayer(surface.current, parts);
    const { doc } = store.getState();
    const frames = parts.flatMap((p) => frameOf(doc, p) ?? []);
    still.current = { parts, box: frames.length > 0 ? around(frames) : undefined, others: others(parts) };
    return parts;
  };
  /** How far what is selected is moved, with the lines that it has come to. */
  const moved = (p: Press, e: PointerEvent): { dx: number; dy: number; guides: Guide[] } => {
    const dx = (e.clientX - p.x) / scale;
    const dy = (e.clientY - p.y) / scale;
    const { box } = still.current;
    if (!box || e.altKey || within(tray.current, e)) return { dx, dy, guides: [] };
    const to = snap(
      { ...box, x: box.x + dx, y: box.y + dy },
      still.current.others,
      store.getState().doc.board,
      magnet / scale,
    );
    return { dx: to.box.x - box.x, dy: to.box.y - box.y, guides: to.guides };
  };

  /** Parts on the board move; items let go over the tray, or out of it, change sides: all in one step. */
  const settle = (p: Press, e: PointerEvent) => {
    const { doc, change } = store.getState();
    const parts = still.current.parts;
    const inTray = parts.filter((x) => x.kind === "item" && !itemOf(doc, x.id)?.home);
    const onGround = parts.filter((x) => !inTray.includes(x));
    const { dx, dy } = moved(p, e);
    if (within(tray.current, e)) {
      const home = onGround.filter((x) => x.kind === "item").map((x) => setHome(x.id, undefined));
      if (home.length > 0) change(together(t`put into the tray`, home));
      return;
    }
    const out = within(board.current, e) ? inTray.map((x) => setHome(x.id, seen(x.id, dx, dy))) : [];
    const steps = onGround.length > 0 ? [move(onGround, dx, dy)] : [];
    if (out.length > 0) change(together(t`put on the board`, [...out, ...steps]));
    else if (steps[0]) change(steps[0]);
  };

  /** Where an item of the tray comes to lie, in board units. */
  const seen = (id: string, dx: number, dy: number) => {
    const r = tray.current?.querySelector(`[data-part="item-${CSS.escape(id)}"]`)?.getBoundingClientRect();
    const at = r && onBoard({ clientX: r.left, clientY: r.top });
    return at && { x: at.x + dx, y: at.y + dy };
  };

  const stretched = (e: PointerEvent, part: PartID, f: Rect, corner: string): { frame: Rect; guides: Guide[] } => {
    const p = press.current!;
    let dx = (e.clientX - p.x) / scale;
    let dy = (e.clientY - p.y) / scale;
    const west = corner.includes("w");
    const north = corner.includes("n");
    let guides: Guide[] = [];
    if (!e.altKey) {
      // The corner in hand is what lines up.
      const tip = { x: west ? f.x + dx : f.x + f.w + dx, y: north ? f.y + dy : f.y + f.h + dy, w: 0, h: 0 };
      const to = snap(tip, others([part]), store.getState().doc.board, magnet / scale);
      dx += to.box.x - tip.x;
      dy += to.box.y - tip.y;
      guides = to.guides;
    }
    const w = Math.max(24, f.w + (west ? -dx : dx));
    let h = Math.max(24, f.h + (north ? -dy : dy));
    const found = partOf(store.getState().doc, part);
    if (found && "picture" in found && found.picture && !e.shiftKey) h = (w * f.h) / f.w; // a picture keeps its proportion
    return { frame: { x: west ? f.x + f.w - w : f.x, y: north ? f.y + f.h - h : f.y, w, h }, guides };
  };

  const drop = () => {
    press.current = null;
    layer.current?.remove();
    layer.current = null;
    handle(view, null);
  };

  /** Ends a traced outline: three corners or more become a target. */
  const closeTrace = useCallback(() => {
    if (trace.length >= 3) {
      void store
        .getState()
        .edit(t`draw a polygon target`, { act: "draw", drawing: { what: "polygon", points: trace } });
      setTrace([]);
    }
  }, [store, trace]);

  useEffect(() => {
    if (trace.length === 0) return;
    const keys = (e: KeyboardEvent) => {
      if (e.key === "Enter") closeTrace();
      else if (e.key === "Backspace") setTrace((it) => it.slice(0, -1));
      else if (e.key === "Escape") setTrace([]);
      else return;
      e.preventDefault();
      e.stopPropagation();
    };
    window.addEventListener("keydown", keys, true);
    return () => window.removeEventListener("keydown", keys, true);
  }, [trace.length, closeTrace]);

  /** What a press at a place does with a tool that draws nothing from there to elsewhere; false with another. */
  const tap = (at: Point): boolean => {
    const { tool } = store.getState();
    if (tool === "spot") void traceSpot(store, at);
    else if (tool === "polygon") {
      const first = trace[0];
      if (first && Math.hypot(first[0] - at.x, first[1] - at.y) < 10 / scale) closeTrace();
      else if (trace.length < 64) setTrace([...trace, [Math.round(at.x), Math.round(at.y)]]);
    } else return false;
    return true;
  };

  const start = (e: PointerEvent<HTMLElement>): Press["doing"] | undefined => {
    const element = e.target as HTMLElement;
    const { tool, doc } = store.getState();
    if (e.button === 1) {
      return { do: "pan", left: scroller.current!.scrollLeft, top: scroller.current!.scrollTop };
    }
    if (e.button !== 0 || element.closest("input, textarea, [data-editor]")) return undefined;
    if (tap(onBoard(e))) return undefined;
    if (tool !== "select") return { do: "draw" };
    const part = partAt(element);
    const { handle, corner, end } = element.dataset;
    if (part && handle) {
      const f = frameOf(doc, part) ?? { x: 0, y: 0, ...itemOf(doc, part.id)!.size };
      return { do: "resize", part, frame: f, corner: handle };
    }
    if (part && corner !== undefined) return { do: "bend", part, corner: Number(corner) };
    if (part && end) return { do: "bend", part, end: end as "from" | "to" };
    return part ? { do: "part", part, one: e.altKey } : { do: "marquee" };
  };

  const onPointerDown = (e: PointerEvent<HTMLElement>) => {
    if (store.getState().crosshair) store.setState({ crosshair: undefined });
    const doing = start(e);
    if (!doing) return;
    const at = onBoard(e);
    press.current = { id: e.pointerId, x: e.clientX, y: e.clientY, at, going: false, add: e.shiftKey, doing };
    e.currentTarget.setPointerCapture(e.pointerId);
  };

  const onPointerMove = (e: PointerEvent<HTMLElement>) => {
    const p = press.current;
    if (p?.id !== e.pointerId) return;
    const first = !p.going;
    p.going ||= Math.hypot(e.clientX - p.x, e.clientY - p.y) >= slack;
    if (!p.going) return;
    const d = p.doing;
    if (d.do === "part") {
      if (first) {
        if (!isSelected(store.getState().selection, d.part)) select(d.part, false, d.one);
        beginMove();
      }
      const { dx, dy, guides } = moved(p, e);
      if (layer.current) layer.current.style.transform = `translate(${dx * scale}px, ${dy * scale}px)`;
      const h = view.getState().handling;
      if (h?.kind !== "move" || !sameGuides(h.guides, guides)) {
        handle(view, { kind: "move", parts: still.current.parts, guides });
      }
    } else if (d.do === "resize") {
      handle(view, { kind: "resize", part: d.part, ...stretched(e, d.part, d.frame, d.corner) });
    } else if (d.do === "bend") handle(view, { kind: "bend", at: onBoard(e) });
    else if (d.do === "marquee") handle(view, { kind: "marquee", frame: boxOf(p.at, onBoard(e)) });
    else if (d.do === "draw") {
      const tip = { ...onBoard(e), w: 0, h: 0 };
      const to = e.altKey
        ? { box: tip, guides: [] }
        : snap(tip, others([]), store.getState().doc.board, magnet / scale);
      handle(view, { kind: "draw", from: p.at, to: to.box, guides: to.guides });
    } else {
      scroller.current!.scrollLeft = d.left - (e.clientX - p.x);
      scroller.current!.scrollTop = d.top - (e.clientY - p.y);
    }
  };

  const onPointerUp = (e: PointerEvent<HTMLElement>) => {
    const p = press.current;
    if (p?.id !== e.pointerId) return;
    const d = p.doing;
    const { change, doc, edit } = store.getState();
    if (d.do === "part") {
      if (p.going) settle(p, e);
      else select(d.part, p.add, d.one);
    } else if (d.do === "resize" && p.going) {
      change(resize(d.part, stretched(e, d.part, d.frame, d.corner).frame));
    } else if (d.do === "bend" && p.going) {
      const at = onBoard(e);
      const to = { x: Math.round(at.x), y: Math.round(at.y) };
      if (d.end) change(bendLine(d.part.id, d.end, to));
      else {
        const points = targetOf(doc, d.part.id)!.points!.map((q, i) => (i === d.corner ? [to.x, to.y] : q!));
        void edit(t`move a corner`, {
          act: "reshape",
          parts: selectionOf([d.part]),
          drawing: { what: "polygon", points: points as [number, number][] },
        });
      }
    } else if (d.do === "marquee") {
      if (p.going) gather(boxOf(p.at, onBoard(e)), p.add);
      else if (!p.add) store.getState().select(nothing);
    } else if (d.do === "draw") {
      const { handling } = view.getState();
      drawn(store, p.at, handling?.kind === "draw" ? handling.to : onBoard(e), p.going);
    }
    drop();
  };

  /** Selects what a marquee meets. What is pinned stays out of it; it is selected by pressing it. */
  const gather = (f: Rect, add: boolean) => {
    const { doc, selection } = store.getState();
    const found = allParts(doc).filter((part) => {
      const x = partOf(doc, part);
      if (x?.hidden || x?.pinned) return false;
      const frame = frameOf(doc, part);
      if (frame) return meets(frame, f);
      // The tray's items are met where they lie on the screen.
      const r = tray.current?.querySelector(`[data-part="item-${CSS.escape(part.id)}"]`)?.getBoundingClientRect();
      return (
        !!r && meets({ ...onBoard({ clientX: r.left, clientY: r.top }), w: r.width / scale, h: r.height / scale }, f)
      );
    });
    const before = add ? partsOf(selection) : [];
    const fresh = withGroups(doc, found).filter((x) => !before.some((b) => b.kind === x.kind && b.id === x.id));
    store.getState().select(selectionOf([...before, ...fresh]));
  };

  return {
    trace,
    tap,
    handlers: { onPointerDown, onPointerMove, onPointerUp, onPointerCancel: drop },
  };
}

const sameGuides = (a: Guide[], b: Guide[]) => a.length === b.length && JSON.stringify(a) === JSON.stringify(b);
