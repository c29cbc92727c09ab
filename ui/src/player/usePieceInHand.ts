import { useEffect, useRef, useState, type PointerEvent, type RefObject } from "react";
import { createStore, type StoreApi } from "zustand";
import type { Act, ScenePiece } from "../api/types";
import { useEvent } from "../kit/useEvent";
import { onBoard } from "./boardHooks";

/** A piece in hand: dragged, or taken up by press or key. */
export type InHand = { piece: string; dragged: boolean };

/** Where the middle of a piece that is dragged is on the screen. Apart from what is in hand: it changes with each step of the pointer, and few need it. */
export type Position = StoreApi<{ x: number; y: number }>;

type Options = {
  /** The board's, in board units. */
  width: number;
  /** A place on the board as the judge knows it. */
  judged: (at: { x: number; y: number }) => { x: number; y: number };
  board: RefObject<HTMLElement | null>;
  /** What of the board is seen. */
  view: RefObject<HTMLElement | null>;
  tray: RefObject<HTMLElement | null>;
  free: (piece: string) => boolean;
  act: (act: Act) => void;
  /** Where the piece is now, for putting it down where it was. */
  isHome: (piece: string) => boolean;
};

type Grip = {
  id: number;
  piece: ScenePiece;
  startX: number;
  startY: number;
  dx: number;
  dy: number;
  dragging: boolean;
  /** A finger moves along the tray: that scrolls, from where it was. */
  scrolls?: { tray: HTMLElement; left: number; top: number };
};

export const slack = 5; // pixels that a press may slip before it becomes a drag

/**
 * A piece in hand, by drag (mouse, touch, pen), by press and press, or by key.
 * It follows the pointer at once; where it lands is for the judge to say.
 */
export function usePieceInHand({ width, judged, board, view, tray, free, act, isHome }: Options) {
  const [hand, setHand] = useState<InHand | null>(null);
  const [position] = useState<Position>(() => createStore(() => ({ x: 0, y: 0 })));
  const grip = useRef<Grip | null>(null);
  // A drag ends with a click on what is under it, which is not a press.
  const suppressClick = useRef(false);

  useEffect(() => {
    if (!hand) return;
    const cancel = (e: KeyboardEvent) => {
      if (e.key !== "Escape") return;
      // The button is still down, and comes up with a click that takes nothing.
      if (grip.current) {
        suppressClick.current = true;
        window.addEventListener("pointerup", () => setTimeout(() => (suppressClick.current = false)), { once: true });
      }
      grip.current = null;
      setHand(null);
    };
    window.addEventListener("keydown", cancel);
    return () => window.removeEventListener("keydown", cancel);
  }, [hand]);

  const inside = (element: HTMLElement | null, x: number, y: number) => {
    const r = element?.getBoundingClientRect();
    return !!r && x >= r.left && x <= r.right && y >= r.top && y <= r.bottom;
  };

  const middle = (g: Grip, e: { clientX: number; clientY: number }) => ({ x: e.clientX + g.dx, y: e.clientY + g.dy });

  const letGo = (piece: string, x: number, y: number) => {
    if (!inside(board.current, x, y) || !inside(view.current, x, y)) {
      if (!isHome(piece) && inside(tray.current, x, y)) act({ do: "lift", piece });
      return;
    }
    act({ do: "drop", piece, ...judged(onBoard(board.current!, width, { x, y })) });
  };

  const pointer = {
    onDown: useEvent((piece: ScenePiece, e: PointerEvent<HTMLElement>) => {
      if (e.button !== 0 || grip.current || !free(piece.id)) return;
      if (hand && hand.piece !== piece.id) return; // a press on a piece while another is in hand goes to what is under it
      const r = e.currentTarget.getBoundingClientRect();
      const dx = r.left + r.width / 2 - e.clientX;
      const dy = r.top + r.height / 2 - e.clientY;
      grip.current = { id: e.pointerId, piece, startX: e.clientX, startY: e.clientY, dx, dy, dragging: false };
      e.currentTarget.setPointerCapture(e.pointerId);
    }),
    onMove: useEvent((e: PointerEvent<HTMLElement>) => {
      const g = grip.current;
      if (!g || g.id !== e.pointerId) return;
      if (!g.dragging && Math.hypot(e.clientX - g.startX, e.clientY - g.startY) < slack) return;
      if (!g.dragging) g.scrolls ??= along(g, e, tray.current);
      g.dragging = true;
      if (g.scrolls) {
        g.scrolls.tray.scrollTo(g.scrolls.left - (e.clientX - g.startX), g.scrolls.top - (e.clientY - g.startY));
        return;
      }
      position.setState(middle(g, e));
      const piece = g.piece.id;
      setHand((h) => (h?.dragged && h.piece === piece ? h : { piece, dragged: true }));
    }),
    onUp: useEvent((e: PointerEvent<HTMLElement>) => {
      const g = grip.current;
      if (!g || g.id !== e.pointerId) return;
      grip.current = null;
      if (!g.dragging) return; // a press: the click that follows takes it up
      if (!g.scrolls) {
        setHand(null);
        const at = middle(g, e);
        letGo(g.piece.id, at.x, at.y);
      }
      suppressClick.current = true;
      setTimeout(() => (suppressClick.current = false));
    }),
    onCancel: useEvent(() => {
      grip.current = null;
      setHand(null);
    }),
  };

  const press = (piece: string) => {
    if (suppressClick.current || !free(piece)) return;
    setHand((h) => (h?.piece === piece ? null : { piece, dragged: false }));
  };

  /** Puts it into a target; in a lane at an index, else at its end. */
  const putInto = (target: string, index?: number) => {
    if (!hand || suppressClick.current) return;
    act({ do: "place", piece: hand.piece, target, ...(index === undefined ? {} : { index }) });
    setHand(null);
  };

  const putHome = () => {
    if (!hand || suppressClick.current) return;
    if (!isHome(hand.piece)) act({ do: "lift", piece: hand.piece });
    setHand(null);
  };

  return { hand, setHand, position, press, putInto, putHome, pointer };
}

/** Whether a finger that sets out from a piece goes along a tray that scrolls that way, more than out of it. */
function along(g: Grip, e: PointerEvent, tray: HTMLElement | null): Grip["scrolls"] {
  if (e.pointerType !== "touch" || !tray?.contains(e.target as Node)) return;
  const [dx, dy] = [Math.abs(e.clientX - g.startX), Math.abs(e.clientY - g.startY)];
  const row = tray.dataset.tray === "row" && tray.scrollWidth > tray.clientWidth && dx > 2 * dy;
  const column = tray.dataset.tray === "column" && tray.scrollHeight > tray.clientHeight && dy > 2 * dx;
  return row || column ? { tray, left: tray.scrollLeft, top: tray.scrollTop } : undefined;
}
