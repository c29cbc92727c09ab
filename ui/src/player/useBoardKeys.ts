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
  /** A piece that is placed goes back home. */
  onBack: (piece: string) => void;
};

const steps: Record<string, number> = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 };

/** The one that arrows, Home, End or letters lead to from one of a list; undefined for other keys. */
function useNext() {
  const typed = useRef({ text: "", at: 0 });
  return <T>(e: KeyboardEvent, list: T[], from: T, called: (x: T) => string): T | undefined => {
    const at = list.indexOf(from);
    const step = steps[e.key];
    if (step) return list[(at + step + list.length) % list.length];
    if (e.key === "Home") return list[0];
    if (e.key === "End") return list.at(-1);
    if (e.key.length !== 1 || e.key === " " || e.ctrlKey || e.metaKey || e.altKey || !/[\p{L}\p{N}]/u.test(e.key))
      return;
    // Letters typed soon after one another are the beginning of one name; the same one
    // again leads on, and one that begins no such name begins another.
    const key = e.key.toLocaleLowerCase();
    const soon = e.timeStamp - typed.current.at < 700;
    const rest = [...list.slice(at + 1), ...list.slice(0, at + 1)];
    const find = (text: string) => {
      const begins = (x: T) => called(x).toLocaleLowerCase().startsWith(text);
      // Where no name begins so, a number is that of a place.
      return text.length > 1 && begins(from) ? from : (rest.find(begins) ?? list[Number(text) - 1]);
    };
    const longer = soon && (typed.current.text !== key || /\d/.test(key)) ? typed.current.text + key : key;
    const found = find(longer);
    typed.current = { text: found ? longer : key, at: e.timeStamp };
    return found ?? find(key);
  };
}

/** Playing by keyboard alone: arrows, Home, End and first letters go round the pieces; taken up, round the places. */
export function useBoardKeys({ root, hand, dealt, free, onFocus, onTake, onBack }: Options) {
  // Taken up by key, the places come into reach and the first takes the focus; put
  // down or put back, the piece has it again.
  const byKey = useRef<string | null>(null);
  const inReach = hand !== null && !hand.dragged;
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

  const next = useNext();
  const pieceKeys = (e: KeyboardEvent, p: ScenePiece) => {
    const to = next(e, dealt, p, (x) => x.spoken);
    if (to) {
      e.preventDefault();
      onFocus(to.id);
      root.current?.querySelector<HTMLElement>(`[data-piece="${CSS.escape(to.id)}"]`)?.focus();
    } else if ((e.key === "Enter" || e.key === " ") && free(p.id)) {
      e.preventDefault();
      byKey.current = p.id;
      onTake(p.id);
    } else if ((e.key === "Backspace" || e.key === "Delete") && free(p.id)) {
      e.preventDefault();
      onBack(p.id);
    }
  };
  const placeKeys = (e: KeyboardEvent, put: () => void) => {
    const places = [...(root.current?.querySelectorAll<HTMLElement>("[data-target], [data-tray]") ?? [])];
    const to = next(e, places, e.currentTarget as HTMLElement, (x) => x.ariaLabel ?? "");
    if (to) {
      e.preventDefault();
      to.focus();
    } else if ((e.key === "Enter" || e.key === " ") && hand) {
      e.preventDefault();
      put();
    }
  };
  return { pieceKeys, placeKeys };
}
