import { memo, type CSSProperties, type KeyboardEvent, type PointerEvent } from "react";
import { BookOpen } from "lucide-react";
import { named } from "../kit/tip";
import type { Look, ScenePiece } from "../api/types";
import { PieceCard, type Mark } from "../board/PieceCard";
import { placed } from "../board/TargetWell";
import { Sound } from "./Sound";
import { useWords } from "../words/words";

/** What is done to a piece. It stays the same object, and pieces are not drawn again for it. */
export type PieceEvents = {
  onDown: (piece: ScenePiece, e: PointerEvent<HTMLElement>) => void;
  onMove: (e: PointerEvent<HTMLElement>) => void;
  onUp: (e: PointerEvent<HTMLElement>) => void;
  onCancel: () => void;
  onFocus: (piece: string) => void;
  onKey: (piece: ScenePiece, e: KeyboardEvent) => void;
  onPress: (piece: string) => void;
  onHear: (sound: string) => void;
  onReopen: (reply: string) => void;
};

type Props = {
  piece: ScenePiece;
  /** Where it stands on the board; in the tray, nowhere. */
  x?: number;
  y?: number;
  w: number;
  h: number;
  z?: number;
  opacity?: number;
  /** What a screen reader calls it, with where it is and what it is. */
  label: string;
  look: Look | undefined;
  mark: Mark;
  /** It is in hand, by press or key, or under the pointer; or another piece is. */
  hand: "none" | "taken" | "dragged" | "other";
  free: boolean;
  focusable: boolean;
  /** How it is pointed out, or faded. */
  stress: string;
  /** The reply that was given for it and can be read again. */
  reopens: string | undefined;
  on: PieceEvents;
  mediaURL: (id: string) => string;
};

/** However small a piece is drawn, it can be hit: the button is no less than this, in pixels, around its middle. */
const least = 24;
const reach = (size: number) => `min(0px, calc((${size}px * var(--s) - ${least}px) / 2))`;

/** A piece that can be picked up, on the board or in the tray. */
export const LivePiece = memo(function LivePiece(p: Props) {
  const { piece, x, y, w, h, hand, on, mediaURL } = p;
  const place: CSSProperties = x === undefined || y === undefined ? {} : placed({ x, y, w, h });
  return (
    // While another is in hand, a press goes to the place beneath.
    <div
      className={`relative ${p.stress} ${hand === "other" ? "pointer-events-none" : ""}`}
      style={{ ...place, zIndex: p.z, opacity: p.opacity }}
    >
      <button
        type="button"
        data-piece={piece.id}
        aria-label={p.label}
        aria-pressed={hand === "taken" || hand === "dragged"}
        tabIndex={p.focusable ? 0 : -1}
        onFocus={() => on.onFocus(piece.id)}
        onKeyDown={(e) => on.onKey(piece, e)}
        onClick={(e) => {
          if (hand === "other") return; // the place beneath takes it
          e.stopPropagation();
          on.onPress(piece.id);
        }}
        onPointerDown={(e) => on.onDown(piece, e)}
        onPointerMove={on.onMove}
        onPointerUp={on.onUp}
        onPointerCancel={on.onCancel}
        className={`touch-none ${p.free ? "cursor-grab" : "cursor-default"} ${hand === "dragged" ? "opacity-30" : ""} ${hand === "other" ? "pointer-events-none" : ""} grid place-items-center`}
        style={{ minWidth: least, minHeight: least, margin: `${reach(h)} ${reach(w)}` }}
      >
        <PieceCard
          look={p.look}
          mediaURL={mediaURL}
          text={piece.text}
          picture={piece.picture && mediaURL(piece.picture)}
          w={w}
          h={h}
          mark={p.mark}
          selected={hand === "taken"}
        />
      </button>
      {piece.sound && <Sound of={piece.spoken} transcript={piece.transcript} onHear={() => on.onHear(piece.sound)} />}
      <ReadAgain of={piece.spoken} reply={p.reopens} on={on} />
    </div>
  );
});

type GhostProps = Pick<Props, "piece" | "mediaURL" | "reopens" | "on"> & { style: CSSProperties };

/** A faint copy at home, of a piece that is elsewhere. */
export function Ghost({ piece, style, mediaURL, reopens, on }: GhostProps) {
  return (
    <div className="relative" style={style}>
      <span aria-hidden className="pointer-events-none block opacity-30">
        <PieceCard
          text={piece.text}
          picture={piece.picture && mediaURL(piece.picture)}
          w={piece.size.w}
          h={piece.size.h}
          look={piece.looks.rest}
          mediaURL={mediaURL}
        />
      </span>
      <ReadAgain of={piece.spoken} reply={reopens} on={on} />
    </div>
  );
}

/** Opens the reply again that a piece brought, where one did. */
function ReadAgain({ of, reply, on }: { of: string; reply: string | undefined; on: PieceEvents }) {
  const w = useWords();
  if (!reply) return null;
  return (
    <button
      type="button"

      {...named(w("openAgain", { piece: of }))}
      onPointerDown={(e) => e.stopPropagation()}
      onClick={(e) => {
        e.stopPropagation();
        on.onReopen(reply);
      }}
      className="absolute -right-1.5 -bottom-1.5 grid size-6 place-items-center rounded-[50%] border border-edge bg-paper text-ink"
    >
      <BookOpen size={13} aria-hidden />
    </button>
  );
}
