import { memo, useEffect, useRef, type KeyboardEvent, type RefObject } from "react";
import { t } from "@lingui/core/macro";
import { nameOf } from "../../document/parts";
import { useDraft, useDraftStore } from "../model/draft";
import { holds } from "../model/frames";
import { handle, useBoardViewStore } from "./boardView";
import { drawn } from "./drawn";
import { OverBoard } from "./Overlay";

type Point = { x: number; y: number };
type Keys = (e: KeyboardEvent) => void;

const ways: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/**
 * Tools that are led by keys: the arrows move a crosshair over the board, Space presses there. What
 * is drawn from one place to another is begun by one press and ended by the next.
 */
export function useCrosshair(surface: RefObject<HTMLElement | null>, tap: (at: Point) => boolean) {
  const store = useDraftStore();
  const view = useBoardViewStore();
  const on = useDraft((s) => !!s.crosshair);
  const tool = useDraft((s) => s.tool);
  useEffect(() => {
    if (!on) return;
    surface.current?.focus({ preventScroll: true });
    return () => handle(view, null);
  }, [on, tool, surface, view]);

  const press = (at: Point, from: Point | undefined) => {
    if (tap(at)) return;
    const { tool } = store.getState();
    if (tool === "pointer") drawn(store, at, at, false);
    else if (from) {
      drawn(store, from, at, from.x !== at.x || from.y !== at.y);
      handle(view, null);
      store.setState({ crosshair: { at } });
    } else store.setState({ crosshair: { at, from: at } });
  };

  const onKeyDown = (otherwise: Keys): Keys => {
    return (e) => {
      const { crosshair, doc, tool } = store.getState();
      if (!crosshair || e.target !== surface.current) return otherwise(e);
      const { at, from } = crosshair;
      const way = ways[e.key];
      if (way) {
        const by = e.altKey ? 1 : e.shiftKey ? 50 : 10;
        const to = {
          x: Math.max(0, Math.min(doc.board.width, at.x + way[0] * by)),
          y: Math.max(0, Math.min(doc.board.height, at.y + way[1] * by)),
        };
        store.setState({ crosshair: { at: to, from } });
        if (from) handle(view, { kind: "draw", from, to, guides: [] });
      } else if (e.key === " " || (e.key === "Enter" && tool !== "polygon")) press(at, from);
      else if (e.key === "Escape" && from) {
        handle(view, null);
        store.setState({ crosshair: { at } });
      } else return otherwise(e);
      e.preventDefault();
    };
  };
  return (otherwise: Keys) => ({
    onKeyDown: onKeyDown(otherwise),
    ...(on ? { role: "application", "aria-label": t`Board, with a crosshair that the arrow keys lead` } : {}),
  });
}

/** The crosshair, which says where it is and over what. */
export const Crosshair = memo(function Crosshair({ board }: { board: { width: number; height: number } }) {
  const at = useDraft((s) => s.crosshair?.at);
  const over = useDraft((s) => {
    const { crosshair, doc } = s;
    const under = crosshair && doc.targets.findLast((target) => holds(target.frame, crosshair.at));
    return under ? nameOf(under) : "";
  });
  const mark = useRef<SVGCircleElement>(null);
  useEffect(() => {
    mark.current?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [at]);
  if (!at) return null;
  return (
    <>
      <OverBoard board={board}>
        <path
          d={`M0 ${at.y}H${board.width}M${at.x} 0V${board.height}`}
          fill="none"
          stroke="currentColor"
          strokeDasharray="6 6"
          vectorEffect="non-scaling-stroke"
        />
        <circle ref={mark} cx={at.x} cy={at.y} r={9} fill="none" stroke="currentColor" strokeWidth={2} />
      </OverBoard>
      <span role="status" data-crosshair className="sr-only">
        {at.x}, {at.y}
        {over && `, ${t`in ${over}`}`}
      </span>
    </>
  );
});
