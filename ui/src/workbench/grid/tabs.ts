import Papa from "papaparse";

// Rows and cells of a text as spreadsheets copy it: tabs, and quotes around what has
// tabs, quotes or line ends.

export function fromTabs(text: string): string[][] {
  const { data } = Papa.parse<string[]>(text.replace(/\r\n?/g, "\n").replace(/\n$/, ""), {
    delimiter: "\t",
    newline: "\n",
  });
  return data.length > 0 ? data : [[""]];
}

export const toTabs = (rows: string[][]) => Papa.unparse(rows, { delimiter: "\t", newline: "\n" });
