import { useLayoutEffect, type RefObject } from "react";
import { moveFrame } from "../model/changes";
import { sceneryOf, targetOf } from "../../document/parts";
import { useDraft, useDraftStore } from "../model/draft";

/**
 * Gaps stand where their text leaves room for them: after the text is drawn its gaps
 * are measured, and their targets put there, as part of the step that changed it. A
 * text that is longer than its frame gets a higher one.
 */
export function useGaps(board: RefObject<HTMLElement | null>, scale: number) {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  const rich = useDraft((s) => s.known?.rich);
  useLayoutEffect(() => {
    let live = true;
    const measure = () => {
      const ground = board.current?.getBoundingClientRect();
      if (!live || !ground) return;
      const found = [...board.current!.querySelectorAll<HTMLElement>("[data-part] [data-gap]")].flatMap((e) => {
        const r = e.getBoundingClientRect();
        const x = Math.round((r.left - ground.left) / scale);
        const y = Math.round((r.top - ground.top) / scale);
        const f = targetOf(store.getState().doc, e.dataset.gap!)?.frame;
        // A pixel more or less is rounding, not another place.
        return f && (Math.abs(f.x - x) > 1.5 || Math.abs(f.y - y) > 1.5) ? [{ id: e.dataset.gap!, x, y }] : [];
      });
      // A text has room for all of its lines.
      const grown = [...board.current!.querySelectorAll<HTMLElement>("[data-part^='scenery-'] [data-text]")].flatMap(
        (e) => {
          const id = e.closest<HTMLElement>("[data-part]")!.dataset.part!.slice("scenery-".length);
          const s = sceneryOf(store.getState().doc, id);
          return s?.type === "text" && s.frame && e.offsetHeight > s.frame.h + 1 ? [{ id, h: e.offsetHeight }] : [];
        },
      );
      if (found.length + grown.length === 0) return;
      store.getState().adjust((d) => {
        for (const { id, h } of grown) sceneryOf(d, id)!.frame!.h = h;
        for (const { id, x, y } of found) {
          const t = targetOf(d, id)!;
          moveFrame(t, { ...t.frame, x: Math.max(0, x), y: Math.max(0, y) });
        }
      });
    };
    // Letters of another font are of another width.
    if (document.fonts.status === "loaded") measure();
    else void document.fonts.ready.then(measure);
    return () => {
      live = false;
    };
  }, [store, board, doc, rich, scale]);
}
