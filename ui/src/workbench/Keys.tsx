import { memo } from "react";
import { t } from "@lingui/core/macro";
import { Dialog } from "../kit/Dialog";
import { useDraft, useDraftStore } from "./model/draft";

const zones: [string, [string, string][]][] = [
  [
    t`Anywhere`,
    [
      ["Ctrl+K", t`find a command, an item or a target`],
      [t`F6, Shift+F6`, t`next area, previous area`],
      [t`Ctrl+Z, Ctrl+Y`, t`undo, do again`],
      [t`Ctrl+1, 2, 3`, t`large board, side by side, large table`],
      ["F1", t`these keys`],
    ],
  ],
  [
    t`On the board`,
    [
      [t`Arrows`, t`move by 1, with Shift by 10; with Alt they resize`],
      [t`Enter, Space`, t`select; with Shift, several`],
      ["Alt+Enter", t`the details of what is selected`],
      [
        t`Enter on a tool`,
        t`a crosshair: arrows move it by 10 (Shift 50, Alt 1), Space draws from there to the next Space`,
      ],
      ["F2", t`rename, or write a text`],
      ["Ctrl+A", t`select all of the kind that is selected; again, everything`],
      ["Ctrl+D", t`duplicate`],
      [t`Ctrl+C, Ctrl+X, Ctrl+V`, t`copy, cut, paste (also between activities)`],
      [t`Ctrl+G, Ctrl+Shift+G`, t`group, ungroup`],
      ["Ctrl+], Ctrl+[", t`bring forward / send backward; with Shift to front / back`],
      [t`Alt while dragging`, t`drag without snapping`],
      ["Ctrl+wheel", t`zoom`],
      [t`Delete`, t`delete, with everything that refers to it`],
    ],
  ],
  [
    t`In the ledger`,
    [
      [t`Arrows, Page, Home, End`, t`move; with Shift extend the selection`],
      ["Ctrl+A", t`everything`],
      [t`Space, Delete`, t`Placing: set, clear the range; on a tag, everything with it`],
      [t`A number`, t`Placing: set how many of the selection are required`],
      ["Alt+Arrows", t`in an order: move up/down, join the next step`],
      [t`Typing, F2`, t`Content: write in the cell; Enter moves down, Tab moves right`],
      [t`Ctrl+C, Ctrl+X, Ctrl+V`, t`Content: copy, cut and paste, to and from a spreadsheet`],
      ["Ctrl+D", t`Content, and Placing by item: fill down`],
      ["Alt+Arrows", t`Content: move rows of items`],
      [t`Shift+Up, Shift+Down`, t`Feedback: choose several; what you change then changes in all of them`],
    ],
  ],
  [
    t`Writing a text`,
    [
      ["Ctrl+G", t`make a gap of the selected words`],
      [t`Ctrl+B, Ctrl+I`, t`bold, italic`],
      [t`Ctrl+Enter, Escape`, t`leave it; undo restores the text`],
    ],
  ],
  [t`While rehearsing`, [["Escape", t`put the piece back, or leave`]]],
];

/** Which key does what, by zone. */
export const Keys = memo(function Keys() {
  const store = useDraftStore();
  const open = useDraft((s) => s.asking === "keys");
  return (
    <Dialog reading title={t`Keyboard shortcuts`} open={open} onClose={() => store.setState({ asking: "" })}>
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
