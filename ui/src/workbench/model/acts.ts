import { t } from "@lingui/core/macro";
import { partsOf, type DraftStore, type Selection } from "./draft";

/** Acts of the core on what is selected. */
export const edges = [
  { act: "left", title: t`Left edges` },
  { act: "centre", title: t`Centre horizontally` },
  { act: "right", title: t`Right edges` },
  { act: "top", title: t`Top edges` },
  { act: "middle", title: t`Centre vertically` },
  { act: "bottom", title: t`Bottom edges` },
];
export const gaps = [
  { act: "across", title: t`Distribute horizontally` },
  { act: "down", title: t`Distribute vertically` },
];
/** Arrows from each selected target to the next. */
export const arrows = [
  { title: t`Arrows between neighbours`, to: "row" },
  { title: t`Arrows around a ring`, to: "ring" },
];

export const shapes = [
  { act: "grid", title: t`Into a grid` },
  { act: "row", title: t`Into a row` },
  { act: "column", title: t`Into a column` },
  { act: "ring", title: t`Into a ring` },
];
export const roles = [
  { to: "item", title: t`Items` },
  { to: "target", title: t`Targets` },
  { to: "scenery", title: t`Scenery` },
];

export const stacking = [
  { act: "front", title: t`To the front`, keys: "Ctrl+Shift+]" },
  { act: "forward", title: t`Bring forward`, keys: "Ctrl+]" },
  { act: "backward", title: t`Send backward`, keys: "Ctrl+[" },
  { act: "back", title: t`To the back`, keys: "Ctrl+Shift+[" },
];

/** Does an act to what is selected, as one step. */
export function act(
  store: DraftStore,
  says: string,
  name: string,
  to?: string,
  parts: Selection = store.getState().selection,
) {
  const { alignTo, edit } = store.getState();
  void edit(says, { act: name, parts, to: to ?? alignTo, first: parts.first ?? partsOf(parts)[0] });
}

/** Arranges what is selected; where nothing is, all targets. */
export function arrange(store: DraftStore, says: string, name: string, to?: string) {
  const { selection, doc } = store.getState();
  const all = { ...selection, targets: doc.targets.map((target) => target.id) };
  act(store, says, name, to, partsOf(selection).length > 0 ? selection : all);
}

/** Parts of a group are selected and moved together. */
export function group(store: DraftStore, on: boolean) {
  const { doc, selection, change } = store.getState();
  const taken = new Set([...doc.items, ...doc.targets, ...doc.scenery].map((x) => x.group));
  let n = 1;
  while (taken.has(`group-${n}`)) n++;
  change({
    says: on ? t`group` : t`ungroup`,
    apply: (d) => {
      for (const kind of ["items", "targets", "scenery"] as const) {
        for (const x of d[kind]) if (selection[kind].includes(x.id)) x.group = on ? `group-${n}` : "";
      }
    },
  });
}

/**
 * Selects everything of the kind of which some is selected; items and targets, where all of that
 * is selected already, or nothing.
 */
/** Takes a tool for the pointer; by keys a crosshair in the middle of the board is led instead. */
export function takeTool(store: DraftStore, tool: string, byKeys = false): void {
  const { width, height } = store.getState().doc.board;
  const middle = { x: Math.round(width / 2), y: Math.round(height / 2) };
  store.setState({ tool, crosshair: byKeys && tool !== "select" ? { at: middle } : undefined });
}

export function selectAll(store: DraftStore): void {
  const { doc, selection } = store.getState();
  const all = { items: doc.items, targets: doc.targets, scenery: doc.scenery };
  const kinds = (["items", "targets", "scenery"] as const).filter((kind) => all[kind].length > 0);
  const some = kinds.filter((kind) => selection[kind].length > 0);
  const kind = some.length === 1 && selection[some[0]!].length < all[some[0]!].length ? some[0] : undefined;
  const parts = kinds.filter((k) => k !== "scenery");
  const wanted = kind ? [kind] : parts.length > 0 ? parts : kinds;
  store.getState().select({
    ...Object.fromEntries(wanted.map((k) => [k, all[k].map((x) => x.id)])),
    first: kind && selection.first,
  });
}
