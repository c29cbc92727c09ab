import { useState } from "react";
import { FilePlus, Plus } from "lucide-react";
import { plural, t } from "@lingui/core/macro";
import type { Card, Leg } from "../api/types";
import { PickActivities } from "../shelf/PickActivities";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import type { SeriesEditing } from "./seriesDraft";

type Props = {
  series: SeriesEditing;
  onPicked: (cards: Card[]) => void;
  after: number;
  onAdded: (step: number) => void;
};

const freshPage = (taken: string[]) => {
  for (let n = 1; ; n++) if (!taken.includes(`page-${n}`)) return `page-${n}`;
};

/** Adds a page, or activities of the shelf, several at once, after the chosen step. */
export function AddSteps({ series, onPicked, after, onAdded }: Props) {
  const { doc, change } = series;
  const [open, setOpen] = useState(false);
  const [picked, setPicked] = useState<Card[]>([]);
  const at = doc.steps.length === 0 ? 0 : after + 1;
  const put = (says: string, legs: Leg[], to = at) => {
    change(says, (d) => void d.steps.splice(to, 0, ...legs));
    onAdded(to + legs.length - 1);
  };
  const addPage = () => {
    const id = freshPage(doc.steps.flatMap((s) => (s.page ? [s.page.id] : [])));
    const page = { id, title: "", text: "", picture: "", alt: "", sound: "", transcript: "" };
    // The first page of a series introduces it.
    const first = !doc.steps.some((s) => s.page);
    put(t`add a page`, [{ page, counts: true, moveOn: "done" }], first ? 0 : at);
  };
  const add = () => {
    onPicked(picked);
    put(
      plural(picked.length, { one: "add an activity", other: "add # activities" }),
      picked.map((c) => ({ activity: c.id, counts: true, moveOn: "done" })),
    );
    setOpen(false);
    setPicked([]);
  };
  return (
    <>
      <Button onClick={addPage}>
        <FilePlus size={15} aria-hidden /> {t`Add a page`}
      </Button>
      <Button kind="main" onClick={() => setOpen(true)}>
        <Plus size={15} aria-hidden /> {t`Add activities`}
      </Button>
      <Dialog
        open={open}
        wide
        onClose={() => setOpen(false)}
        title={t`Add activities`}
        about={t`Added in the order you pick them.`}
      >
        <PickActivities picked={picked} onPick={setPicked} />
        <div className="mt-4 flex justify-end gap-2">
          <Button onClick={() => setOpen(false)}>{t`Cancel`}</Button>
          <Button kind="main" disabled={picked.length === 0} onClick={add}>
            {picked.length > 1 ? t`Add ${picked.length}` : t`Add`}
          </Button>
        </div>
      </Dialog>
    </>
  );
}
