import type { Move, Rect, Standing } from "../../api/types";

/** What stands on the board: the pieces in each target, and those that lie beside them all. */
export type Shown = { targets: Record<string, string[]>; loose: { piece: string; frame: Rect }[] };

export const nothingShown: Shown = { targets: {}, loose: [] };

/** What a standing shows. */
export function shownIn(standing: Standing): Shown {
  const targets = Object.fromEntries(Object.entries(standing.targets).map(([t, list]) => [t, list ?? []]));
  const inside = new Set(Object.values(targets).flat());
  return {
    targets,
    loose: Object.entries(standing.stands).flatMap(([piece, frame]) => (inside.has(piece) ? [] : [{ piece, frame }])),
  };
}

/** The moves that lead there from an empty board. */
export function movesTo(shown: Shown): Move[] {
  const moves: Omit<Move, "n" | "t">[] = [];
  for (const [target, pieces] of Object.entries(shown.targets)) {
    pieces.forEach((piece) => moves.push({ do: "place", piece, target }));
  }
  for (const { piece, frame: f } of shown.loose) {
    moves.push({ do: "drop", piece, x: f.x + f.w / 2, y: f.y + f.h / 2 });
  }
  return moves.map((m, i) => ({ ...m, n: i + 1, t: 0 }));
}
