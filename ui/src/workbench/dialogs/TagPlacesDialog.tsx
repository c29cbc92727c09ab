import { useState } from "react";
import { t } from "@lingui/core/macro";
import { Select } from "../../kit/Select";
import { Button } from "../../kit/Button";
import { Dialog } from "../../kit/Dialog";
import { nameOf } from "../../document/parts";
import { useDraft, useDraftStore } from "../model/draft";

/** Says for every target which tag is right in it: proposed by name, all in one step. */
export function TagPlacesDialog() {
  const store = useDraftStore();
  const { doc, known, solution } = useDraft((s) => s);
  const at = Math.min(solution, doc.key.solutions.length - 1);
  const now = doc.key.solutions[at]!.right;
  const [chosen, setChosen] = useState<Record<string, string>>({});
  const tagOf = (id: string) =>
    chosen[id] ?? now[id]?.tags[0] ?? known?.tagsFor.find((p) => p.target === id)?.tag ?? "";
  const counts = new Map<string, number>();
  for (const tag of doc.items.flatMap((i) => i.tags)) counts.set(tag, (counts.get(tag) ?? 0) + 1);
  const pairs = doc.targets
    .map((target) => ({ tag: tagOf(target.id), target: target.id }))
    .filter((p) => p.tag && !now[p.target]?.tags.includes(p.tag));
  const close = () => store.setState({ asking: "" });
  return (
    <Dialog
      open
      onClose={close}
      title={t`Answer key by tag`}
      about={t`Items tagged later are included automatically. Clear a single cell to make an exception.`}
    >
      {counts.size === 0 && (
        <p className="text-slate">{t`No item has a tag yet. Add tags in the Content tab, in the column “tags”.`}</p>
      )}
      <ul className="flex flex-col gap-1.5">
        {counts.size > 0 &&
          doc.targets.map((target, i) => (
            <li key={target.id} className="flex items-center gap-2">
              <em className="rounded-[3px] bg-slate px-1 text-[11px] text-paper not-italic">{i + 1}</em>
              <span className="min-w-0 flex-1 truncate">{nameOf(target)}</span>
              <Select
                label={t`What is correct in ${nameOf(target)}`}
                value={tagOf(target.id)}
                onPick={(to) => setChosen({ ...chosen, [target.id]: to })}
                className="h-8 w-64 rounded-(--radius) border border-line bg-paper px-2"
                options={[
                  ["", t`no tag`],
                  ...[...counts].map(([tag, n]) => [tag, t`everything tagged ${tag} (${n})`] as const),
                ]}
              />
            </li>
          ))}
      </ul>
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={close}>{t`Cancel`}</Button>
        <Button
          kind="main"
          disabled={pairs.length === 0}
          onClick={() => {
            void store
              .getState()
              .edit(t`mark ${pairs.length} tags as correct`, { act: "tagsRight", solution: at, pairs });
            close();
          }}
        >
          {t`Apply`}
        </Button>
      </div>
    </Dialog>
  );
}
