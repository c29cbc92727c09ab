/** How board and tray share the room: the tray below or beside, whichever lets the board be larger. */
export type Fit = {
  scale: number;
  beside: boolean;
  /** The scale at which all of the board would be seen. */
  whole: number;
  /** Where the board is larger than its room: what of it is seen at a time, on the screen, and the room of the tray. */
  window?: { width: number; height: number; tray: number; trayHeight?: number };
};

type Needs = {
  width: number;
  height: number;
  pieces: { w: number; h: number }[];
  besideAllowed?: boolean;
  smallest?: number;
  largest?: number;
  /** The least scale that can be read; a board that would have to be smaller is seen through a window. */
  legible?: number;
  /** How much larger than that it is wanted; 0 is all of it, however small. */
  zoom?: number;
};

type Room = { width: number; height: number };

const gap = 8;
const usual = 0.25;

export function fit(room: Room, needs: Needs): Fit {
  const all = seenWhole(room, needs);
  const { legible = 0, zoom = 1 } = needs;
  const scale = zoom === 0 ? all.scale : Math.max(all.scale, legible) * zoom;
  // Without a least scale the room's own page scrolls.
  if (needs.legible === undefined || (scale <= all.scale && all.fits)) return { ...all, scale, whole: all.scale };
  return { scale, whole: all.scale, ...through(room, needs, scale) };
}

/** The largest scale at which all of it is seen. */
function seenWhole(room: Room, needs: Needs): { scale: number; beside: boolean; fits: boolean } {
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
    if (fits(scale, false)) return { scale, beside: false, fits: true };
    if (needs.besideAllowed && fits(scale, true)) return { scale, beside: true, fits: true };
  }
  // Too little room for all of it: the width decides, and the page scrolls.
  return { scale: Math.min(1, Math.max(smallest, (room.width - 4) / needs.width)), beside: false, fits: false };
}

/** A window on the board, as much of it as there is room for, with the tray always beside or below it. */
function through(room: Room, needs: Needs, scale: number): Pick<Fit, "beside" | "window"> {
  const board = { w: needs.width * scale + 2, h: needs.height * scale + 2 };
  const inTray = Math.max(needs.legible ?? 0, 0.5);
  const most = (of: "w" | "h") => Math.max(24, ...needs.pieces.map((p) => p[of])) * inTray + 24;
  const beside = !!needs.besideAllowed && room.width > 1.4 * room.height;
  if (beside) {
    const least = Math.min(most("w"), room.width * 0.4);
    const tray = Math.max(least, Math.min(room.width - board.w - 12, room.width * 0.4));
    const width = Math.min(board.w, room.width - tray - 12);
    const tall = Math.max(120, room.height);
    return { beside, window: { width, height: Math.min(board.h, tall), tray, trayHeight: tall } };
  }
  const least = Math.max(64, Math.min(most("h"), room.height * 0.35));
  const height = Math.min(board.h, Math.max(160, room.height - least - 12));
  return {
    beside,
    window: { width: Math.min(board.w, room.width), height, tray: Math.max(least, room.height - height - 12) },
  };
}
