import { equal, test } from "../testing";
import { besides, type Box } from "./besides";

const view: Box = { x: 0, y: 0, w: 1000, h: 600 };
const covers = (a: Box, b: Box) => a.x < b.x + b.w && b.x < a.x + a.w && a.y < b.y + b.h && b.y < a.y + a.h;

test("where a reply stands: beside what it is about, and over nothing", () => {
  const piece = { x: 400, y: 200, w: 100, h: 60 };
  const at = besides({ w: 300, h: 80 }, view, [piece], [{ box: piece, weight: 100 }]);
  const here = { ...at, w: 300, h: 80 };
  equal(covers(here, piece), false, "it covers the piece");
  const beside = { x: piece.x - 8, y: piece.y - 8, w: piece.w + 16, h: piece.h + 16 };
  equal(at.x <= beside.x + beside.w && at.x + 300 >= beside.x, true, `beside it across: ${at.x}`);
  equal(at.y <= beside.y + beside.h && at.y + 80 >= beside.y, true, `beside it downwards: ${at.y}`);
});

test("where a reply stands: wholly in view, also for a piece at the edge", () => {
  for (const piece of [
    { x: 0, y: 0, w: 90, h: 50 },
    { x: 950, y: 560, w: 50, h: 40 },
  ]) {
    const { x, y } = besides({ w: 300, h: 120 }, view, [piece], [{ box: piece, weight: 10 }]);
    equal(x >= 0 && y >= 0 && x + 300 <= 1000 && y + 120 <= 600, true, `${x}, ${y}`);
  }
});

test("where a reply stands: at the beginning of a view that is too small for it", () => {
  equal(besides({ w: 300, h: 80 }, { x: 5, y: 7, w: 200, h: 60 }, [], []), { x: 5, y: 7 });
});
