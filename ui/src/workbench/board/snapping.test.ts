import { equal, test } from "../../testing";
import { snap } from "./snapping";

const board = { width: 1000, height: 600 };
const at = (x: number, y: number, w = 100, h = 60) => ({ x, y, w, h });

test("snapping: edges meet edges within reach, and not beyond", () => {
  const { box, guides } = snap(at(203, 300), [at(200, 100)], board, 6);
  equal([box.x, guides.length], [200, 1]);
  equal(snap(at(210, 300), [at(200, 100)], board, 6).box.x, 210);
});

test("snapping: the nearer of two wins", () => {
  equal(snap(at(203, 300), [at(200, 100), at(204, 500)], board, 6).box.x, 204);
});

test("snapping: the middle of the board", () => {
  equal(snap(at(447, 267), [], board, 6).box, at(450, 270));
});

test("snapping: a gap as wide as the one before", () => {
  // 40 between the first two: the third comes to rest 40 after the second.
  const { box, guides } = snap(at(283, 103, 100, 60), [at(11, 100, 92, 60), at(143, 100, 97, 60)], board, 6);
  equal(box.x, 280);
  equal(guides.filter((g) => g.gap).length, 2);
});
