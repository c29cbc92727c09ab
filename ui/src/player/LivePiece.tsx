import type { CSSProperties, HTMLAttributes, KeyboardEvent } from "react";
import { BookOpen } from "lucide-react";
import type { Look, ScenePiece } from "../api/types";
import { PieceCard, type Mark } from "../shared/PieceCard";
import { Sound } from "./Sound";
import { useWords } from "./words";

type Common = {
  piece: ScenePiece;
  style: CSSProperties;
  mediaURL: (id: string) => string;
  /** Opens again what was said of it, where something was. */
  onReopen?: () => void;
};

type Props = Common & {
  /** What a screen reader calls it, with where it is and what it is. */
  label: string;
  size: { w: number; h: number };
  look: Look | undefined;
  mark: Mark;
  /** It is in hand, by press or key, or under the pointer; or another piece is. */
  hand: "none" | "taken" | "dragged" | "other";
  free: boolean;
  focusable: boolean;
  /** How it is pointed out, or faded. */
  stress: string;
  handlers: HTMLAttributes<HTMLElement>;
  onFocus: () => void;
  onKeyDown: (e: KeyboardEvent) => void;
  onPress: () => void;
  onHear: () => void;
};

/** However small a piece is drawn, it can be hit: the button is no less than this, in pixels, around its middle. */
const least = 24;
const reach = (size: number) => `min(0px, calc((${size}px * var(--s) - ${least}px) / 2))`;

/** A piece that can be picked up, on the board or in the tray. */
export function LivePiece(p: Props) {
  const { piece, size, hand, mediaURL } = p;
  return (
    // While another is in hand, a press goes to the place beneath.
    <div className={`relative ${p.stress} ${hand === "other" ? "pointer-events-none" : ""}`} style={p.style}>
      <button
        type="button"
        data-piece={piece.id}
        aria-label={p.label}
        aria-pressed={hand === "taken" || hand === "dragged"}
        tabIndex={p.focusable ? 0 : -1}
        onFocus={p.onFocus}
        onKeyDown={p.onKeyDown}
        onClick={(e) => {
          if (hand === "other") return; // the place beneath takes it
          e.stopPropagation();
          p.onPress();
        }}
        {...p.handlers}
        className={`touch-none ${p.free ? "cursor-grab" : "cursor-default"} ${hand === "dragged" ? "opacity-30" : ""} ${hand === "other" ? "pointer-events-none" : ""} grid place-items-center`}
        style={{ minWidth: least, minHeight: least, margin: `${reach(size.h)} ${reach(size.w)}` }}
      >
        <PieceCard
          look={p.look}
          mediaURL={mediaURL}
          text={piece.text}
          picture={piece.picture && mediaURL(piece.picture)}
          w={size.w}
          h={size.h}
          mark={p.mark}
          selected={hand === "taken"}
        />
      </button>
      {piece.sound && <Sound of={piece.spoken} transcript={piece.transcript} onHear={p.onHear} />}
      {p.onReopen && <ReadAgain of={piece.spoken} onPress={p.onReopen} />}
    </div>
  );
}

/** A faint copy at home, of a piece that is elsewhere. */
export function Ghost({ piece, style, mediaURL, onReopen }: Common) {
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
      {onReopen && <ReadAgain of={piece.spoken} onPress={onReopen} />}
    </div>
  );
}

/** Opens the reply again that a piece brought. */
function ReadAgain({ of, onPress }: { of: string; onPress: () => void }) {
  const w = useWords();
  return (
    <button
      type="button"
      aria-label={w("openAgain", { piece: of })}
      title={w("openAgain", { piece: of })}
      onPointerDown={(e) => e.stopPropagation()}
      onClick={(e) => {
        e.stopPropagation();
        onPress();
      }}
      className="absolute -right-1.5 -bottom-1.5 grid size-6 place-items-center rounded-[50%] border border-edge bg-paper text-ink"
    >
      <BookOpen size={13} aria-hidden />
    </button>
  );
}
