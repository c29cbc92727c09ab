import type { Item, Scenery, Target } from "../api/types";
import { tools } from "./board/DrawTools";
import { act, arrows, edges, gaps, group, roles, shapes, stacking, takeTool } from "./model/acts";
import { copyParts, pasteParts } from "./model/clipboard";
import { zoomBy } from "./model/zoom";
import { partsOf, type DraftState, type DraftStore } from "./model/draft";
import { pair } from "./model/key";
import { orderByPlace, readFirst } from "./model/readingOrder";

/** Something that can be done by name: from a menu, or found with Ctrl+K. */
export type Command = {
  title: string;
  group: string;
  keys?: string;
  /** How many parts must be selected for it. */
  needs?: number;
  /** It changes nothing: for those, too, who may only look. */
  looks?: boolean;
  /** Other words by which it is looked for. */
  also?: string[];
  run: () => void;
};

const drawings: Record<string, string> = {
  ellipse: "a round target",
  polygon: "a polygon target",
  text: "a text",
  box: "a box",
  disc: "an ellipse",
  line: "a line",
  arrow: "an arrow",
  pointer: "a callout line from the selected target",
};

/** Draws something in the middle of the board: what the pointer does elsewhere. */
function addDrawing(store: DraftStore, what: string) {
  const { doc, selection, edit } = store.getState();
  const x = Math.round(doc.board.width / 2);
  const y = Math.round(doc.board.height / 2);
  const frame = { x: x - 100, y: y - 60, w: 200, h: 120 };
  const points: [number, number][] =
    what === "polygon"
      ? [
          [x, y - 80],
          [x + 90, y + 60],
          [x - 90, y + 60],
        ]
      : [
          [x - 80, y],
          [x + 80, y],
        ];
  const lines = ["line", "arrow", "pointer", "polygon"].includes(what);
  void edit(`add ${drawings[what]}`, {
    act: "draw",
    drawing: { what, ...(lines ? { points } : { frame }), tie: what === "pointer" ? (selection.targets[0] ?? "") : "" },
  });
}

/** What is selected, the first chosen first. */
function chosenOrder(store: DraftStore) {
  const { selection } = store.getState();
  const { first } = selection;
  const parts = partsOf(selection);
  return first ? [first, ...parts.filter((p) => p.kind !== first.kind || p.id !== first.id)] : parts;
}

