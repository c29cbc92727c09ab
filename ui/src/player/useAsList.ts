import { useState } from "react";
import type { Scene } from "../api/types";

/** The scale below which pieces on the board are too small to be told apart or hit. */
const tooSmall = 0.3;

/** Whether the sitting is shown as a list: where the learner chose it, or the board would be too small. */
export function useAsList(scene: Scene): [boolean, (on: boolean) => void] {
  const [chosen, setChosen] = useState<boolean>();
  const small = innerWidth / scene.width < tooSmall;
  return [chosen ?? small, setChosen];
}
