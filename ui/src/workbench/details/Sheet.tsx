import { memo } from "react";
import { X } from "lucide-react";
import { plural, t } from "@lingui/core/macro";
import type { Doc, Item, Scenery, Target } from "../../api/types";
import { itemOf, sceneryOf, targetOf } from "../../document/parts";
import { useDraft, useDraftStore } from "../model/draft";
import { FaceFields } from "./FaceFields";
import { LookFields } from "./LookFields";
import { PlaceFields } from "./PlaceFields";
import { TargetFields } from "./TargetFields";

export type Chosen = { items: Item[]; targets: Target[]; scenery: Scenery[] };
/** Changes all that is chosen, of one kind or of all, as one step. */
export type Set = <K extends keyof Chosen>(
  says: string,
  kinds: K[],
  apply: (part: Chosen[K][number], doc: Doc) => void,
) => void;

/** Everything that can be set of what is selected: one of it or many at once. */
export const Sheet = memo(function Sheet() {
  return useDraft((s) => s.sheet) ? <Open /> : null;
});

function Open() {
  const lens = useDraft((s) => s.lens);
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  const selection = useDraft((s) => s.selection);
  const chosen: Chosen = {
    items: selection.items.flatMap((id) => itemOf(doc, id) ?? []),
    targets: selection.targets.flatMap((id) => targetOf(doc, id) ?? []),
    scenery: selection.scenery.flatMap((id) => sceneryOf(doc, id) ?? []),
  };
  const set: Set = (says, kinds, apply) =>
    store.getState().change({
      says,
      apply: (d) => {
        for (const kind of kinds) {
          for (const part of d[kind])
            if (selection[kind].includes(part.id)) apply(part as Chosen[typeof kind][number], d);
        }
      },
    });
  const n = chosen.items.length + chosen.targets.length + chosen.scenery.length;
  return (
    <section
      aria-label={t`Details of the selection`}
      data-zone="sheet"
      className={`flex min-h-40 shrink-0 flex-col border-t-2 border-feather bg-paper ${lens === "replies" ? "max-h-[30%]" : "max-h-[52%]"}`}
    >
      <div className="flex items-center border-b border-line py-1 pr-2 pl-4">
        <h2 className="flex-1 truncate">{n === 0 ? t`Nothing is selected` : words(chosen)}</h2>
        <button
          type="button"
          aria-label={t`Close the details`}
          onClick={() => store.setState({ sheet: false })}
          className="grid size-7 place-items-center rounded-(--radius) text-slate hover:bg-shade"
        >
          <X size={16} />
        </button>
      </div>
      <div className="min-h-0 flex-1 overflow-auto">
        {n === 0 && (
          <p className="px-4 py-3 text-slate">
            {t`Select parts on the board or rows in the table; changes apply to all selected parts.`}
          </p>
        )}
        {n > 0 && <LookFields key={selection.first?.id} chosen={chosen} set={set} />}
        {n > 0 && <PlaceFields chosen={chosen} set={set} />}
        {chosen.targets.length > 0 && <TargetFields targets={chosen.targets} set={set} />}
        {chosen.items.length > 0 && <FaceFields items={chosen.items} set={set} />}
      </div>
    </section>
  );
}

function words({ items, targets, scenery }: Chosen) {
  const one = [...items, ...targets].map((p) => p.name || p.id);
  if (items.length + targets.length + scenery.length === 1) return one[0] ?? scenery[0]!.alt ?? scenery[0]!.id;
  return [
    items.length > 0 && plural(items.length, { one: "# item", other: "# items" }),
    targets.length > 0 && plural(targets.length, { one: "# target", other: "# targets" }),
    scenery.length > 0 && plural(scenery.length, { one: "# scenery object", other: "# scenery objects" }),
  ]
    .filter(Boolean)
    .join(", ");
}
