import { createContext, useContext } from "react";
import type { Rect, Scene, SceneTarget } from "../api/types";
import type { LaneOpening } from "../engine/types";

export type { LaneOpening };

/** What of the core a board asks while a piece is in hand. */
export interface Geometry {
  /** The index of the target that a piece centred at (x, y) would fall on, or -1. */
  hit(scene: Scene, size: { w: number; h: number }, x: number, y: number): Promise<number>;
  opens(
    target: SceneTarget,
    stands: Rect[],
    sizes: { w: number; h: number }[],
    own: number,
    size: { w: number; h: number },
    x: number,
    y: number,
  ): Promise<LaneOpening>;
}

const Context = createContext<Geometry | undefined>(undefined);
export const GeometryProvider = Context.Provider;

/** Without one nothing shows itself under a piece in hand; the judge still says where it lands. */
export const useGeometry = () => useContext(Context);
