import { useEffect, useRef, useState, type PointerEvent, type RefObject } from "react";
import type { Act, ScenePiece } from "../api/types";
import { onBoard } from "./boardHooks";

export type InHand = {
  piece: string;
  /** By pointer: where its middle is on the screen. By press or key: absent. */
  at?: { x: number; y: number };
};

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
  const grip = useRef<Grip | null>(null);
  // A drag ends with a click on what is under it, which is not a press.
  const suppressClick = useRef(false);
  useScrollAtEdge(hand?.at, view, () => setHand((h) => (h?.at ? { ...h, at: { ...h.at } } : h)));

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

  /** The handlers of a piece. */
  const pieceHandlers = (piece: ScenePiece) => ({
    onPointerDown: (e: PointerEvent<HTMLElement>) => {
      if (e.button !== 0 || grip.current || !free(piece.id)) return;
      if (hand && hand.piece !== piece.id) return; // a press on a piece while another is in hand goes to what is under it
      const r = e.currentTarget.getBoundingClientRect();
      const dx = r.left + r.width / 2 - e.clientX;
      const dy = r.top + r.height / 2 - e.clientY;
      grip.current = { id: e.pointerId, piece, startX: e.clientX, startY: e.clientY, dx, dy, dragging: false };
      e.currentTarget.setPointerCapture(e.pointerId);
    },
    onPointerMove: (e: PointerEvent<HTMLElement>) => {
      const g = grip.current;
      if (!g || g.id !== e.pointerId) return;
      if (!g.dragging && Math.hypot(e.clientX - g.startX, e.clientY - g.startY) < slack) return;
      if (!g.dragging) g.scrolls ??= along(g, e, tray.current);
      g.dragging = true;
      if (g.scrolls) {
        g.scrolls.tray.scrollTo(g.scrolls.left - (e.clientX - g.startX), g.scrolls.top - (e.clientY - g.startY));
        return;
      }
      setHand({ piece: g.piece.id, at: middle(g, e) });
    },
    onPointerUp: (e: PointerEvent<HTMLElement>) => {
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
    },
    onPointerCancel: () => {
      grip.current = null;
      setHand(null);
    },
  });

  const press = (piece: string) => {
    if (suppressClick.current || !free(piece)) return;
    setHand((h) => (h?.piece === piece ? null : { piece }));
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

  return { hand, setHand, press, putInto, putHome, pieceHandlers };
}

/** Whether a finger that sets out from a piece goes along a tray that scrolls that way, more than out of it. */
function along(g: Grip, e: PointerEvent, tray: HTMLElement | null): Grip["scrolls"] {
  if (e.pointerType !== "touch" || !tray?.contains(e.target as Node)) return;
  const [dx, dy] = [Math.abs(e.clientX - g.startX), Math.abs(e.clientY - g.startY)];
  const row = tray.dataset.tray === "row" && tray.scrollWidth > tray.clientWidth && dx > 2 * dy;
  const column = tray.dataset.tray === "column" && tray.scrollHeight > tray.clientHeight && dy > 2 * dx;
  return row || column ? { tray, left: tray.scrollLeft, top: tray.scrollTop } : undefined;
}

const edge = 36; // pixels from an edge at which it scrolls
const pace = 10; // pixels a frame, at most

/** While a piece is held at an edge of what is seen of the board, that moves on; each step is heard. */
function useScrollAtEdge(
  at: { x: number; y: number } | undefined,
  view: RefObject<HTMLElement | null>,
  onStep: () => void,
) {
  const step = useRef(onStep);
  useEffect(() => {
    step.current = onStep;
  });
  const x = at?.x;
  const y = at?.y;
  useEffect(() => {
    const part = view.current;
    if (x === undefined || y === undefined || part?.dataset.window !== "part") return;
    const r = part.getBoundingClientRect();
    if (x < r.left || x > r.right || y < r.top || y > r.bottom) return;
    const pull = (low: number, high: number, v: number) =>
      v < low + edge ? (v - low - edge) / edge : v > high - edge ? (v - high + edge) / edge : 0;
    const dx = pull(r.left, r.right, x) * pace;
    const dy = pull(r.top, r.bottom, y) * pace;
    if (!dx && !dy) return;
    let frame = 0;
    const move = () => {
      const was = [part.scrollLeft, part.scrollTop];
      part.scrollBy(dx, dy);
      if (was[0] === part.scrollLeft && was[1] === part.scrollTop) return; // no further
      step.current();
      frame = requestAnimationFrame(move);
    };
    frame = requestAnimationFrame(move);
    return () => cancelAnimationFrame(frame);
  }, [x, y, view]);
}
