import { equal, test } from "../../testing";
import { fromTabs, toTabs } from "./tabs";

test("tables: what a spreadsheet copies is read cell by cell", () => {
  equal(fromTabs("a\tb\nc\td"), [
    ["a", "b"],
    ["c", "d"],
  ]);
  equal(fromTabs("a\r\nb\r\n"), [["a"], ["b"]], "Windows line ends, and a last one that adds no row");
  equal(fromTabs('"two\nlines"\t"a ""quote"""'), [["two\nlines", 'a "quote"']]);
  equal(fromTabs('5" tyre\tx'), [['5" tyre', "x"]], "a quote within a cell");
  equal(fromTabs(""), [[""]], "nothing is one empty cell");
  equal(fromTabs("a\n\nb"), [["a"], [""], ["b"]], "an empty row");
});

test("tables: what is written is read again", () => {
  const rows = [
    ["a", "tab\there", "line\nbreak"],
    ["", 'a "quote"', " spaces "],
  ];
  equal(fromTabs(toTabs(rows)), rows);
});
