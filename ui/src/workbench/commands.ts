import { partsOf, type DraftStore } from "./draft";

/** Something that can be done by name: from a menu, or found with Ctrl+K. */
export type Command = {
  title: string;
  group: string;
  keys?: string;
  /** How many parts must be selected for it. */
  needs?: number;
  run: () => void;
};

/** Acts of the core on what is selected. */
export const edges = [
  { act: "left", title: "Left edges" },
  { act: "centre", title: "Middles across" },
  { act: "right", title: "Right edges" },
  { act: "top", title: "Top edges" },
  { act: "middle", title: "Middles down" },
  { act: "bottom", title: "Bottom edges" },
];
export const gaps = [
  { act: "across", title: "Equal gaps across" },
  { act: "down", title: "Equal gaps down" },
];
export const shapes = [
  { act: "grid", title: "Into a grid" },
  { act: "row", title: "Into a row" },
  { act: "column", title: "Into a column" },
  { act: "ring", title: "Into a ring" },
];
export const roles = [
  { to: "item", title: "Items" },
  { to: "target", title: "Targets" },
  { to: "scenery", title: "Scenery" },
];

/** Does an act to what is selected, as one step. */
export function act(store: DraftStore, says: string, name: string, to?: string) {
  const { selection, alignTo, edit } = store.getState();
  void edit(says, { act: name, parts: selection, to: to ?? alignTo, first: partsOf(selection)[0] });
}

/** All commands of the workbench. */
export function commandsOf(store: DraftStore, rehearse: () => void): Command[] {
  const state = store.getState;
  const lower = (title: string) => title.charAt(0).toLowerCase() + title.slice(1);
  const pinned = (on: boolean) =>
    state().change({
      says: on ? "pin" : "unpin",
      apply: (doc) => {
        const { selection } = state();
        for (const kind of ["items", "targets", "scenery"] as const) {
          for (const part of doc[kind]) if (selection[kind].includes(part.id)) part.pinned = on;
        }
      },
    });
  return [
    { title: "Undo", group: "Work", keys: "Ctrl+Z", run: () => state().undo() },
    { title: "Do again", group: "Work", keys: "Ctrl+Y", run: () => state().redo() },
    { title: "Rehearse", group: "Work", run: rehearse },
    { title: "Show the Content lens", group: "Work", run: () => store.setState({ lens: "content" }) },
    { title: "Show the Placing lens", group: "Work", run: () => store.setState({ lens: "placing" }) },
    { title: "Show the keys", group: "Work", keys: "F1", run: () => store.setState({ asking: "keys" }) },
    {
      title: "Add an item",
      group: "Make",
      run: () => void state().edit("add an item", { act: "addItems", names: ["New item"] }),
    },
    {
      title: "Add a target",
      group: "Make",
      run: () => void state().edit("add a target", { act: "addTargets", names: ["New target"] }),
    },
    { title: "Lay all targets out again", group: "Make", run: () => act(store, "lay out again", "layOut") },
    ...edges.map((a) => ({
      title: `Line up ${lower(a.title)}`,
      group: "Selection",
      needs: 1,
      run: () => act(store, `line up, ${lower(a.title)}`, a.act),
    })),
    ...gaps.map((a) => ({
      title: a.title,
      group: "Selection",
      needs: 3,
      run: () => act(store, lower(a.title), a.act),
    })),
    ...shapes.map((a) => ({
      title: `Tidy ${lower(a.title)}`,
      group: "Selection",
      needs: 2,
      run: () => act(store, `tidy ${lower(a.title)}`, a.act),
    })),
    { title: "One size, as the first", group: "Selection", needs: 2, run: () => act(store, "make one size", "size") },
    ...roles.map((r) => ({
      title: `Make into ${lower(r.title)}`,
      group: "Selection",
      needs: 1,
      run: () => act(store, `make into ${lower(r.title)}`, "recast", r.to),
    })),
    {
      title: "Duplicate",
      group: "Selection",
      keys: "Ctrl+D",
      needs: 1,
      run: () => act(store, "duplicate", "duplicate"),
    },
    { title: "Delete", group: "Selection", keys: "Delete", needs: 1, run: () => act(store, "delete", "remove") },
    { title: "Pin, so that it is not dragged", group: "Selection", needs: 1, run: () => pinned(true) },
    { title: "Unpin", group: "Selection", needs: 1, run: () => pinned(false) },
    {
      title: "Select all items",
      group: "Selection",
      run: () => state().select({ items: state().doc.items.map((i) => i.id) }),
    },
    {
      title: "Select all targets",
      group: "Selection",
      run: () => state().select({ targets: state().doc.targets.map((t) => t.id) }),
    },
  ];
}
