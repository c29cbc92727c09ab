import { memo } from "react";
import { Dialog } from "../kit/Dialog";
import { useDraft, useDraftStore } from "./model/draft";

const zones: [string, [string, string][]][] = [
  [
    "Anywhere",
    [
      ["Ctrl+K", "find a command, an item or a target"],
      ["F6, Shift+F6", "next area, previous area"],
      ["Ctrl+Z, Ctrl+Y", "undo, do again"],
      ["Ctrl+1, 2, 3", "large board, side by side, large table"],
      ["F1", "these keys"],
    ],
  ],
  [
    "On the board",
    [
      ["Arrows", "move by 1, with Shift by 10; with Alt they resize"],
      ["Enter, Space", "select; with Shift, several"],
      ["Alt+Enter", "the details of what is selected"],
      [
        "Enter on a tool",
        "a crosshair: arrows move it by 10 (Shift 50, Alt 1), Space draws from there to the next Space",
      ],
      ["F2", "rename, or write a text"],
      ["Ctrl+A", "select all of the kind that is selected; again, everything"],
      ["Ctrl+D", "duplicate"],
      ["Ctrl+C, Ctrl+X, Ctrl+V", "copy, cut, paste (also between activities)"],
      ["Ctrl+G, Ctrl+Shift+G", "group, ungroup"],
      ["Ctrl+], Ctrl+[", "bring forward / send backward; with Shift to front / back"],
      ["Alt while dragging", "drag without snapping"],
      ["Ctrl+wheel", "zoom"],
      ["Delete", "delete, with everything that refers to it"],
    ],
  ],
  [
    "In the ledger",
    [
      ["Arrows, Page, Home, End", "move; with Shift extend the selection"],
      ["Ctrl+A", "everything"],
      ["Space, Delete", "Placing: set, clear the range; on a tag, everything with it"],
      ["A number", "Placing: set how many of the selection are required"],
      ["Alt+Arrows", "in an order: move up/down, join the next step"],
      ["Typing, F2", "Content: write in the cell; Enter moves down, Tab moves right"],
      ["Ctrl+C, Ctrl+X, Ctrl+V", "Content: copy, cut and paste, to and from a spreadsheet"],
      ["Ctrl+D", "Content, and Placing by item: fill down"],
      ["Alt+Arrows", "Content: move rows of items"],
      ["Shift+Up, Shift+Down", "Feedback: choose several; what you change then changes in all of them"],
    ],
  ],
  [
    "Writing a text",
    [
      ["Ctrl+G", "make a gap of the selected words"],
      ["Ctrl+B, Ctrl+I", "bold, italic"],
      ["Ctrl+Enter, Escape", "leave it; undo restores the text"],
    ],
  ],
  ["While rehearsing", [["Escape", "put the piece back, or leave"]]],
];

/** Which key does what, by zone. */
export const Keys = memo(function Keys() {
  const store = useDraftStore();
  const open = useDraft((s) => s.asking === "keys");
  return (
    <Dialog reading title="Keys" open={open} onClose={() => store.setState({ asking: "" })}>
      {zones.map(([zone, keys]) => (
        <section key={zone} className="mb-4">
          <h3 className="mb-1 font-semibold">{zone}</h3>
          <dl className="grid grid-cols-[11rem_1fr] gap-x-4 gap-y-1">
            {keys.map(([key, does]) => (
              <div key={key} className="contents">
                <dt>
                  <kbd>{key}</kbd>
                </dt>
                <dd className="text-slate">{does}</dd>
              </div>
            ))}
          </dl>
        </section>
      ))}
    </Dialog>
  );
});
