import { useEffect, type CSSProperties, type RefObject } from "react";
import { createPortal } from "react-dom";
import { useStore } from "zustand";
import type { Look, Scene, ScenePiece } from "../api/types";
import { themed } from "../board/looks";
import { PieceCard } from "../board/PieceCard";
import type { Position } from "./usePieceInHand";

type Props = {
  piece: ScenePiece;
  position: Position;
  /** What of the board is seen. */
  view: RefObject<HTMLElement | null>;
  look: Look | undefined;
  scale: number;
  theme: Scene["theme"];
  mediaURL: (id: string) => string;
};

/** The piece that follows the pointer, over everything. */
export function InHandCard({ piece, position, view, look, scale, theme, mediaURL }: Props) {
  const at = useStore(position);
  useScrollAtEdge(position, at, view);
  return createPortal(
    <div
      className="pointer-events-none fixed z-[4000] -translate-x-1/2 -translate-y-1/2"
      style={{ ...themed(theme), ...({ "--s": scale } as CSSProperties), left: at.x, top: at.y }}
      data-form={theme?.piece}
      aria-hidden
    >
      <PieceCard
        look={look}
        mediaURL={mediaURL}
        text={piece.text}
        picture={piece.picture && mediaURL(piece.picture)}
        w={piece.size.w}
        h={piece.size.h}
        lifted
      />
    </div>,
    document.body,
  );
}

const edge = 36; // pixels from an edge at which it scrolls
const pace = 10; // pixels a frame, at most

/** While a piece is held at an edge of what is seen of the board, that moves on, and the piece is elsewhere on it. */
function useScrollAtEdge(position: Position, { x, y }: { x: number; y: number }, view: RefObject<HTMLElement | null>) {
  useEffect(() => {
    const part = view.current;
    if (part?.dataset.window !== "part") return;
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
      position.setState({ x, y });
      frame = requestAnimationFrame(move);
    };
    frame = requestAnimationFrame(move);
    return () => cancelAnimationFrame(frame);
  }, [position, x, y, view]);
}
