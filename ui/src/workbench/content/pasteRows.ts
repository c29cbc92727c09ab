import { t } from "@lingui/core/macro";
import type { Merge } from "../../document/history";
import type { PartID } from "../../document/parts";
import { engine } from "../../engine/engine";
import { toTabs } from "../grid/tabs";
import { partsOf, type DraftStore } from "../model/draft";
import { columnAt, hasCell, type Write } from "./columns";

/** Where rows go: the first row's number, the parts from there on, the first column. */
type Where = { first: number; into: PartID[]; left: number };

/** Writes cells in one step and gives what could not be, after what could not before. */
type WriteCells = (says: string, writes: Write[], merge: Merge, before: string[]) => string[];

/** Writes rows into the parts that are there, and makes items of those that go on past them. */
export async function pasteRows(store: DraftStore, table: string[][], where: Where, write: WriteCells) {
  if (store.getState().refuses()) return;
  const { first, into, left } = where;
  // Before anything of one's own is there, a second column is seldom what stands in the next cell.
  const wide = table.some((row) => row.length > 1);
  if (first === 0 && wide && (await hasSamples(store))) {
    store.setState({ asking: "table", table: toTabs(table) });
    return;
  }
  const says = t`paste ${table.length} rows`;
  const merge = Symbol(); // new items and their cells are one step
  const fill = (list: PartID[], rows: string[][], before: string[]) => {
    const writes = list.flatMap((part, i) =>
      (rows[i] ?? []).flatMap((text, j) => {
        const column = columnAt(left + j);
        return column && hasCell(part, column) ? [{ part, column, text }] : [];
      }),
    );
    return write(says, writes, merge, before);
  };
  // Samples that are written over are no longer samples: those that are left go when items come.
  const faults = fill(into, table, []);
  const rest = table.slice(into.length);
  if (rest.length === 0 || (into[0]?.kind ?? "item") !== "item") return;
  const names = rest.map((row) => (left < 0 ? (row[0] ?? "") : ""));
  const made = await store.getState().edit(says, { act: "addItems", own: true, names }, merge);
  if (made) fill(partsOf(made), rest, faults);
}

/** Asked again, as the store may still know only how the draft stood before the last change. */
const hasSamples = (store: DraftStore) =>
  engine.figures(store.getState().doc).then(
    ({ samples }) => samples > 0,
    () => false,
  );
