import { useMemo } from "react";
import { fit } from "../../board/fit";
import { useDraft } from "../model/draft";

/** How large board units are drawn in a room of this size: fitting it, and by the zoom. */
export function useBoardScale(room: { width: number; height: number }): number {
  const zoom = useDraft((s) => s.zoom);
  const board = useDraft((s) => s.doc.board);
  const items = useDraft((s) => s.doc.items);
  const fitted = useMemo(
    () =>
      fit(
        { width: room.width - 12, height: room.height - 12 },
        {
          width: board.width,
          height: board.height,
          pieces: items.filter((i) => !i.home).map((i) => i.size),
          smallest: 0.15,
        },
      ).scale,
    [room, board, items],
  );
  return Math.round(100 * fitted * zoom) / 100;
}
