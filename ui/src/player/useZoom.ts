import { useCallback, useState } from "react";
import type { Fit } from "../board/fit";

/** How much larger than usual; 0 is all of the board, however small. */
const steps = [0, 1, 1.25, 1.5, 2, 2.5, 3, 4];

/** How large the learner wants the board. */
export function useZoom(shared: Fit | undefined, legible: number) {
  const [zoom, setZoom] = useState(1);
  // Where all of it is seen as it is, there is nothing smaller.
  const smaller = !!shared && shared.whole < legible - 0.005;
  const first = smaller ? 0 : 1;
  const onZoom = useCallback(
    (by: 1 | -1) => setZoom((z) => steps[Math.max(first, Math.min(steps.indexOf(z) + by, steps.length - 1))]!),
    [first],
  );
  return { zoom, onZoom, more: zoom < steps.at(-1)!, less: zoom > steps[first]! };
}
