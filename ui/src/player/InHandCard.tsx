import type { CSSProperties } from "react";
import { createPortal } from "react-dom";
import type { Look, Scene, ScenePiece } from "../api/types";
import { themed } from "../shared/looks";
import { PieceCard } from "../shared/PieceCard";

type Props = {
  piece: ScenePiece;
  /** Where its middle is on the screen. */
  at: { x: number; y: number };
  look: Look | undefined;
  scale: number;
  theme: Scene["theme"];
  mediaURL: (id: string) => string;
};

/** The piece that follows the pointer, over everything. */
export function InHandCard({ piece, at, look, scale, theme, mediaURL }: Props) {
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
