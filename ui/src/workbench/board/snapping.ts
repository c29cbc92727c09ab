import type { Rect } from "../../api/types";

/** A line that shows what something lines up with, or a gap that is as wide as another. */
export type Guide = { x1: number; y1: number; x2: number; y2: number; gap?: boolean };

type Axis = { at: "x" | "y"; size: "w" | "h"; across: "y" | "x"; breadth: "h" | "w" };
const axes: Axis[] = [
  { at: "x", size: "w", across: "y", breadth: "h" },
  { at: "y", size: "h", across: "x", breadth: "w" },
];

/**
 * Where something moved to `box` comes to rest: its edges and middle on those of other
 * parts and of the board, or with a gap as wide as another beside it, whichever is
 * nearest within the reach; and the lines that say why.
 */
export function snap(box: Rect, others: Rect[], board: { width: number; height: number }, reach: number) {
  const out = { ...box };
  const guides: Guide[] = [];
  const whole = { x: 0, y: 0, w: board.width, h: board.height };
  for (const axis of axes) {
    const { at, size, across, breadth } = axis;
    let best = reach;
    let shift = 0;
    let why: (() => Guide[]) | undefined;
    const offer = (by: number, guide: () => Guide[]) => {
      if (Math.abs(by) < best - 0.01) {
        best = Math.abs(by);
        shift = by;
        why = guide;
      }
    };
    for (const o of [whole, ...others]) {
      for (const mine of [0, 0.5, 1]) {
        for (const theirs of mine === 0.5 ? [0.5] : [0, 1]) {
          const line = o[at] + o[size] * theirs;
          offer(line - (box[at] + box[size] * mine), () => {
            const low = Math.min(box[across], o[across]);
            const high = Math.max(box[across] + box[breadth], o[across] + o[breadth]);
            return [guideOf(at, line, low, high)];
          });
        }
      }
    }
    for (const [by, guide] of gaps(box, others, axis)) offer(by, guide);
    out[at] += shift;
    if (why) guides.push(...why());
  }
  return { box: out, guides };
}

const guideOf = (at: "x" | "y", line: number, low: number, high: number): Guide =>
  at === "x" ? { x1: line, x2: line, y1: low, y2: high } : { y1: line, y2: line, x1: low, x2: high };

/** Places at which the gap before or after the box is that between two of the others, or both are alike. */
function gaps(box: Rect, others: Rect[], { at, size, across, breadth }: Axis): [number, () => Guide[]][] {
  // Only what stands beside it counts.
  const beside = others
    .filter((o) => o[across] < box[across] + box[breadth] && box[across] < o[across] + o[breadth])
    .sort((a, b) => a[at] - b[at]);
  const end = (o: Rect) => o[at] + o[size];
  const before = beside.filter((o) => end(o) <= box[at] + box[size] / 2);
  const after = beside.filter((o) => o[at] >= box[at] + box[size] / 2);
  const middle = box[across] + box[breadth] / 2;
  const bar = (from: number, to: number): Guide =>
    at === "x"
      ? { x1: from, x2: to, y1: middle, y2: middle, gap: true }
      : { y1: from, y2: to, x1: middle, x2: middle, gap: true };
  const out: [number, () => Guide[]][] = [];
  const left = before.at(-1);
  const right = after[0];
  if (left && right) {
    const to = (end(left) + right[at] - box[size]) / 2;
    out.push([to - box[at], () => [bar(end(left), to), bar(to + box[size], right[at])]]);
  }
  for (const [a, b] of before.slice(0, -1).map((a, i) => [a, before[i + 1]!] as const)) {
    const gap = b[at] - end(a);
    if (gap <= 0 || !left) continue;
    const to = end(left) + gap;
    out.push([to - box[at], () => [bar(end(a), b[at]), bar(end(left), to)]]);
  }
  for (const [a, b] of after.slice(0, -1).map((a, i) => [a, after[i + 1]!] as const)) {
    const gap = b[at] - end(a);
    if (gap <= 0 || !right) continue;
    const to = right[at] - gap - box[size];
    out.push([to - box[at], () => [bar(to + box[size], right[at]), bar(end(a), b[at])]]);
  }
  return out;
}
