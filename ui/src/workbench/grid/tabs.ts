/** Rows and cells of a text as spreadsheets copy it: tabs, and quotes around what has tabs, quotes or line ends. */
export function fromTabs(text: string): string[][] {
  const rows: string[][] = [[]];
  let cell = "";
  let quoted = false;
  const source = text.replace(/\r\n?/g, "\n").replace(/\n$/, "");
  for (let i = 0; i < source.length; i++) {
    const c = source[i]!;
    if (quoted) {
      if (c === '"' && source[i + 1] === '"') {
        cell += '"';
        i++;
      } else if (c === '"') quoted = false;
      else cell += c;
    } else if (c === '"' && cell === "") quoted = true;
    else if (c === "\t" || c === "\n") {
      rows.at(-1)!.push(cell);
      cell = "";
      if (c === "\n") rows.push([]);
    } else cell += c;
  }
  rows.at(-1)!.push(cell);
  return rows;
}

export const toTabs = (rows: string[][]) =>
  rows.map((r) => r.map((c) => (/[\t\n"]/.test(c) ? `"${c.replace(/"/g, '""')}"` : c)).join("\t")).join("\n");
