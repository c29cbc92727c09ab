/** How board and tray share the room: the tray below or beside, whichever lets the board be larger. */
export type Fit = { scale: number; beside: boolean };

type Needs = {
  width: number;
  height: number;
  pieces: { w: number; h: number }[];
  besideAllowed?: boolean;
  smallest?: number;
  largest?: number;
};

const gap = 8;
const usual = 0.25;

export function fit(room: { width: number; height: number }, needs: Needs): Fit {
  const w = Math.max(40, ...needs.pieces.map((p) => p.w));
  const h = Math.max(24, ...needs.pieces.map((p) => p.h));
  const n = needs.pieces.length;
  const smallest = needs.smallest ?? usual;
  const fits = (scale: number, beside: boolean) => {
    const board = { w: needs.width * scale + 2, h: needs.height * scale + 2 };
    const cell = { w: w * scale + gap, h: h * scale + gap };
    if (beside) {
      const columns = Math.floor((room.width - board.w - 40) / cell.w);
      return columns > 0 && board.h <= room.height && Math.ceil(n / columns) * cell.h + 44 <= room.height;
    }
    const columns = Math.max(1, Math.floor((Math.min(room.width, board.w) - 16) / cell.w));
    return board.w <= room.width && board.h + Math.ceil(n / columns) * cell.h + 56 <= room.height;
  };
  for (let scale = needs.largest ?? 1.4; scale > smallest; scale -= 0.01) {
    if (fits(scale, false)) return { scale, beside: false };
    if (needs.besideAllowed && fits(scale, true)) return { scale, beside: true };
  }
  // Too little room for all of it: the width decides, and the page scrolls.
  return { scale: Math.min(1, Math.max(smallest, (room.width - 4) / needs.width)), beside: false };
}
