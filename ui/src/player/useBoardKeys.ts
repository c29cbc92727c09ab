import { useEffect, useRef, type KeyboardEvent, type RefObject } from "react";
import type { ScenePiece } from "../api/types";
import type { InHand } from "./usePieceInHand";

type Options = {
  root: RefObject<HTMLElement | null>;
  hand: InHand | null;
  dealt: ScenePiece[];
  free: (piece: string) => boolean;
  onFocus: (piece: string) => void;
  onTake: (piece: string) => void;
};

const steps: Record<string, number> = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 };

/** Playing by keyboard alone: arrows go round the pieces; taken up, they go round the places. */
export function useBoardKeys({ root, hand, dealt, free, onFocus, onTake }: Options) {
  // Taken up by key, the places come into reach and the first takes the focus; put
  // down or put back, the piece has it again.
  const byKey = useRef<string | null>(null);
  const inReach = hand !== null && !hand.at;
  useEffect(() => {
    const id = byKey.current;
    if (!id) return;
    if (inReach) {
      root.current?.querySelector<HTMLElement>("[data-target]")?.focus();
    } else {
      byKey.current = null;
      root.current?.querySelector<HTMLElement>(`[data-piece="${CSS.escape(id)}"]`)?.focus();
    }
  }, [inReach, root]);

  const pieceKeys = (e: KeyboardEvent, p: ScenePiece) => {
    const step = steps[e.key];
    if (step) {
      e.preventDefault();
      const next = dealt[(dealt.indexOf(p) + step + dealt.length) % dealt.length]!.id;
      onFocus(next);
      root.current?.querySelector<HTMLElement>(`[data-piece="${CSS.escape(next)}"]`)?.focus();
    } else if ((e.key === "Enter" || e.key === " ") && free(p.id)) {
      e.preventDefault();
      byKey.current = p.id;
      onTake(p.id);
    }
  };
  const placeKeys = (e: KeyboardEvent, put: () => void) => {
    const places = [...(root.current?.querySelectorAll<HTMLElement>("[data-target], [data-tray]") ?? [])];
    const step = steps[e.key];
    if (step) {
      e.preventDefault();
      places[(places.indexOf(e.currentTarget as HTMLElement) + step + places.length) % places.length]?.focus();
    } else if ((e.key === "Enter" || e.key === " ") && hand) {
      e.preventDefault();
      put();
    }
  };
  return { pieceKeys, placeKeys };
}
