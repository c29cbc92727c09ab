import type { Scene, ScenePiece, SceneTarget, Standing } from "../api/types";
import type { Mark } from "../board/PieceCard";
import type { Words } from "../words/words";
import type { InHand } from "./usePieceInHand";

type Options = {
  words: Words;
  scene: Scene;
  standing: Standing;
  hand: InHand | null;
  /** The target under the piece that is dragged. */
  over: string | null;
  /** The targets that show themselves for the piece in hand, and those that take it, where that is told. */
  beckons?: ReadonlySet<string>;
  opens?: ReadonlySet<string>;
  /** Pieces and targets that are pointed out; dim fades all others. */
  pointed?: ReadonlySet<string>;
  dim?: boolean;
};

/** What each piece and target of a live board looks like at this moment, and what it is called. */
export function appearance({ words, scene, standing, hand, over, beckons, opens, pointed, dim }: Options) {
  const spoken = new Map(scene.pieces.map((p) => [p.id, p.spoken]));
  const targetOf = new Map(scene.targets.flatMap((t) => (standing.targets[t.id] ?? []).map((piece) => [piece, t])));
  const mark = (piece: string): Mark => {
    if (standing.shown?.right.includes(piece)) return "right";
    if (standing.shown?.wrong.includes(piece)) return "wrong";
    if (!standing.held.includes(piece)) return "none";
    return scene.showsRight ? "held" : "fixed";
  };
  const refuses = (target: string) => opens && !opens.has(target);
  return {
    mark,
    pieceName: (p: ScenePiece) => {
      const t = targetOf.get(p.id);
      const m = mark(p.id);
      const where = t
        ? words("inTarget", { piece: p.spoken, target: t.spoken })
        : words("notPlaced", { piece: p.spoken });
      const state = m === "none" ? "" : words(m === "right" ? "isRight" : m === "wrong" ? "isWrong" : "isHeld");
      return [where, state, hand?.piece === p.id ? words("inHand") : ""].filter(Boolean).join(", ");
    },
    targetName: (t: SceneTarget) => {
      const names = (standing.targets[t.id] ?? []).map((piece) => spoken.get(piece));
      return names.length === 0
        ? words("empty", { target: t.spoken })
        : words("holds", { target: t.spoken, pieces: names.join(", ") });
    },
    pieceLook: (p: ScenePiece) => {
      const m = mark(p.id);
      if (m === "right" || m === "wrong") return p.looks[m];
      if (m === "held") return p.looks.heldInPlace;
      if (hand?.piece === p.id && !hand.dragged) return p.looks.inHand;
      return standing.stands[p.id] ? p.looks.placed : p.looks.rest;
    },
    /** That of the piece under the pointer. */
    handLook: (p: ScenePiece) => (!over ? p.looks.inHand : refuses(over) ? p.looks.overClosed : p.looks.overOpen),
    targetLook: (t: SceneTarget) => {
      if (over === t.id) return refuses(t.id) ? t.looks.overClosed : t.looks.overOpen;
      const state = standing.shown?.targets?.[t.id];
      return state ? t.looks[state] : hand && beckons?.has(t.id) ? t.looks.beckoning : t.looks.rest;
    },
    /** While a piece is in hand, those show themselves that beckon; taken up by press or key, all that are there. */
    targetState: (target: string) => {
      if (over === target) return "over" as const;
      if (hand && beckons) return beckons.has(target) ? ("open" as const) : ("rest" as const);
      return hand && !hand.dragged ? ("open" as const) : ("rest" as const);
    },
    handOf: (piece: string) => {
      if (!hand) return "none" as const;
      return hand.piece !== piece ? ("other" as const) : hand.dragged ? ("dragged" as const) : ("taken" as const);
    },
    stress: (id: string) =>
      pointed?.has(id) ? "outline-3 outline-offset-2 outline-feather rounded-(--radius)" : dim ? "opacity-35" : "",
    opacity: (piece: string) => {
      const t = targetOf.get(piece);
      return t && t.opacity < 100 ? t.opacity / 100 : undefined;
    },
  };
}
