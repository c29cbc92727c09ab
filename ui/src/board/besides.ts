// Where something that is said stands: inside what can be seen, beside what it is about,
// and over as little as there can be.

export type Box = { x: number; y: number; w: number; h: number };

/** What is covered unwillingly, and how unwillingly. */
export type Avoid = { box: Box; weight: number };

const gap = 8;

const overlap = (a: Box, b: Box) =>
  Math.max(0, Math.min(a.x + a.w, b.x + b.w) - Math.max(a.x, b.x)) *
  Math.max(0, Math.min(a.y + a.h, b.y + b.h) - Math.max(a.y, b.y));

const between = (x: number, low: number, high: number) => Math.max(low, Math.min(x, high));

/** The distance between two boxes; 0 where they touch. */
const distance = (a: Box, b: Box) =>
  Math.hypot(Math.max(0, a.x - (b.x + b.w), b.x - (a.x + a.w)), Math.max(0, a.y - (b.y + b.h), b.y - (a.y + a.h)));

/**
 * The place for something of a size: of those beside its subjects and of a grid over the
 * view, the one that covers least, by weight; of alike ones the one nearest to what it is
 * about, or to where its author wanted it. Wholly inside the view where that is large
 * enough, else at its beginning. Cost: some hundred places times what is avoided.
 */
export function besides(
  size: { w: number; h: number },
  view: Box,
  subjects: Box[],
  avoid: Avoid[],
  wanted?: { x: number; y: number },
): { x: number; y: number } {
  const { w, h } = size;
  const right = Math.max(view.x, view.x + view.w - w);
  const bottom = Math.max(view.y, view.y + view.h - h);
  const places: { x: number; y: number }[] = wanted ? [wanted] : [];
  for (const s of subjects) {
    for (const x of [s.x, s.x + (s.w - w) / 2, s.x + s.w - w]) {
      places.push({ x, y: s.y + s.h + gap }, { x, y: s.y - h - gap });
    }
    for (const y of [s.y, s.y + (s.h - h) / 2, s.y + s.h - h]) {
      places.push({ x: s.x + s.w + gap, y }, { x: s.x - w - gap, y });
    }
  }
  const steps = 12;
  for (let i = 0; i <= steps; i++) {
    for (let j = 0; j <= steps; j++) {
      places.push({ x: view.x + ((right - view.x) * i) / steps, y: view.y + ((bottom - view.y) * j) / steps });
    }
  }
  const middle = { x: (view.x + right) / 2, y: bottom, w: 0, h: 0 };
  let best = { x: view.x, y: view.y };
  let least = Infinity;
  for (const place of places) {
    const x = between(place.x, view.x, right);
    const y = between(place.y, view.y, bottom);
    const here = { x, y, w, h };
    let cost = avoid.reduce((sum, a) => sum + a.weight * overlap(here, a.box), 0);
    if (cost >= least) continue;
    // Nearness decides only between places that cover about as much.
    if (wanted) cost += 2 * Math.hypot(x - wanted.x, y - wanted.y);
    else if (subjects.length > 0) cost += Math.min(...subjects.map((s) => distance(here, s)));
    else cost += distance({ x: x + w / 2, y: y + h, w: 0, h: 0 }, { ...middle, x: middle.x + w / 2, y: bottom + h });
    if (cost < least) {
      least = cost;
      best = { x, y };
    }
  }
  return best;
}
