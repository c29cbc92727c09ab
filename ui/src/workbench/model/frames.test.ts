import type { Doc } from "../../api/types";
import { equal, test } from "../../testing";
import { arrangedAlike } from "./frames";

const doc = () =>
  ({
    kind: "sort",
    board: { width: 960, height: 600 },
    items: [{ id: "bell", name: "Bell", text: "Bell", size: { w: 100, h: 60 } }],
    targets: [{ id: "box", name: "Box", label: { text: "Box", side: "above" }, frame: { x: 0, y: 0, w: 9, h: 9 } }],
    scenery: [],
  }) as unknown as Doc;

test("words are no arrangement; sizes, places, looks and the board are", () => {
  const changed = (apply: (d: Doc) => void) => {
    const d = doc();
    apply(d);
    return arrangedAlike(doc(), d);
  };
  equal(
    [
      changed((d) => (d.items[0]!.text = "A bell with a long name")),
      changed((d) => (d.targets[0]!.label.text = "Another")),
      changed((d) => (d.items[0]!.looks = { rest: { style: { text: { size: 30 } } } } as never)),
      changed((d) => (d.board.width = 1000)),
      changed((d) => (d.targets[0]!.frame.x = 1)),
      changed((d) => (d.items[0]!.home = { x: 0, y: 0 })),
    ],
    [true, true, false, false, false, false],
  );
});