/** All commands of the workbench. */
export function commandsOf(store: DraftStore, rehearse: () => void): Command[] {
  const state = store.getState;
  const lower = (title: string) => title.charAt(0).toLowerCase() + title.slice(1);
  /** Sets something of all that is selected. */
  const all = (says: string, apply: (part: Item | Target | Scenery) => void) => () =>
    state().change({
      says,
      apply: (doc) => {
        const { selection } = state();
        for (const kind of ["items", "targets", "scenery"] as const) {
          for (const part of doc[kind]) if (selection[kind].includes(part.id)) apply(part);
        }
      },
    });
  const ask = (asking: DraftState["asking"]) => () => store.setState({ asking });
  const list: Command[] = [
    { title: "Undo", group: "View and edit", keys: "Ctrl+Z", run: () => state().undo() },
    { title: "Redo", group: "View and edit", keys: "Ctrl+Y", run: () => state().redo() },
    { title: "Rehearse", looks: true, group: "View and edit", also: ["preview", "try", "play"], run: rehearse },
    { title: "Release…", group: "View and edit", also: ["publish"], run: ask("release") },
    { title: "Links to try the draft", group: "View and edit", also: ["preview", "share"], run: ask("draftLinks") },
    {
      title: "Demonstrate the answer key",
      looks: true,
      group: "View and edit",
      run: () => store.setState({ demonstrating: true, way: undefined }),
    },
    {
      title: "Show the Content tab",
      looks: true,
      group: "View and edit",
      run: () => store.setState({ lens: "content" }),
    },
    {
      title: "Show the Placing tab",
      looks: true,
      group: "View and edit",
      run: () => store.setState({ lens: "placing" }),
    },
    {
      title: "Show the Feedback tab",
      looks: true,
      group: "View and edit",
      run: () => store.setState({ lens: "replies" }),
    },
    { title: "Show the Marks tab", looks: true, group: "View and edit", run: () => store.setState({ lens: "marks" }) },
    ...(state().released
      ? [
          {
            title: "Show the Outcomes tab",
            looks: true,
            group: "View and edit" as const,
            run: () => store.setState({ lens: "outcomes" }),
          },
        ]
      : []),
    {
      title: "Show the settings for learners",
      looks: true,
      group: "View and edit",
      run: () => store.setState({ lens: "play" }),
    },
    {
      title: "New feedback from a situation",
      group: "View and edit",
      run: () => store.setState({ lens: "replies", toRehearse: { moves: [], setting: true } }),
    },
    {
      title: "Layout: large board",
      looks: true,
      group: "View and edit",
      keys: "Ctrl+1",
      run: () => store.setState({ divider: "board" }),
    },
    {
      title: "Layout: side by side",
      looks: true,
      group: "View and edit",
      keys: "Ctrl+2",
      run: () => store.setState({ divider: "even" }),
    },
    {
      title: "Layout: large table",
      looks: true,
      group: "View and edit",
      keys: "Ctrl+3",
      run: () => store.setState({ divider: "ledger" }),
    },
    { title: "Zoom in", looks: true, group: "View and edit", run: () => zoomBy(store, 1.25) },
    { title: "Zoom out", looks: true, group: "View and edit", run: () => zoomBy(store, 1 / 1.25) },
    { title: "Zoom to fit", looks: true, group: "View and edit", run: () => store.setState({ zoom: 1 }) },
    { title: "Comments", looks: true, group: "View and edit", run: ask("comments") },
    { title: "Version history", looks: true, group: "View and edit", run: ask("revisions") },
    { title: "Board theme", group: "View and edit", run: ask("theme") },
    {
      title: "Show the keys",
      looks: true,
      group: "View and edit",
      keys: "F1",
      run: () => store.setState({ asking: "keys" }),
    },
    {
      title: "Add an item",
      group: "Insert",
      run: () => void state().edit("add an item", { act: "addItems", names: ["New item"] }),
    },
    {
      title: "Add a target",
      group: "Insert",
      run: () => void state().edit("add a target", { act: "addTargets", names: ["New target"] }),
    },
    ...["ellipse", "polygon", "text", "box", "disc", "line", "arrow", "pointer"].map((what) => ({
      title: `Add ${drawings[what]}`,
      group: "Insert",
      run: () => addDrawing(store, what),
    })),
    ...tools.map((t) => ({ title: t.title, group: "Insert", run: () => takeTool(store, t.tool, true) })),
    { title: "Paste parts", group: "Insert", keys: "Ctrl+V", run: () => pasteParts(store) },
    { title: "Table: import or export", group: "Insert", run: ask("table") },
    { title: "Media library", group: "Insert", run: ask("media") },
    { title: "Replace content", group: "Insert", run: ask("swap") },
    { title: "Answer key by tag", group: "Answer key", run: ask("tagPlaces") },
    {
      title: "Pair items with targets in order",
      group: "Answer key",
      run: () => pair(store, state().solution),
    },
    {
      title: "New solution, a copy of this one",
      group: "Answer key",
      run: () => void state().edit("another solution", { act: "anotherSolution", solution: state().solution }),
    },
    {
      title: "Switch between list and grid",
      looks: true,
      group: "Answer key",
      run: () => store.setState((s) => ({ lens: "placing", byItem: !s.byItem })),
    },
    { title: "Rename a tag", group: "Insert", run: ask("tags") },
    {
      title: "Sort items by name",
      group: "Insert",
      run: () =>
        state().change({
          says: "sort items by name",
          apply: (doc) => void doc.items.sort((a, b) => a.name.localeCompare(b.name, doc.lang)),
        }),
    },
    { title: "Rearrange targets", group: "Insert", run: () => act(store, "rearrange targets", "layOut") },
    { title: "Equal gap widths", group: "Insert", run: () => act(store, "make gaps equally wide", "equalGaps") },
    { title: "Fit gaps to their words", group: "Insert", run: () => act(store, "fit gaps to words", "wordGaps") },
    {
      title: "Reading order: show or hide",
      looks: true,
      group: "Reading order",
      run: () => store.setState((s) => ({ showOrder: !s.showOrder })),
    },
    {
      title: "Set reading order from positions",
      group: "Reading order",
      run: () => {
        store.setState({ showOrder: true });
        state().change(orderByPlace());
      },
    },
    {
      title: "Read the selection first, in selection order",
      group: "Reading order",
      needs: 1,
      run: () => {
        store.setState({ showOrder: true });
        state().change(readFirst(chosenOrder(store)));
      },
    },
    {
      title: "Details of the selection",
      looks: true,
      group: "Selection",
      keys: "Alt+Enter",
      run: () => store.setState({ sheet: true }),
    },
    { title: "Group", group: "Selection", keys: "Ctrl+G", needs: 2, run: () => group(store, true) },
    { title: "Ungroup", group: "Selection", keys: "Ctrl+Shift+G", needs: 1, run: () => group(store, false) },
    ...stacking.map((a) => ({
      title: a.title,
      group: "Selection",
      keys: a.keys,
      needs: 1,
      run: () => act(store, lower(a.title), a.act),
    })),
    {
      title: "Create a piece for each selected target",
      group: "Selection",
      needs: 1,
      run: () => act(store, "create pieces for targets", "itemsOfTargets"),
    },
    {
      title: "Create a hidden target under each selected piece",
      group: "Selection",
      needs: 1,
      run: () => act(store, "create targets under pieces", "targetsUnder"),
    },
    {
      title: "Hide in the editor",
      group: "Selection",
      needs: 1,
      run: all("hide", (part) => (part.hidden = true)),
    },
    ...edges.map((a) => ({
      title: `Align ${lower(a.title)}`,
      group: "Selection",
      needs: 1,
      run: () => act(store, `align ${lower(a.title)}`, a.act),
    })),
    ...gaps.map((a) => ({
      title: a.title,
      group: "Selection",
      needs: 3,
      run: () => act(store, lower(a.title), a.act),
    })),
    ...arrows.map((a) => ({
      title: a.title,
      group: "Insert",
      needs: 2,
      run: () => act(store, lower(a.title), "arrows", a.to),
    })),
    ...shapes.map((a) => ({
      title: `Arrange ${lower(a.title)}`,
      group: "Selection",
      needs: 2,
      run: () => act(store, `arrange ${lower(a.title)}`, a.act),
    })),
    {
      title: "Match size to first selected",
      group: "Selection",
      needs: 2,
      run: () => act(store, "match sizes", "size"),
    },
    ...roles.map((r) => ({
      title: `Convert to ${lower(r.title)}`,
      group: "Selection",
      needs: 1,
      run: () => act(store, `convert to ${lower(r.title)}`, "recast", r.to),
    })),
    {
      title: "Duplicate",
      group: "Selection",
      keys: "Ctrl+D",
      needs: 1,
      run: () => act(store, "duplicate", "duplicate"),
    },
    {
      title: "Copy",
      looks: true,
      group: "Selection",
      keys: "Ctrl+C",
      needs: 1,
      run: () => void copyParts(store, state().selection, false),
    },
    {
      title: "Cut",
      group: "Selection",
      keys: "Ctrl+X",
      needs: 1,
      run: () => void copyParts(store, state().selection, true),
    },
    {
      title: "Delete",
      group: "Selection",
      keys: "Delete",
      also: ["remove"],
      needs: 1,
      run: () => act(store, "delete", "remove"),
    },
    {
      title: "Lock position",
      group: "Selection",
      needs: 1,
      run: all("lock position", (part) => (part.pinned = true)),
    },
    {
      title: "Unlock position",
      group: "Selection",
      needs: 1,
      run: all("unlock position", (part) => (part.pinned = false)),
    },
    {
      title: "Select all items",
      looks: true,
      group: "Selection",
      run: () => state().select({ items: state().doc.items.map((i) => i.id) }),
    },
    {
      title: "Select all targets",
      looks: true,
      group: "Selection",
      run: () => state().select({ targets: state().doc.targets.map((t) => t.id) }),
    },
  ];
  return state().mayChange ? list : list.filter((c) => c.looks);
}
