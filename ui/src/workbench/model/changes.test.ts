import type { Doc, Rect, Target } from "../../api/types";
import { equal, test } from "../../testing";
import { move, moveFrame, resize, takeDocument, tieLines } from "./changes";
import { enablePatches, produceWithPatches } from "immer";

enablePatches();

const doc = () =>
  ({
    title: "A board",
    board: { width: 1000, height: 600 },
    items: [{ id: "bell", size: { w: 100, h: 60 }, home: { x: 0, y: 0 } }],
    targets: [
      {
        id: "box",
        frame: { x: 100, y: 100, w: 200, h: 100 },
        points: [
          [100, 100],
          [300, 100],
          [200, 200],
        ],
      },
      { id: "bag", frame: { x: 500, y: 100, w: 200, h: 100 }, points: [] },
    ],
    scenery: [{ id: "line", type: "pointer", tie: "box", from: { x: 0, y: 0 }, to: { x: 800, y: 150 } }],
  }) as unknown as Doc;

test("moving: a target takes its corners along, and none leaves the board", () => {
  const d = doc();
  move([{ kind: "target", id: "box" }], 50, 0).apply(d);
  equal(d.targets[0]!.points, [
    [150, 100],
    [350, 100],
    [250, 200],
  ]);
  move([{ kind: "target", id: "box" }], 5000, -5000).apply(d);
  equal(d.targets[0]!.frame, { x: 800, y: 0, w: 200, h: 100 });
});

test("a new frame takes corners where the core takes them", async () => {
  const response = await fetch("core.json");
  const { frames } = (await response.json()) as { frames: { target: Target; to: Rect; points: Target["points"] }[] };
  for (const { target, to, points } of frames) {
    const before = JSON.stringify(target);
    moveFrame(target, to);
    equal(target.points, points, `${before} to ${JSON.stringify(to)}`);
  }
  equal(frames.length > 100, true);
});

test("sizing: no part becomes too small to be taken hold of", () => {
  const d = doc();
  resize({ kind: "target", id: "bag" }, { x: 500, y: 100, w: 2, h: 2 }).apply(d);
  equal(d.targets[1]!.frame, { x: 500, y: 100, w: 24, h: 24 });
});

test("lines that are tied begin at the edge of their target", () => {
  const d = doc();
  tieLines(d);
  equal(d.scenery[0]!.from, { x: 300, y: 150 });
});

test("a line that is tied begins where the core has it begin", async () => {
  const response = await fetch("core.json");
  type Spot = { x: number; y: number };
  const { lines } = (await response.json()) as { lines: { frame: Rect; from: Spot; to: Spot }[] };
  for (const { frame, from, to } of lines) {
    const d = doc();
    d.targets[0]!.frame = frame;
    d.scenery[0]!.to = to;
    tieLines(d);
    equal(d.scenery[0]!.from, from, JSON.stringify({ frame, to }));
  }
  equal(lines.length > 100, true);
});

test("what the core gives back leaves alone what it did not change", () => {
  const before = doc();
  const from = structuredClone(before);
  from.targets[1]!.frame.x = 600;
  const [after, patches] = produceWithPatches(before, (d) => takeDocument(from, "").apply(d));
  equal(after.targets[1]!.frame.x, 600);
  equal([after.items === before.items, after.targets[0] === before.targets[0], patches.length], [true, true, 1]);
});
