import { t } from "@lingui/core/macro";
import type { Doc, Item, Target } from "../../api/types";
import type { Edit } from "../../engine/engine";
import { cardOf } from "../model/replies";
import { readingOrder } from "../model/frames";
import { readAt } from "../model/readingOrder";
import { moveFrame, setLabel, setName, setText, type Change } from "../model/changes";
import { itemOf, nameOf, targetOf, type PartID } from "../../document/parts";

/** A column of the Content lens: what a part says there, and what a typed text does to it. */
export type Column = {
  key: string;
  title: string;
  width: number;
  number?: boolean;
  item?: Field<Item>;
  target?: Field<Target>;
  scenery?: undefined;
};

type Field<T> = {
  /** What this is called for this kind of part, where the head says it otherwise. */
  name?: string;
  read: (part: T, doc: Doc) => string;
  /** Writes it; or says why it cannot be. */
  write: (part: T, text: string, doc: Doc) => string | void;
  /** What the core does instead, for all of the parts at once. */
  act?: (ids: string[], texts: string[]) => Edit;
};

/** Reads a number within bounds, with at most two decimals. */
function number(text: string, low: number, high: number, whole = false): number | string {
  const n = Number(text.trim().replace(",", "."));
  if (text.trim() === "" || Number.isNaN(n)) return t`${JSON.stringify(text)} is not a number`;
  if (whole && !Number.isInteger(n)) return t`${text} should be a whole number`;
  if (n < low || n > high) return t`${text} is not possible. Enter a number from ${low} to ${high}`;
  return Math.round(n * 100) / 100;
}

const numeric =
  <T>(low: number, high: number, whole: boolean, set: (part: T, n: number, doc: Doc) => void) =>
  (part: T, text: string, doc: Doc) => {
    const n = number(text, low, high, whole);
    if (typeof n === "string") return n;
    set(part, n, doc);
  };

/** A place on the board as numbers; an item without one is in the tray, and clearing the number puts it there. */
function place(axis: "x" | "y"): Pick<Column, "item" | "target"> {
  return {
    item: {
      read: (i) => (i.home ? String(i.home[axis]) : ""),
      write: (i, text) => {
        if (text.trim() === "") {
          delete i.home;
          return;
        }
        const n = number(text, -10000, 10000);
        if (typeof n === "string") return n;
        i.home = { x: 0, y: 0, ...i.home, [axis]: n };
      },
    },
    target: {
      read: (target) => String(target.frame[axis]),
      write: numeric(-10000, 10000, false, (target: Target, n) => moveFrame(target, { ...target.frame, [axis]: n })),
    },
  };
}

function length(side: "w" | "h"): Pick<Column, "item" | "target"> {
  return {
    item: { read: (i) => String(i.size[side]), write: numeric(1, 10000, false, (i: Item, n) => (i.size[side] = n)) },
    target: {
      read: (target) => String(target.frame[side]),
      write: numeric(1, 10000, false, (target: Target, n) => moveFrame(target, { ...target.frame, [side]: n })),
    },
  };
}

/** The place in the reading order, from 1. */
function reading<K extends "item" | "target">(kind: K) {
  return {
    read: (part: { id: string }, doc: Doc) =>
      String(readingOrder(doc).findIndex((p) => p.kind === kind && p.id === part.id) + 1),
    write: (part: { id: string }, text: string, doc: Doc) => {
      const n = number(text, 1, readingOrder(doc).length, true);
      if (typeof n === "string") return n;
      readAt({ kind, id: part.id }, n).apply(doc);
    },
  };
}

