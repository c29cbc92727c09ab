import { t } from "@lingui/core/macro";
import type { Slot } from "../../engine/engine";
import { useDraft, useDraftStore } from "../model/draft";
import { replyOf } from "../model/replies";
import { SaidFields } from "./SaidFields";

/** A slot and the reply that has it, if one has. */
export type SlotCell = { slot: Slot; reply?: string };

/** What is said in the cells of the table that are chosen: of one, or of all of them together. */
export function CellPane({ cells }: { cells: SlotCell[] }) {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  const when = useDraft((s) => s.known?.when);
  const replies = cells.flatMap((c) => replyOf(doc, c.reply) ?? []);
  const one = cells.length === 1 ? replies[0] : undefined;
  return (
    <section
      aria-label={t`Reply`}
      className="h-[52%] max-lg:h-auto min-h-40 overflow-auto border-t-2 border-edge bg-paper"
    >
      <p className="border-b border-line bg-shade px-4 py-1.5 text-slate">
        {one
          ? `${when?.[doc.replies.indexOf(one)]?.message ?? ""}.`
          : cells.length === 1
            ? t`No feedback yet.`
            : t`${cells.length} cells, ${replies.length} with feedback. Changes apply to all.`}
      </p>
      <SaidFields
        key={cells.map((c) => Object.values(c.slot).join(" ")).join()}
        replies={replies}
        onSay={(say) =>
          void store
            .getState()
            .edit(t`change the text`, { act: "sayAt", slots: cells.map((c) => c.slot), say }, "say-in-cells")
        }
      />
    </section>
  );
}
