import {
  useCallback,
  useEffect,
  useLayoutEffect,
  useRef,
  useState,
  type PointerEvent,
  type ReactNode,
  type RefObject,
} from "react";
import type { Fit } from "../board/fit";
import { slack } from "./usePieceInHand";
import { useWords } from "../words/words";

type Props = {
  ref: RefObject<HTMLDivElement | null>;
  window: Fit["window"];
  scale: number;
  /** Asks for a larger or a smaller board. */
  onZoom: (by: 1 | -1) => void;
  children: ReactNode;
};

/**
 * What of the board is seen where it is larger than its room. It is moved by dragging the
 * bare board, with wheel and fingers, and, once it has the focus, with the arrow keys.
 */
export function BoardWindow({ ref, window: size, scale, onZoom, children }: Props) {
  const w = useWords();
  const grip = useRef<{ x: number; y: number; left: number; top: number; moved: boolean }>(undefined);

  // What is in the middle stays there as the board grows.
  const before = useRef(scale);
  useLayoutEffect(() => {
    const view = ref.current;
    const by = scale / before.current;
    before.current = scale;
    if (!view || by === 1) return;
    view.scrollLeft = (view.scrollLeft + view.clientWidth / 2) * by - view.clientWidth / 2;
    view.scrollTop = (view.scrollTop + view.clientHeight / 2) * by - view.clientHeight / 2;
  }, [ref, scale]);

  // The wheel with Ctrl, and two fingers on a touchpad, would make the whole page larger.
  useEffect(() => {
    const view = ref.current;
    const wheel = (e: WheelEvent) => {
      if (!e.ctrlKey) return;
      e.preventDefault();
      if (Math.abs(e.deltaY) > 8) onZoom(e.deltaY < 0 ? 1 : -1);
    };
    view?.addEventListener("wheel", wheel, { passive: false });
    return () => view?.removeEventListener("wheel", wheel);
  }, [ref, onZoom]);

  const down = (e: PointerEvent<HTMLDivElement>) => {
    if (!size || e.button !== 0 || e.pointerType !== "mouse" || (e.target as Element).closest("[data-piece]")) return;
    const { scrollLeft: left, scrollTop: top } = e.currentTarget;
    grip.current = { x: e.clientX, y: e.clientY, left, top, moved: false };
  };
  const move = (e: PointerEvent<HTMLDivElement>) => {
    const g = grip.current;
    if (!g || !(e.buttons & 1)) {
      grip.current = undefined;
      return;
    }
    if (!g.moved && Math.hypot(e.clientX - g.x, e.clientY - g.y) < slack) return;
    if (!g.moved) e.currentTarget.setPointerCapture(e.pointerId);
    g.moved = true;
    e.currentTarget.scrollTo(g.left - (e.clientX - g.x), g.top - (e.clientY - g.y));
  };

  const { more, look } = useMore(ref, size);
  useFirstTarget(ref, !!size);
  // Whole or in part, the board is one and the same: nothing on it loses the focus.
  return (
    <div className="relative shrink-0">
      <div
        ref={ref}
        // Places on a board do not turn with the language; texts on it do, each by itself.
        dir="ltr"
        data-window={size ? "part" : "whole"}
        {...(size ? { role: "region", "aria-label": w("boardPart"), tabIndex: 0 } : {})}
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={() => (grip.current = undefined)}
        onScroll={look}
        className={size ? "cursor-move overflow-auto overscroll-contain rounded-(--radius)" : ""}
        style={size && { width: size.width, height: size.height }}
      >
        {children}
      </div>
      {size &&
        more.map((side) => (
          <span
            key={side}
            className={`more-board pointer-events-none absolute ${sides[side]}`}
            data-side={side}
            aria-hidden
          />
        ))}
    </div>
  );
}

type Side = "left" | "right" | "top" | "bottom";
const sides: Record<Side, string> = {
  left: "inset-y-0 left-0 w-4",
  right: "inset-y-0 right-0 w-4",
  top: "inset-x-0 top-0 h-4",
  bottom: "inset-x-0 bottom-0 h-4",
};

/** On which sides there is more of the board than is seen. */
function useMore(view: RefObject<HTMLDivElement | null>, size: Fit["window"]) {
  const [more, setMore] = useState<Side[]>([]);
  const look = useCallback(() => {
    const v = view.current;
    if (!v) return;
    const found: Side[] = [];
    if (v.scrollLeft > 2) found.push("left");
    if (v.scrollLeft < v.scrollWidth - v.clientWidth - 2) found.push("right");
    if (v.scrollTop > 2) found.push("top");
    if (v.scrollTop < v.scrollHeight - v.clientHeight - 2) found.push("bottom");
    setMore((was) => (was.join() === found.join() ? was : found));
  }, [view]);
  useLayoutEffect(look, [look, size]);
  return { more, look };
}

/** At first a part of the board is seen in which there is somewhere to put a piece. */
function useFirstTarget(view: RefObject<HTMLDivElement | null>, part: boolean) {
  useLayoutEffect(() => {
    const v = view.current;
    const target = v?.querySelector("[data-target]");
    if (!v || !target || !part) return;
    const [box, label] = [target, target.querySelector("[data-label]") ?? target].map((e) => e.getBoundingClientRect());
    const r = v.getBoundingClientRect();
    const from = { x: Math.min(box!.left, label!.left) - 8, y: Math.min(box!.top, label!.top) - 8 };
    v.scrollLeft += Math.max(0, Math.min(box!.right + 8 - r.right, from.x - r.left));
    v.scrollTop += Math.max(0, Math.min(box!.bottom + 8 - r.bottom, from.y - r.top));
  }, [view, part]);
}
