import type { CSSProperties, KeyboardEventHandler, ReactNode, RefObject } from "react";
import type { Scene } from "../api/types";
import type { Fit } from "../board/fit";
import { themed } from "../board/looks";
import { useWords } from "../words/words";

type Props = {
  ref: RefObject<HTMLDivElement | null>;
  scene: Scene;
  fit: Fit;
  /** Its pieces are no smaller than at this scale. */
  scale: number;
  /** A piece is in hand, and can be put back here by press or key. */
  takes: boolean;
  holds: boolean;
  dim: boolean;
  onPut: () => void;
  onKeyDown: KeyboardEventHandler<HTMLElement>;
  children: ReactNode;
};

/** What is not placed yet. Under a window on the board it scrolls sideways, beside it up and down. */
export function Tray({ ref, scene, fit, scale, takes, holds, dim, onPut, onKeyDown, children }: Props) {
  const w = useWords();
  const part = fit.window;
  // It scrolls across the way to the board, so that a finger can do both.
  const form = !part ? "all" : fit.beside ? "column" : "row";
  const piece = Math.max(24, ...scene.pieces.map((p) => p.size.h)) * scale + 8;
  const several = part && part.tray > 2 * piece + 24;
  const room: CSSProperties = !part
    ? fit.beside
      ? { flex: 1 }
      : { width: scene.width * fit.scale + 2, minHeight: 44 }
    : fit.beside
      ? { width: part.tray, maxHeight: part.trayHeight, overflowY: "auto" }
      : several
        ? { width: "100%", height: part.tray, overflowX: "auto", flexDirection: "column" }
        : { width: "100%", maxHeight: part.tray, overflowX: "auto", flexWrap: "nowrap" };
  return (
    <div
      ref={ref}
      data-tray={form}
      data-form={scene.theme?.piece}
      role="group"
      aria-label={w(holds ? "trayTakes" : "tray")}
      tabIndex={holds ? 0 : -1}
      onClick={onPut}
      onKeyDown={(e) => e.target === e.currentTarget && onKeyDown(e)}
      className={`flex shrink-0 flex-wrap content-start gap-2 rounded-(--radius) border border-line bg-shade p-2 *:shrink-0 ${takes ? "outline-1 outline-dashed outline-feather" : ""} ${dim ? "opacity-35" : ""}`}
      style={{ ...themed(scene.theme), ...({ "--s": scale } as CSSProperties), ...room }}
    >
      {children}
    </div>
  );
}
