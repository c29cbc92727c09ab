import { equal, test } from "../../testing";
import { cellWords, readPoints } from "./cells";

test("points: as they are typed", () => {
  for (const [text, column, want] of [
    ["2", "weight", { weight: 2, penalty: undefined }],
    ["-1", "penalty", { weight: 1, penalty: undefined }],
    ["2 -1", "in brakes", { weight: 2, penalty: 1 }],
    ["2/−1", "in brakes", { weight: 2, penalty: 1 }],
    ["-3", "in brakes", { weight: undefined, penalty: 3 }],
    ["", "in brakes", {}],
    ["many", "weight", undefined],
    ["1001", "weight", undefined],
    ["1.5", "weight", undefined],
  ] as const) {
    equal(readPoints(text, column), want, `${text} in ${column}`);
  }
});

test("points: what is shown is read as the same", () => {
  for (const cell of [{ weight: 2 }, { penalty: 1 }, { weight: 0, penalty: 4 }]) {
    const { weight, penalty } = readPoints(cellWords(cell), "in brakes")!;
    equal({ weight, penalty }, { weight: undefined, penalty: undefined, ...cell });
  }
});
