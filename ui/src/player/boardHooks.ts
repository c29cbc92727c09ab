import { replaceEqualDeep } from "@tanstack/react-query";
import { useEffect, useMemo, useState, type RefObject } from "react";
import type { Beckoning, Move, Rect, Scene, ScenePiece, Standing } from "../api/types";
import { useGeometry, type LaneOpening } from "./geometry";
import type { Position } from "./usePieceInHand";

/** A place on the screen in board units, to the hundredth that the core reads; also where the board is drawn smaller as a whole. */
export function onBoard(board: HTMLElement, width: number, at: { x: number; y: number }) {
  const r = board.getBoundingClientRect();
  const unit = (v: number) => Math.round((v / r.width) * width * 100) / 100;
  return { x: unit(at.x - r.left), y: unit(at.y - r.top) };
}

/** Whether pieces can be moved: also while Try again is on its way, for what is done next is judged after it. */
export const canPlace = (standing: Standing, queue: Move[]) =>
  standing.phase === "placing" || (standing.phase === "paused" && queue.some((m) => m.do === "again"));

/** Where each piece stands that is not in the tray: as the judge said last, and as
 * moves under way mean it. */
export function useSpots(scene: Scene, standing: Standing, queue: Move[]) {
  return useMemo(() => {
    const spots = new Map<string, Rect>();
    for (const p of scene.pieces) {
      const r = standing.stands[p.id];
      if (r) spots.set(p.id, r);
      else if (p.home) spots.set(p.id, { ...p.home, ...p.size });
    }
    for (const m of queue) {
      const p = scene.pieces.find((x) => x.id === m.piece);
      if (!p) continue;
      const at = (x: number, y: number) =>
        spots.set(p.id, { x: x - p.size.w / 2, y: y - p.size.h / 2, w: p.size.w, h: p.size.h });
      const t = scene.targets.find((x) => x.id === m.target);
      if (m.do === "drop" && m.x !== undefined && m.y !== undefined) at(m.x, m.y);
      else if (m.do === "place" && t) at(t.frame.x + t.frame.w / 2, t.frame.y + t.frame.h / 2);
      else if (m.do === "lift") spots.delete(p.id);
    }
    return spots;
  }, [scene, standing, queue]);
}

/** What is under the piece in hand: a target, and where it is a lane, the room that it makes. */
export type Over = { target: string; opening?: LaneOpening };

/** The target under the piece in hand, by the core's own hit rule. */
export function useOver(
  scene: Scene,
  standing: Standing,
  position: Position,
  piece: ScenePiece | undefined,
  board: RefObject<HTMLElement | null>,
): Over | null {
  const [over, setOver] = useState<Over | null>(null);
  const geometry = useGeometry();
  useEffect(() => {
    if (!piece || !geometry) {
      setOver(null);
      return;
    }
    let asked = 0;
    const find = async (x: number, y: number) => {
      const target = scene.targets[await geometry.hit(scene, piece.size, x, y)];
      if (!target) return null;
      const lane = (standing.targets[target.id] ?? []).filter((id) => standing.stands[id]);
      if (!target.lane || lane.length === 0) return { target: target.id };
      const stands = lane.map((id) => standing.stands[id]!);
      const sizes = lane.map((id) => scene.pieces.find((p) => p.id === id)!.size);
      const opening = await geometry.opens(target, stands, sizes, lane.indexOf(piece.id), piece.size, x, y);
      return { target: target.id, opening };
    };
    const look = () => {
      const turn = ++asked;
      if (!board.current) return;
      const { x, y } = onBoard(board.current, scene.width, position.getState());
      find(x, y).then(
        (found) => turn === asked && setOver((over) => replaceEqualDeep(over, found)),
        () => {}, // without the engine nothing shows itself; the judge still says where it lands
      );
    };
    look();
    const leave = position.subscribe(look);
    return () => {
      leave();
      asked = -1; // what was asked last is not heard any more
    };
  }, [geometry, scene, standing, position, piece, board]);
  return over;
}

/** Where pieces stand while a lane makes room for one that is held over it. */
export function useParted(spots: Map<string, Rect>, standing: Standing, over: Over | null, piece?: string) {
  return useMemo(() => {
    if (!over?.opening) return spots;
    const parted = new Map(spots);
    const others = (standing.targets[over.target] ?? []).filter((id) => id !== piece);
    others.forEach((id, i) => parted.set(id, over.opening!.stands[i] ?? parted.get(id)!));
    return parted;
  }, [spots, standing, over, piece]);
}

/** What targets say of themselves for the piece in hand: undefined where, or while, they say nothing. */
export function useBeckons(scene: Scene, piece: string | undefined, ask: (piece: string) => Promise<Beckoning>) {
  const [found, setFound] = useState<{ piece: string; targets: ReadonlySet<string>; opens: ReadonlySet<string> }>();
  const asks = scene.beckons || scene.tellsOver;
  useEffect(() => {
    if (!asks || !piece) return;
    let live = true;
    ask(piece).then(
      ({ targets, opens }) => live && setFound({ piece, targets: new Set(targets), opens: new Set(opens) }),
      () => {}, // unasked, none shows itself
    );
    return () => {
      live = false;
    };
  }, [asks, piece, ask]);
  const known = asks && piece && found?.piece === piece ? found : undefined;
  return { beckons: scene.beckons ? known?.targets : undefined, opens: scene.tellsOver ? known?.opens : undefined };
}
