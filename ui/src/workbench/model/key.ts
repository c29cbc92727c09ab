import { t } from "@lingui/core/macro";
import type { Doc } from "../../api/types";
import type { Asking, Need, Order } from "../../engine/engine";
import type { DraftStore } from "./draft";
import { nameOf, targetOf } from "../../document/parts";

/** What a range is about: items and targets, or, where it holds nothing else, tags. */
export type Block = { items: string[]; targets: string[]; tags: string[] };

// Acts on the key, each carried out by the core as one step.

/** A solution's name, as it is spoken of. */
export const solutionName = (solutions: Doc["key"]["solutions"], k: number) =>
  solutions[k]?.name || t`Solution ${k + 1}`;

/** Makes a block of cells right, or not; solution -1 is who is let in. Of a row of a tag, everything with it. */
export function setBlock(store: DraftStore, solution: number, block: Block, on: boolean) {
  const { edit } = store.getState();
  const letting = solution < 0;
  const what = letting ? (on ? t`accept` : t`reject`) : on ? t`mark as correct` : t`mark as not correct`;
  if (block.targets.length === 0) return;
  if (block.tags.length > 0) {
    const { doc } = store.getState();
    if (letting) {
      const items = doc.items.filter((i) => i.tags.some((tag) => block.tags.includes(tag))).map((i) => i.id);
      void edit(t`${what} by tag`, { act: "cells", solution, on, parts: parts(items, block.targets) });
      return;
    }
    for (const tag of block.tags) {
      if (tag) {
        void edit(t`${what}: everything tagged ${tag}`, {
          act: "tagRight",
          tag,
          on,
          solution,
          parts: parts([], block.targets),
        });
      }
    }
    return;
  }
  if (block.items.length === 0) return;
  const range = block.items.length * block.targets.length > 1;
  void edit(range ? t`${what}, a range` : what, {
    act: "cells",
    solution,
    on,
    parts: parts(block.items, block.targets),
  });
}

/** Sets each cell as it says, as one step: lines that say the same are one act. */
export function setCells(
  store: DraftStore,
  solution: number,
  cells: { item: string; target: string; on: boolean }[],
  says?: string,
) {
  const merge = Symbol();
  const lines = new Map<string, { item: string; target: string; on: boolean }[]>();
  for (const c of cells) lines.set(c.item, [...(lines.get(c.item) ?? []), c]);
  const alike = new Map<string, string[]>();
  for (const [item, line] of lines) {
    for (const on of [false, true]) {
      const targets = line.filter((c) => c.on === on).map((c) => c.target);
      const key = JSON.stringify({ on, targets });
      if (targets.length > 0) alike.set(key, [...(alike.get(key) ?? []), item]);
    }
  }
  for (const [key, items] of alike) {
    const { on, targets } = JSON.parse(key) as { on: boolean; targets: string[] };
    void store
      .getState()
      .edit(says ?? t`paste ${lines.size} rows`, { act: "cells", solution, on, parts: parts(items, targets) }, merge);
  }
}

export const parts = (items: string[], targets: string[]) => ({ items, targets, scenery: [] });

/** How many of some items are asked for in targets; without targets, where each is right. */
export function ask(store: DraftStore, solution: number, items: string[], targets: string[], asking: Asking) {
  void store.getState().edit(t`change how many are required`, {
    act: "ask",
    solution,
    parts: parts(items, targets),
    asking,
  });
}

export function setNeeds(store: DraftStore, solution: number, targets: string[], needs: Need[]) {
  void store.getState().edit(t`change requirements`, { act: "needs", solution, parts: parts([], targets), needs });
}

export function setOrder(store: DraftStore, solution: number, target: string, order: Order | null, says: string) {
  return store.getState().edit(says, { act: "order", solution, parts: parts([], [target]), order });
}

/** Items and targets in pairs, in the order of the document: those selected, or all. */
export function pair(store: DraftStore, solution: number) {
  const { doc, selection, edit } = store.getState();
  const some = <T extends { id: string }>(all: T[], ids: string[]) => {
    const chosen = all.filter((x) => ids.includes(x.id));
    return chosen.length > 1 ? chosen : all;
  };
  const items = some(doc.items, selection.items);
  const targets = some(doc.targets, selection.targets);
  const n = Math.min(items.length, targets.length);
  void edit(t`pair ${n} items with targets`, {
    act: "rightIn",
    solution,
    rows: items.slice(0, n).map((item, i) => ({ item: item.id, targets: [targets[i]!.id] })),
  });
}

/** A need's amount in a few characters. */
export function amountWords({ min, max }: Pick<Need, "min" | "max">): string {
  if (max === undefined) return min === 0 ? "any" : `${min}+`;
  if (max === min) return `${min}`;
  return min === 0 ? `≤${max}` : `${min}–${max}`;
}

export const numbered = (doc: Doc, target: string) =>
  `${doc.targets.findIndex((one) => one.id === target) + 1} ${nameOf(targetOf(doc, target))}`;
