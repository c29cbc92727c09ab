import { equal, test } from "../testing";
import { fit } from "./fit";

const needs = { width: 1000, height: 600, pieces: Array.from({ length: 12 }, () => ({ w: 100, h: 60 })) };

test("board and tray: the larger the room, the larger the board", () => {
  const scales = [400, 800, 1200].map((width) => fit({ width, height: width * 0.75 }, needs).scale);
  equal(
    [...scales].sort((a, b) => a - b),
    scales,
  );
});

test("board and tray: a tray beside where that leaves a larger board", () => {
  const room = { width: 1400, height: 500 };
  equal(fit(room, needs).beside, false);
  const beside = fit(room, { ...needs, besideAllowed: true });
  equal([beside.beside, beside.scale > fit(room, needs).scale], [true, true]);
});

test("board and tray: what would be too small to read is seen through a window", () => {
  const f = fit({ width: 360, height: 600 }, { ...needs, legible: 0.8 });
  equal([f.scale, f.whole < 0.8], [0.8, true]);
  equal(f.window && f.window.width <= 360 && f.window.height + f.window.tray <= 600, true, JSON.stringify(f));
});
