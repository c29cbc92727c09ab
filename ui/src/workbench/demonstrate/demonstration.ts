import type { Doc, Move, Rect, Standing } from "../../api/types";

/** What stands on the board: the pieces in each target, and those that lie beside them all. */
export type Shown = { targets: Record<string, string[]>; loose: { piece: string; frame: Rect }[] };

export const nothingShown: Shown = { targets: {}, loose: [] };

/** The draft made to demonstrate on: everything is let in, targets hold any number, nothing is judged. */
export function demonstrable(doc: Doc): Doc {
  const out = JSON.parse(JSON.stringify(doc)) as Doc;
  for (const t of out.targets) {
    delete t.holds;
    t.lets = { all: true, items: [], tags: [], except: [] };
    t.shows = "always";
  }
  for (const i of out.items) delete i.offTarget;
  out.key = { solutions: [{ name: "", credit: 100, right: {}, needs: [], orders: [] }] };
  out.replies = [];
  out.hints = [];
  out.marks.cells = {};
  Object.assign(out.play, {
    check: "none",
    attempts: 1,
    offTarget: "stay",
    deal: "all",
    shuffle: false,
    timeLimit: 0,
    undo: true,
    reset: true,
    beckon: "none",
  });
  return out;
}

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

export const itemOfPiece = (piece: string) => piece.split("~")[0]!;
