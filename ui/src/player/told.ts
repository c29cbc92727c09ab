import { useCallback, useState } from "react";
import type { Rect, Scene, Standing, Told } from "../api/types";

/** What stands before the learner. The same reply keeps its key from answer to answer. */
export const keyOf = (t: Told) => `${t.n}.${t.number}`;

function remembered(keep: string | undefined): string[] {
  try {
    return keep ? (JSON.parse(localStorage.getItem(keep) ?? "[]") as string[]) : [];
  } catch {
    return [];
  }
}

/** Which replies are before the learner: those that stand, less what was closed, and what was opened again. */
export function useTold(standing: Standing, keep?: string) {
  const [closed, setClosed] = useState(() => remembered(keep));
  const [again, setAgain] = useState<string>();
  const close = useCallback(
    (key: string) => {
      setAgain((was) => (was === key ? undefined : was));
      setClosed((was) => {
        const now = was.includes(key) ? was : [...was, key];
        if (keep) localStorage.setItem(keep, JSON.stringify(now));
        return now;
      });
    },
    [keep],
  );
  const shown = standing.replies.filter((t) => keyOf(t) === again || (!t.over && !closed.includes(keyOf(t))));
  /** The reply that can be opened again from a piece. */
  const reopens = useCallback(
    (piece: string) => {
      const t = standing.replies.findLast((x) => x.reopen && x.piece === piece);
      return t && !(shown.some((x) => keyOf(x) === keyOf(t)) || again === keyOf(t)) ? keyOf(t) : undefined;
    },
    [standing, shown, again],
  );
  return { shown, close, reopens, reopen: setAgain };
}

const overlap = (a: Rect, b: Rect) =>
  Math.max(0, Math.min(a.x + a.w, b.x + b.w) - Math.max(a.x, b.x)) *
  Math.max(0, Math.min(a.y + a.h, b.y + b.h) - Math.max(a.y, b.y));

/** The parts of the board that a reply speaks about. */
export function about(t: Told, scene: Scene, standing: Standing): Rect[] {
  const pieces = [...(t.piece ? [t.piece] : []), ...(t.points?.pieces ?? [])];
  const targets = [...(t.target ? [t.target] : []), ...(t.points?.targets ?? [])];
  return [
    ...pieces.flatMap((id) => standing.stands[id] ?? []),
    ...targets.flatMap((id) => scene.targets.find((x) => x.id === id)?.frame ?? []),
    ...(t.points?.places ?? []),
  ];
}

/** Where at the board's edge replies of a size (in board units) cover least, and least of what they are about. */
export function freeEdge(
  told: Told[],
  scene: Scene,
  standing: Standing,
  w: number,
  h: number,
): { x: number; y: number } {
  const gap = 8;
  const mine = told.flatMap((t) => about(t, scene, standing));
  const covered = (here: Rect, parts: Rect[]) => parts.reduce((sum, r) => sum + overlap(here, r), 0);
  const targets = scene.targets.map((x) => x.frame);
  const pieces = Object.values(standing.stands);
  let best = { x: gap, y: gap, cost: Infinity };
  for (const y of [scene.height - h - gap, gap]) {
    for (const x of [(scene.width - w) / 2, gap, scene.width - w - gap]) {
      const here = { x, y, w, h };
      const cost = covered(here, targets) + 8 * covered(here, pieces) + 20 * covered(here, mine);
      if (cost < best.cost) best = { x, y, cost };
    }
  }
  return best;
}
