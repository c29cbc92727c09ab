import { t } from "@lingui/core/macro";
import type { Item, Scenery, Target } from "../api/types";
import { tools } from "./board/DrawTools";
import { act, arrows, edges, gaps, group, roles, shapes, stacking, takeTool } from "./model/acts";
import { copySelected, pasteParts } from "./model/clipboard";
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
  /** Where the keys go on after it: a selector. */
  focus?: string;
  run: () => void;
};

/** What the workbench itself does: begin a rehearsal, open another page. */
export type Leads = { rehearse: () => void; go: (path: string) => void };

const tabs = [
  ["content", t`Show the Content tab`],
  ["placing", t`Show the Placing tab`],
  ["replies", t`Show the Feedback tab`],
  ["marks", t`Show the Marks tab`],
  ["outcomes", t`Show the Outcomes tab`],
  ["play", t`Show the settings for learners`],
] as const;

const drawings: Record<string, string> = {
  ellipse: t`a round target`,
  polygon: t`a polygon target`,
  text: t`a text`,
  box: t`a box`,
  disc: t`an ellipse`,
  line: t`a line`,
  arrow: t`an arrow`,
  pointer: t`a callout line from the selected target`,
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
  void edit(t`add ${drawings[what]!}`, {
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
export function commandsOf(store: DraftStore, { rehearse, go }: Leads): Command[] {
  const state = store.getState;
  const { id } = state();
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
    { title: t`Undo`, group: t`View and edit`, keys: "Ctrl+Z", run: () => state().undo() },
    { title: t`Redo`, group: t`View and edit`, keys: "Ctrl+Y", run: () => state().redo() },
    { title: t`Rehearse`, looks: true, group: t`View and edit`, also: ["preview", "try", "play"], run: rehearse },
    { title: t`Release…`, group: t`View and edit`, also: ["publish"], run: ask("release") },
    { title: t`Preview links`, group: t`View and edit`, also: ["try", "share", "draft"], run: ask("draftLinks") },
    {
      title: t`Demonstrate the answer key`,
      looks: true,
      group: t`View and edit`,
      run: () => store.setState({ demonstrating: true, way: undefined }),
    },
    ...tabs
      .filter(([lens]) => lens !== "outcomes" || state().released)
      .map(([lens, title]) => ({ title, looks: true, group: t`View and edit`, run: () => store.setState({ lens }) })),
    {
      title: t`New feedback from a situation`,
      group: t`View and edit`,
      run: () => store.setState({ lens: "replies", toRehearse: { moves: [], setting: true } }),
    },
    {
      title: t`Layout: large board`,
      looks: true,
      group: t`View and edit`,
      keys: "Ctrl+1",
      run: () => store.setState({ divider: "board" }),
    },
    {
      title: t`Layout: side by side`,
      looks: true,
      group: t`View and edit`,
      keys: "Ctrl+2",
      run: () => store.setState({ divider: "even" }),
    },
    {
      title: t`Layout: large table`,
      looks: true,
      group: t`View and edit`,
      keys: "Ctrl+3",
      run: () => store.setState({ divider: "ledger" }),
    },
    {
      title: t`Show the proof`,
      looks: true,
      group: t`View and edit`,
      also: ["findings", "chance"],
      focus: '[data-zone="proof"]',
      run: () => store.setState({ proofOpen: true }),
    },
    {
      title: t`Releases and sittings`,
      looks: true,
      group: t`View and edit`,
      run: () => go(`/activity/${id}/releases`),
    },
    {
      title: t`Present the draft (shared screen)`,
      looks: true,
      group: t`View and edit`,
      run: () => go(`/activity/${id}/room`),
    },
    { title: t`Shelf`, looks: true, group: t`View and edit`, run: () => go("/") },
    { title: t`Zoom in`, looks: true, group: t`View and edit`, run: () => zoomBy(store, 1.25) },
    { title: t`Zoom out`, looks: true, group: t`View and edit`, run: () => zoomBy(store, 1 / 1.25) },
    { title: t`Zoom to fit`, looks: true, group: t`View and edit`, run: () => store.setState({ zoom: 1 }) },
    { title: t`Comments`, looks: true, group: t`View and edit`, run: ask("comments") },
    { title: t`Version history`, looks: true, group: t`View and edit`, run: ask("revisions") },
    { title: t`Board theme`, group: t`View and edit`, run: ask("theme") },
    {
      title: t`Show the keys`,
      looks: true,
      group: t`View and edit`,
      keys: "F1",
      run: () => store.setState({ asking: "keys" }),
    },
    {
      title: t`Add an item`,
      group: t`Insert`,
      run: () => void state().edit(t`add an item`, { act: "addItems", names: [t`New item`] }),
    },
    {
      title: t`Add a target`,
      group: t`Insert`,
      run: () => void state().edit(t`add a target`, { act: "addTargets", names: [t`New target`] }),
    },
    ...["ellipse", "polygon", "text", "box", "disc", "line", "arrow", "pointer"].map((what) => ({
      title: t`Add ${drawings[what]!}`,
      group: t`Insert`,
      run: () => addDrawing(store, what),
    })),
    ...tools.map((tool) => ({ title: tool.title, group: t`Insert`, run: () => takeTool(store, tool.tool, true) })),
    { title: t`Paste parts`, group: t`Insert`, keys: "Ctrl+V", run: () => void pasteParts(store) },
    { title: t`Table: import or export`, group: t`Insert`, run: ask("table") },
    { title: t`Media library`, group: t`Insert`, run: ask("media") },
    { title: t`Replace content`, group: t`Insert`, run: ask("swap") },
    { title: t`Answer key by tag`, group: t`Answer key`, run: ask("tagPlaces") },
    {
      title: t`Pair items with targets in order`,
      group: t`Answer key`,
      run: () => pair(store, state().solution),
    },
    {
      title: t`New solution, a copy of this one`,
      group: t`Answer key`,
      run: () => void state().edit(t`another solution`, { act: "anotherSolution", solution: state().solution }),
    },
    {
      title: t`Switch between list and grid`,
      looks: true,
      group: t`Answer key`,
      run: () => store.setState((s) => ({ lens: "placing", byItem: !s.byItem })),
    },
    { title: t`Rename a tag`, group: t`Insert`, run: ask("tags") },
    {
      title: t`Sort items by name`,
      group: t`Insert`,
      run: () =>
        state().change({
          says: t`sort items by name`,
          apply: (doc) => void doc.items.sort((a, b) => a.name.localeCompare(b.name, doc.lang)),
        }),
    },
    { title: t`Rearrange targets`, group: t`Insert`, run: () => act(store, t`rearrange targets`, "layOut") },
    { title: t`Equal gap widths`, group: t`Insert`, run: () => act(store, t`make gaps equally wide`, "equalGaps") },
    { title: t`Fit gaps to their words`, group: t`Insert`, run: () => act(store, t`fit gaps to words`, "wordGaps") },
    {
      title: t`Reading order: show or hide`,
      looks: true,
      group: t`Reading order`,
      run: () => store.setState((s) => ({ showOrder: !s.showOrder })),
    },
    {
      title: t`Set reading order from positions`,
      group: t`Reading order`,
      run: () => {
        store.setState({ showOrder: true });
        state().change(orderByPlace());
      },
    },
    {
      title: t`Read the selection first, in selection order`,
      group: t`Reading order`,
      needs: 1,
      run: () => {
        store.setState({ showOrder: true });
        state().change(readFirst(chosenOrder(store)));
      },
    },
    {
      title: t`Details of the selection`,
      looks: true,
      group: t`Selection`,
      keys: "Alt+Enter",
      run: () => store.setState({ sheet: true }),
    },
    { title: t`Group`, group: t`Selection`, keys: "Ctrl+G", needs: 2, run: () => group(store, true) },
    { title: t`Ungroup`, group: t`Selection`, keys: "Ctrl+Shift+G", needs: 1, run: () => group(store, false) },
    ...stacking.map((a) => ({
      title: a.title,
      group: t`Selection`,
      keys: a.keys,
      needs: 1,
      run: () => act(store, lower(a.title), a.act),
    })),
    {
      title: t`Create a piece for each selected target`,
      group: t`Selection`,
      needs: 1,
      run: () => act(store, t`create pieces for targets`, "itemsOfTargets"),
    },
    {
      title: t`Create a hidden target under each selected piece`,
      group: t`Selection`,
      needs: 1,
      run: () => act(store, t`create targets under pieces`, "targetsUnder"),
    },
    {
      title: t`Hide in the editor`,
      group: t`Selection`,
      needs: 1,
      run: all("hide", (part) => (part.hidden = true)),
    },
    ...edges.map((a) => ({
      title: t`Align ${lower(a.title)}`,
      group: t`Selection`,
      needs: 1,
      run: () => act(store, t`align ${lower(a.title)}`, a.act),
    })),
    ...gaps.map((a) => ({
      title: a.title,
      group: t`Selection`,
      needs: 3,
      run: () => act(store, lower(a.title), a.act),
    })),
    ...arrows.map((a) => ({
      title: a.title,
      group: t`Insert`,
      needs: 2,
      run: () => act(store, lower(a.title), "arrows", a.to),
    })),
    ...shapes.map((a) => ({
      title: t`Arrange ${lower(a.title)}`,
      group: t`Selection`,
      needs: 2,
      run: () => act(store, t`arrange ${lower(a.title)}`, a.act),
    })),
    {
      title: t`Match size to first selected`,
      group: t`Selection`,
      needs: 2,
      run: () => act(store, t`match sizes`, "size"),
    },
    ...roles.map((r) => ({
      title: t`Convert to ${lower(r.title)}`,
      group: t`Selection`,
      needs: 1,
      run: () => act(store, t`convert to ${lower(r.title)}`, "recast", r.to),
    })),
    {
      title: t`Duplicate`,
      group: t`Selection`,
      keys: "Ctrl+D",
      needs: 1,
      run: () => act(store, "duplicate", "duplicate"),
    },
    {
      title: t`Copy`,
      looks: true,
      group: t`Selection`,
      keys: "Ctrl+C",
      needs: 1,
      run: () => copySelected(store, false),
    },
    {
      title: t`Cut`,
      group: t`Selection`,
      keys: "Ctrl+X",
      needs: 1,
      run: () => copySelected(store, true),
    },
    {
      title: t`Delete`,
      group: t`Selection`,
      keys: t`Delete`,
      also: ["remove"],
      needs: 1,
      run: () => act(store, "delete", "remove"),
    },
    {
      title: t`Lock position`,
      group: t`Selection`,
      needs: 1,
      run: all(t`lock position`, (part) => (part.pinned = true)),
    },
    {
      title: t`Unlock position`,
      group: t`Selection`,
      needs: 1,
      run: all(t`unlock position`, (part) => (part.pinned = false)),
    },
    {
      title: t`Select all items`,
      looks: true,
      group: t`Selection`,
      run: () => state().select({ items: state().doc.items.map((i) => i.id) }),
    },
    {
      title: t`Select all targets`,
      looks: true,
      group: t`Selection`,
      run: () => state().select({ targets: state().doc.targets.map((target) => target.id) }),
    },
  ];
  return state().mayChange ? list : list.filter((c) => c.looks);
}
