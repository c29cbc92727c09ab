import { useCallback, useEffect, useMemo, useState, type RefObject } from "react";
import type { Scene, Standing } from "../api/types";

type Shift = { x: number; y: number };
const none: ReadonlyMap<string, Shift> = new Map();

/**
 * Whoever reads with more space between letters and words has the words of a text
 * elsewhere than its author: the gaps go with their words, and what stands in them. What
 * is let go over a moved gap is put where the judge knows it to be. Shifts are in board
 * units; a pixel more or less is rounding.
 */
export function useMovedGaps(board: RefObject<HTMLElement | null>, plain: Scene, told: Standing, scale: number) {
  const [shifts, setShifts] = useState(none);
  useEffect(() => {
    const ground = board.current?.parentElement;
    if (!ground?.querySelector("[data-gap]")) return;
    const measure = () => {
      const origin = ground.getBoundingClientRect();
      const found = new Map<string, Shift>();
      for (const e of ground.querySelectorAll<HTMLElement>("[data-gap]")) {
        const f = plain.targets.find((t) => t.id === e.dataset.gap)?.frame;
        const r = e.getBoundingClientRect();
        if (!f) continue;
        const zoom = origin.width / (plain.width * scale + 2); // a rehearsal may draw the page smaller
        const x = (r.left - origin.left) / (scale * zoom) - f.x;
        const y = (r.top - origin.top) / (scale * zoom) - f.y;
        if (Math.abs(x) > 4 || Math.abs(y) > 4) found.set(e.dataset.gap!, { x, y });
      }
      setShifts((was) => (found.size === 0 && was.size === 0 ? was : found));
    };
    // A word of each text, set alone, changes its width with the spacing.
    const watch = new ResizeObserver(measure);
    for (const e of ground.querySelectorAll("[data-ruler]")) watch.observe(e);
    return () => watch.disconnect();
  }, [board, plain, scale]);

  const scene = useMemo(() => {
    if (shifts.size === 0) return plain;
    return { ...plain, targets: plain.targets.map((t) => ({ ...t, frame: by(t.frame, shifts.get(t.id)) })) };
  }, [plain, shifts]);
  const standing = useMemo(() => {
    if (shifts.size === 0) return told;
    const stands = { ...told.stands };
    for (const [target, shift] of shifts)
      for (const id of told.targets[target] ?? []) if (stands[id]) stands[id] = by(stands[id], shift);
    return { ...told, stands };
  }, [told, shifts]);
  const judged = useCallback(
    (at: { x: number; y: number }) => {
      const over = scene.targets.find(
        ({ id, frame: f }) => shifts.has(id) && at.x >= f.x && at.x <= f.x + f.w && at.y >= f.y && at.y <= f.y + f.h,
      );
      const shift = over && shifts.get(over.id)!;
      const hundredth = (v: number) => Math.round(v * 100) / 100;
      return shift ? { x: hundredth(at.x - shift.x), y: hundredth(at.y - shift.y) } : at;
    },
    [scene, shifts],
  );
  return { scene, standing, judged };
}

const by = <F extends { x: number; y: number }>(frame: F, shift: Shift | undefined): F =>
  shift ? { ...frame, x: frame.x + shift.x, y: frame.y + shift.y } : frame;
