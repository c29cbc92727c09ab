import Papa from "papaparse";

/** A text with names, and where it is a table, which of its columns make up a name. */
export type Given = { text: string; columns?: number[]; heading?: boolean };

const filled = (rows: string[][]) => rows.filter((row) => row.some((cell) => cell !== ""));
const parsed = (text: string, delimiter: string) => {
  const { data, errors } = Papa.parse<string[]>(text, { delimiter });
  return { rows: filled(data.map((row) => row.map((cell) => cell.trim()))), cells: data.flat(), errors };
};

/** The rows of a text. Commas part cells only where a program has written them: people write “Brandt, Lea”. */
function rowsOf(text: string): string[][] {
  const lines = () => filled(text.split(/\r?\n/).map((line) => [line.trim()]));
  const sign = ["\t", ";"].find((s) => text.includes(s));
  if (sign) {
    const { rows, errors } = parsed(text, sign);
    return errors.length > 0 ? lines().map(([line]) => line!.split(sign).map((cell) => cell.trim())) : rows;
  }
  const { rows, cells, errors } = parsed(text, ",");
  const even = rows.every((row) => row.length === rows[0]!.length);
  return errors.length === 0 && even && !cells.some((cell) => cell.startsWith(" ")) ? rows : lines();
}

const heads = (cell: string) => /\bname\b|^(sur|fore|nick)name$/i.test(cell);

/** What a text holds: its rows, how many columns they have, which of them are the name, and whether the first row only says so. */
export function tableOf({ text, columns, heading }: Given) {
  const rows = rowsOf(text);
  const wide = Math.max(1, ...rows.map((row) => row.length));
  const named = wide > 1 ? (rows[0] ?? []).flatMap((cell, i) => (heads(cell) ? [i] : [])) : [];
  return {
    rows,
    wide,
    columns: wide > 1 ? (columns ?? (named.length > 0 ? named : [0])) : [0],
    heading: wide > 1 && (heading ?? named.length > 0),
  };
}

/** The names in a text. */
export function namesOf(given: Given): string[] {
  const { rows, columns, heading } = tableOf(given);
  return rows
    .slice(heading ? 1 : 0)
    .map((row) =>
      columns
        .map((i) => row[i] ?? "")
        .filter(Boolean)
        .join(" "),
    )
    .filter(Boolean);
}
