import { useMemo, useState } from "react";
import { t } from "@lingui/core/macro";
import { Select } from "../../kit/Select";
import type { Slot } from "../../engine/engine";
import { ToneMark } from "../../board/ToneMark";
import { nameOf } from "../../document/parts";
import { useDraft, useDraftStore } from "../model/draft";
import { numbered } from "../model/key";
import { TextGrid, type GridCell, type GridColumn } from "../grid/TextGrid";
import { CellPane } from "./CellPane";
import { replyOf } from "../model/replies";

/** What is said of each item: when it is right, when it is wrong, and in each place. */
export function RepliesGrid() {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  const slots = useDraft((s) => s.known?.slots);
  const [moment, setMoment] = useState<string>();
  const [chosen, setChosen] = useState<GridCell[]>([]);
  const used = Object.values(slots ?? {});
  // As soon as it is put down, where that is how it is judged or how something is said already.
  const usual = doc.play.check === "each" || used.some((s) => s.moment === "placed") ? "placed" : "checked";
  const now = moment ?? usual;
  const byCell = useMemo(() => {
    const out = new Map<string, string>();
    for (const [number, s] of Object.entries(slots ?? {})) {
      const id = doc.replies[Number(number)]?.id;
      if (id && s.moment === now) out.set(`${s.item} ${s.result || `in ${s.target}`}`, id);
    }
    return out;
  }, [slots, doc.replies, now]);
  const columns = useMemo<GridColumn[]>(
    () => [
      { key: "right", title: t`When correct`, width: 150 },
      { key: "wrong", title: t`When wrong`, width: 150 },
      ...doc.targets.map((target) => ({
        key: `in ${target.id}`,
        title: t`In ${numbered(doc, target.id)}`,
        width: 110,
      })),
    ],
    [doc],
  );
  const rows = useMemo(() => doc.items.map((i) => ({ id: i.id, name: nameOf(i) })), [doc.items]);
  const replyAt = ({ row, column }: GridCell) => replyOf(doc, byCell.get(`${row.id} ${column.key}`));
  const slotOf = ({ row, column }: GridCell): Slot => ({
    item: row.id,
    result: column.key.startsWith("in ") ? "" : column.key,
    target: column.key.startsWith("in ") ? column.key.slice(3) : "",
    moment: now,
  });
  const said = chosen.length > 1 ? t`${chosen.length} cells selected. Changes apply to all.` : "";
  const cells = chosen.map((cell) => ({ slot: slotOf(cell), reply: replyAt(cell)?.id }));
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line px-4 py-1.5">
        <label className="flex items-center gap-1.5">
          {t`shown`}
          <Select
            value={now}
            onPick={(to) => setMoment(to)}
            className="h-7 rounded-(--radius) border border-line bg-paper px-1"
            options={[
              ["placed", t`as soon as it is put down`],
              ["checked", t`when it is checked`],
            ]}
          />
        </label>
        <span className="text-slate">{said || t`Type in a cell; Enter moves to the next item.`}</span>
      </div>
      <TextGrid
        label={t`Replies by item`}
        rows={rows}
        columns={columns}
        read={(cell) => replyAt(cell)?.say.text ?? ""}
        draw={(cell) => {
          const r = replyAt(cell);
          return (
            r && (
              <>
                <ToneMark tone={r.tone} className="size-3.5!" />
                <span className={`truncate ${r.off ? "text-slate line-through" : ""}`}>
                  {r.say.text || (r.say.picture ? t`a picture` : r.say.sound ? t`a sound` : "")}
                </span>
              </>
            )
          );
        }}
        say={(cell) => {
          const where = cell.column.title.charAt(0).toLowerCase() + cell.column.title.slice(1);
          return `${cell.row.name}, ${where}: ${replyAt(cell)?.say.text || t`nothing is said`}`;
        }}
        write={(says, writes) => {
          // Cells with the same text are one act, so that a range is one step.
          const merge = Symbol();
          const byText = new Map<string, Slot[]>();
          for (const w of writes) byText.set(w.text, [...(byText.get(w.text) ?? []), slotOf(w)]);
          for (const [text, slots] of byText) {
            const say = text === "" ? { text, picture: "", alt: "", sound: "", transcript: "" } : { text };
            void store.getState().edit(says, { act: "sayAt", slots, say }, merge);
          }
        }}
        onChosen={(cells) => {
          setChosen(cells);
          store.getState().select({ items: [...new Set(cells.map((c) => c.row.id))] });
          store.setState({ reply: cells.length === 1 ? replyAt(cells[0]!)?.id : undefined });
        }}
      />
      {cells.length > 0 && <CellPane cells={cells} />}
    </>
  );
}
