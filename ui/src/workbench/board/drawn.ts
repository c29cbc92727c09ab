import { t } from "@lingui/core/macro";
import type { Rect } from "../../api/types";
import { targetOf } from "../../document/parts";
import type { DraftStore } from "../model/draft";
import { holds } from "../model/frames";

type Point = { x: number; y: number };

/** The frame between two corners. */
export const boxOf = (a: Point, b: Point): Rect => ({
  x: Math.min(a.x, b.x),
  y: Math.min(a.y, b.y),
  w: Math.abs(a.x - b.x),
  h: Math.abs(a.y - b.y),
});

/** Makes what the tool draws from one place to another; going says that it was dragged rather than pressed. */
export function drawn(store: DraftStore, from: Point, to: Point, going: boolean) {
  const { tool, edit, doc } = store.getState();
  const round = (v: number) => Math.round(v);
  // Pressed, the next of the selected targets that has no callout gets one to this spot.
  if (tool === "pointer" && !going) {
    const { selection } = store.getState();
    const next = selection.targets.find((id) => !doc.scenery.some((s) => s.tie === id));
    const frame = next && targetOf(doc, next)?.frame;
    if (next && frame) {
      const middle: [number, number] = [frame.x + frame.w / 2, frame.y + frame.h / 2];
      const drawing = {
        what: tool,
        tie: next,
        points: [middle, [round(from.x), round(from.y)]] as [number, number][],
      };
      void edit(t`draw a callout line`, { act: "draw", drawing }).then(() => store.getState().select(selection));
      return;
    }
  }
  if (tool === "line" || tool === "arrow" || tool === "pointer") {
    const end = going ? to : { x: from.x + 120, y: from.y };
    const tie =
      tool === "pointer" ? [...doc.targets].reverse().find((target) => holds(target.frame, from))?.id : undefined;
    void edit({ line: t`draw a line`, arrow: t`draw an arrow`, pointer: t`draw a callout line` }[tool], {
      act: "draw",
      drawing: {
        what: tool,
        tie: tie ?? "",
        points: [
          [round(from.x), round(from.y)],
          [round(end.x), round(end.y)],
        ],
      },
    });
    return;
  }
  const size = tool === "text" ? { w: 320, h: 60 } : { w: 180, h: 120 };
  const box = going ? boxOf(from, to) : { ...from, ...size };
  const w = Math.max(24, Math.min(round(box.w), doc.board.width));
  const h = Math.max(24, Math.min(round(box.h), doc.board.height));
  const frame = {
    x: Math.max(0, Math.min(round(box.x), doc.board.width - w)),
    y: Math.max(0, Math.min(round(box.y), doc.board.height - h)),
    w,
    h,
  };
  void edit("draw", { act: "draw", drawing: { what: tool, frame } });
}