export const columns: Column[] = [
  {
    key: "text",
    title: t`Text or label`,
    width: 124,
    item: { name: t`text`, read: (i) => i.text, write: setText },
    target: { name: t`label`, read: (target) => target.label.text, write: setLabel },
  },
  {
    key: "tags",
    title: t`Tags`,
    width: 108,
    item: {
      read: (i) => i.tags.join(", "),
      write: (i, text) => {
        i.tags = [...new Set(text.split(/[,;]/).map((text) => text.trim().slice(0, 200)))].filter(Boolean).slice(0, 40);
      },
    },
  },
  {
    key: "alt",
    title: t`Alternative text`,
    width: 118,
    item: { read: (i) => i.alt, write: (i, text) => void (i.alt = text.slice(0, 1000)) },
  },
  {
    key: "copies",
    title: t`Copies / capacity`,
    width: 108,
    number: true,
    item: {
      name: t`copies`,
      read: (i) => String(i.copies),
      write: numeric(1, 99, true, (i: Item, n) => (i.copies = n)),
    },
    target: {
      name: t`holds`,
      read: (target) => (target.holds ? String(target.holds) : ""),
      write: (target, text) => {
        if (text.trim() === "" || text.trim() === "any") {
          delete target.holds;
          return;
        }
        const n = number(text, 1, 999, true);
        if (typeof n === "string") return n;
        target.holds = n;
      },
    },
  },
  {
    key: "weight",
    title: t`Points`,
    width: 64,
    number: true,
    item: { read: (i) => String(i.weight), write: numeric(0, 1000, true, (i: Item, n) => (i.weight = n)) },
    target: {
      read: (target) => String(target.weight),
      write: numeric(0, 1000, true, (target: Target, n) => (target.weight = n)),
    },
  },
  {
    key: "penalty",
    title: t`Penalty`,
    width: 70,
    number: true,
    item: {
      name: t`penalty where it is wrong`,
      read: (i) => String(i.penalty),
      write: numeric(0, 1000, true, (i: Item, n) => (i.penalty = n)),
    },
  },
  {
    key: "sound",
    title: t`Sound`,
    width: 70,
    item: {
      read: (i) => (i.sound ? i.transcript || "yes" : ""),
      write: (i, text) => {
        if (text === "") {
          i.sound = "";
          i.transcript = "";
        } else if (i.sound) i.transcript = text.slice(0, 4000);
        else return t`Add a sound first: drop a file named like the item, or record one in Details`;
      },
    },
  },
  {
    key: "card",
    title: t`Card when right`,
    width: 150,
    item: {
      name: t`card that opens when it is placed right`,
      read: (i, doc) => {
        const say = cardOf(doc, i.id)?.say;
        return say ? say.text || (say.picture ? t`picture` : t`sound`) : "";
      },
      write: () => {},
      act: (ids, texts) => ({ act: "cards", parts: { items: ids, targets: [], scenery: [] }, names: texts }),
    },
  },
  { key: "x", title: t`x`, width: 60, number: true, ...place("x") },
  { key: "y", title: t`y`, width: 60, number: true, ...place("y") },
  { key: "w", title: t`width`, width: 64, number: true, ...length("w") },
  { key: "h", title: t`height`, width: 64, number: true, ...length("h") },
  {
    key: "order",
    title: t`Reading order`,
    width: 70,
    number: true,
    item: { name: t`place in the reading order`, ...reading("item") },
    target: { name: t`place in the reading order`, ...reading("target") },
  },
];

/** The name, before the first column. */
export const nameColumn: Column = {
  key: "name",
  title: t`Name`,
  width: 150,
  item: { read: (i) => i.name, write: setName },
  target: { read: (target) => target.name, write: setName },
};

export const columnAt = (index: number) => (index < 0 ? nameColumn : columns[index]);

export function readCell(doc: Doc, part: PartID, column: Column): string | undefined {
  if (part.kind === "item") {
    const item = itemOf(doc, part.id);
    return item && column.item?.read(item, doc);
  }
  const target = targetOf(doc, part.id);
  return target && column.target?.read(target, doc);
}

/** Whether there is such a cell at all: a target has no tags. */
export const hasCell = (part: PartID, column: Column) => column[part.kind] !== undefined;

export type Write = { part: PartID; column: Column; text: string };

/** Writes cells in one step. What cannot be is left as it was, and told. */
export function writeCells(
  doc: Doc,
  says: string,
  writes: Write[],
): { change: Change; acts: Edit[]; faults: string[] } {
  const faults: string[] = [];
  const acts = columns.flatMap(({ key, item }) => {
    const own = item?.act ? writes.filter((w) => w.column.key === key && w.part.kind === "item") : [];
    return own.length === 0
      ? []
      : [
          item!.act!(
            own.map((w) => w.part.id),
            own.map((w) => w.text),
          ),
        ];
  });
  // Tried on copies first, so that the change itself has no surprises.
  const good = writes.filter(({ part, column, text }) => {
    const found = part.kind === "item" ? itemOf(doc, part.id) : targetOf(doc, part.id);
    const field = column[part.kind] as Field<unknown> | undefined;
    if (!found || !field || field.act) return false;
    const fault = field.write(structuredClone(found), text, { ...doc, order: [...doc.order] });
    if (fault) faults.push(`${nameOf(found)}, ${column.title}: ${fault}`);
    return !fault;
  });
  return {
    faults,
    acts,
    change: {
      says,
      apply: (draft) => {
        for (const { part, column, text } of good) {
          const found = part.kind === "item" ? itemOf(draft, part.id) : targetOf(draft, part.id);
          (column[part.kind] as Field<unknown>).write(found, text, draft);
        }
        // Where a name and a text are written at once neither follows the other.
        const named = new Set(good.filter((w) => w.column.key === "name").map((w) => w.part.id));
        const both = new Set(good.filter((w) => w.column.key === "text" && named.has(w.part.id)).map((w) => w.part.id));
        for (const { part, column, text } of good) {
          const found = both.has(part.id) ? (part.kind === "item" ? itemOf : targetOf)(draft, part.id) : undefined;
          if (found && column.key === "name") found.name = text.slice(0, 200);
          if (found && column.key === "text" && "label" in found) found.label.text = text.slice(0, 200);
          else if (found && column.key === "text" && "text" in found) found.text = text.slice(0, 1000);
        }
      },
    },
  };
}
