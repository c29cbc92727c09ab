import { partsOf, type DraftStore } from "./draft";

/** Acts of the core on what is selected. */
export const edges = [
  { act: "left", title: "Left edges" },
  { act: "centre", title: "Centre horizontally" },
  { act: "right", title: "Right edges" },
  { act: "top", title: "Top edges" },
  { act: "middle", title: "Centre vertically" },
  { act: "bottom", title: "Bottom edges" },
];
export const gaps = [
  { act: "across", title: "Distribute horizontally" },
  { act: "down", title: "Distribute vertically" },
];
/** Arrows from each selected target to the next. */
export const arrows = [
  { title: "Arrows between neighbours", to: "row" },
  { title: "Arrows around a ring", to: "ring" },
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

export const stacking = [
  { act: "front", title: "To the front", keys: "Ctrl+Shift+]" },
  { act: "forward", title: "Bring forward", keys: "Ctrl+]" },
  { act: "backward", title: "Send backward", keys: "Ctrl+[" },
  { act: "back", title: "To the back", keys: "Ctrl+Shift+[" },
];

/** Does an act to what is selected, as one step. */
export function act(store: DraftStore, says: string, name: string, to?: string) {
  const { selection, alignTo, edit } = store.getState();
  void edit(says, { act: name, parts: selection, to: to ?? alignTo, first: selection.first ?? partsOf(selection)[0] });
}

/** Parts of a group are selected and moved together. */
export function group(store: DraftStore, on: boolean) {
  const { doc, selection, change } = store.getState();
  const taken = new Set([...doc.items, ...doc.targets, ...doc.scenery].map((x) => x.group));
  let n = 1;
  while (taken.has(`group-${n}`)) n++;
  change({
    says: on ? "group" : "ungroup",
    apply: (d) => {
      for (const kind of ["items", "targets", "scenery"] as const) {
        for (const x of d[kind]) if (selection[kind].includes(x.id)) x.group = on ? `group-${n}` : "";
      }
    },
  });
}
