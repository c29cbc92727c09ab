import { plural, t } from "@lingui/core/macro";
import { Button } from "../../kit/Button";
import { Dialog } from "../../kit/Dialog";
import { TypedInput } from "../../kit/TypedInput";
import { useDraft, useDraftStore } from "../model/draft";

/** Renames a tag everywhere: in items, in what is right, in who is let in, in replies. */
export function TagsDialog() {
  const store = useDraftStore();
  const items = useDraft((s) => s.doc.items);
  const counts = new Map<string, number>();
  for (const tag of items.flatMap((i) => i.tags)) counts.set(tag, (counts.get(tag) ?? 0) + 1);
  const close = () => store.setState({ asking: "" });
  const rename = (from: string, to: string) => {
    if (to === "") return false;
    if (to !== from) void store.getState().edit(t`rename the tag ${from}`, { act: "renameTag", names: [from, to] });
  };
  return (
    <Dialog
      open
      onClose={close}
      title={t`Rename tags`}
      about={t`Renames the tag everywhere: items, answer key, accepted items, feedback.`}
    >
      {counts.size === 0 && <p className="text-slate">{t`No item has a tag yet.`}</p>}
      <ul className="flex flex-col gap-1.5">
        {/* A tag that is renamed keeps its place, and its field. */}
        {[...counts].map(([tag, n], i) => (
          <li key={i} className="flex items-center gap-3">
            <TypedInput
              label={t`Tag ${tag}`}
              value={tag}
              maxLength={200}
              onDone={(to) => rename(tag, to.trim())}
              className="h-8 flex-1"
            />
            <span className="w-20 text-slate">{plural(n, { one: "# item", other: "# items" })}</span>
          </li>
        ))}
      </ul>
      <div className="mt-4 flex justify-end">
        <Button onClick={close}>{t`Done`}</Button>
      </div>
    </Dialog>
  );
}
