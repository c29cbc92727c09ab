import { useRef, useState, type PointerEvent } from "react";
import { t } from "@lingui/core/macro";
import type { Rect } from "../../api/types";
import { placed } from "../../board/TargetWell";
import { useDraft } from "../model/draft";

type Props = {
  frame: Rect;
  name: string;
  onDone: (frame: Rect) => void;
  children: React.ReactNode;
};

const least = 24;

/** Something that stands over the parts of the board, and is moved and sized there: by pointer, or with arrows. */
export function Movable({ frame, name, onDone, children }: Props) {
  const { width, height } = useDraft((s) => s.doc.board);
  const [live, setLive] = useState<Rect>();
  const grip = useRef<{ x: number; y: number; from: Rect; size: boolean; scale: number }>(undefined);
  const bounded = (r: Rect): Rect => {
    const w = Math.round(Math.min(Math.max(least, r.w), width));
    const h = Math.round(Math.min(Math.max(least, r.h), height));
    return {
      x: Math.round(Math.min(Math.max(0, r.x), width - w)),
      y: Math.round(Math.min(Math.max(0, r.y), height - h)),
      w,
      h,
    };
  };
  const down = (size: boolean) => (e: PointerEvent<HTMLElement>) => {
    e.stopPropagation();
    e.currentTarget.setPointerCapture(e.pointerId);
    const board = e.currentTarget.closest("[data-ground]")!;
    grip.current = {
      x: e.clientX,
      y: e.clientY,
      from: frame,
      size,
      scale: board.getBoundingClientRect().width / width,
    };
  };
  const move = (e: PointerEvent) => {
    const g = grip.current;
    if (!g) return;
    e.stopPropagation();
    const dx = (e.clientX - g.x) / g.scale;
    const dy = (e.clientY - g.y) / g.scale;
    setLive(
      bounded(
        g.size ? { ...g.from, w: g.from.w + dx, h: g.from.h + dy } : { ...g.from, x: g.from.x + dx, y: g.from.y + dy },
      ),
    );
  };
  const up = (e: PointerEvent) => {
    e.stopPropagation();
    grip.current = undefined;
    if (live) onDone(live);
    setLive(undefined);
  };
  const keys = (e: React.KeyboardEvent) => {
    const step = e.shiftKey ? 10 : 1;
    const by = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] }[e.key];
    if (!by) return;
    e.preventDefault();
    e.stopPropagation();
    onDone(
      bounded(
        e.altKey
          ? { ...frame, w: frame.w + by[0]!, h: frame.h + by[1]! }
          : { ...frame, x: frame.x + by[0]!, y: frame.y + by[1]! },
      ),
    );
  };
  const handlers = (size: boolean) => ({ onPointerDown: down(size), onPointerMove: move, onPointerUp: up });
  return (
    <div
      tabIndex={0}
      role="group"
      aria-label={t`${name}. Arrow keys move, Alt+arrow keys resize.`}
      data-editor
      onKeyDown={keys}
      {...handlers(false)}
      className="cursor-move touch-none outline-1 outline-offset-2 outline-feather outline-dashed focus-visible:outline-2"
      style={{ ...placed(live ?? frame), zIndex: 1700 }}
    >
      {children}
      <span
        {...handlers(true)}
        className="absolute -right-1.5 -bottom-1.5 size-3.5 cursor-nwse-resize border border-feather bg-paper"
        aria-hidden
      />
    </div>
  );
}
