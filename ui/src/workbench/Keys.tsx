import { Dialog } from "../shared/Dialog";
import { useDraft, useDraftStore } from "./draft";

const zones: [string, [string, string][]][] = [
  [
    "Anywhere",
    [
      ["Ctrl+K", "find a command, an item or a target"],
      ["F6, Shift+F6", "on to the next zone, back to the one before"],
      ["Ctrl+Z, Ctrl+Y", "undo, do again"],
      ["F1", "these keys"],
    ],
  ],
  [
    "On the board",
    [
      ["Arrows", "move by 1, with Shift by 10; with Alt they resize"],
      ["Enter, Space", "select; with Shift and the mouse, several"],
      ["F2", "rename"],
      ["Ctrl+D", "duplicate"],
      ["Delete", "take away, with all that names it"],
    ],
  ],
  [
    "In the ledger",
    [
      ["Arrows, Page, Home, End", "move; with Shift they stretch the range"],
      ["Ctrl+A", "everything"],
      ["Space, Delete", "Placing: set, clear the range"],
      ["Typing, F2", "Content: write in the cell; Enter goes down, Tab to the side"],
      ["Ctrl+C, Ctrl+X, Ctrl+V", "Content: copy, cut and paste, also with a spreadsheet"],
      ["Ctrl+D", "Content: fill the range down"],
      ["Alt+Arrows", "Content: move rows of items"],
    ],
  ],
  ["While rehearsing", [["Escape", "put the piece back, or leave"]]],
];

/** Which key does what, by zone. */
export function Keys() {
  const store = useDraftStore();
  const open = useDraft((s) => s.asking === "keys");
  return (
    <Dialog title="Keys" open={open} onClose={() => store.setState({ asking: "" })}>
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
}
