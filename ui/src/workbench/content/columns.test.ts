import type { Doc } from "../../api/types";
import { equal, test } from "../../testing";
import { columns, nameColumn, readCell, writeCells } from "./columns";

/** As much of a document as cells are written in. */
const doc = () =>
  ({
    order: [],
    board: { width: 1000, height: 600 },
    scenery: [],
    items: [
      {
        id: "bell",
        name: "Bell",
        text: "Bell",
        alt: "",
        tags: [],
        copies: 1,
        weight: 1,
        size: { w: 100, h: 60 },
        sound: "",
        transcript: "",
      },
      {
        id: "pump",
        name: "Pump",
        text: "Pump",
        alt: "",
        tags: ["tool"],
        copies: 2,
        weight: 1,
        size: { w: 100, h: 60 },
        sound: "",
        transcript: "",
      },
    ],
    targets: [
      {
        id: "box",
        name: "Box",
        label: { text: "Box" },
        frame: { x: 10, y: 20, w: 300, h: 200 },
        points: [],
        weight: 1,
      },
    ],
  }) as unknown as Doc;

const column = (key: string) => columns.find((c) => c.key === key)!;

function write(d: Doc, kind: "item" | "target", id: string, key: string, text: string) {
  const { change, faults } = writeCells(d, "write", [{ part: { kind, id }, column: column(key), text }]);
  change.apply(d);
  return faults;
}

test("cells: what is written is read", () => {
  const d = doc();
  for (const [kind, id, key, text] of [
    ["item", "bell", "text", "Brass bell"],
    ["item", "bell", "tags", "small, shiny"],
    ["item", "pump", "copies", "3"],
    ["target", "box", "copies", "4"],
    ["target", "box", "x", "25"],
    ["item", "bell", "x", "40"],
  ] as const) {
    equal(write(d, kind, id, key, text), [], key);
    equal(readCell(d, { kind, id }, column(key)), text, key);
  }
});

test("cells: what cannot be is told, and nothing changes", () => {
  const d = doc();
  const before = JSON.stringify(d);
  for (const [key, text] of [
    ["copies", "none"],
    ["copies", "0"],
    ["copies", "1.5"],
    ["weight", "-1"],
    ["w", "wide"],
  ] as const) {
    equal(write(d, "item", "bell", key, text).length, 1, `${key}: ${text}`);
  }
  equal(JSON.stringify(d), before);
});

test("cells: an item without a place is in the tray", () => {
  const d = doc();
  write(d, "item", "bell", "x", "40");
  equal(d.items[0]!.home, { x: 40, y: 0 });
  write(d, "item", "bell", "x", "");
  equal(d.items[0]!.home, undefined);
});

test("cells: of many, those that can be are written", () => {
  const d = doc();
  const part = (id: string) => ({ kind: "item" as const, id });
  const { change, faults } = writeCells(d, "paste", [
    { part: part("bell"), column: column("copies"), text: "2" },
    { part: part("pump"), column: column("copies"), text: "x" },
  ]);
  change.apply(d);
  equal([d.items.map((i) => i.copies), faults.length], [[2, 2], 1]);
});

test("cells: the place in the reading order", () => {
  const d = doc();
  equal(readCell(d, { kind: "item", id: "pump" }, column("order")), "3");
  write(d, "item", "pump", "order", "1");
  equal(d.order[0], "pump");
  equal(readCell(d, { kind: "item", id: "bell" }, column("order")), "3");
});

test("cells: a name follows the text until one is given", () => {
  const d = doc();
  write(d, "item", "bell", "text", "Brass bell");
  equal(d.items[0]!.name, "Brass bell");
  d.items[0]!.name = "The loud one";
  write(d, "item", "bell", "text", "Bell");
  equal([d.items[0]!.name, d.items[0]!.text], ["The loud one", "Bell"]);
  const cells = ["name", "text"].map((key) => ({
    part: { kind: "item" as const, id: "pump" },
    column: key === "name" ? nameColumn : column(key),
    text: key === "name" ? "Air pump" : "Pump",
  }));
  for (const list of [cells, cells.toReversed()]) {
    writeCells(d, "paste", list).change.apply(d);
    equal([d.items[1]!.name, d.items[1]!.text], ["Air pump", "Pump"]);
  }
});
