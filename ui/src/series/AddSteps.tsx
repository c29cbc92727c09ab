import { useState } from "react";
import { FilePlus, Plus } from "lucide-react";
import type { Card, Leg } from "../api/types";
import { problemOf } from "../api/client";
import { Miniature } from "../board/Miniature";
import { More } from "../kit/More";
import { useShelf } from "../shelf/useShelf";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { Said } from "../kit/Said";
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
  const [find, setFind] = useState("");
  const shelf = useShelf(find);
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
    put("add a page", [{ page, counts: true, moveOn: "done" }], first ? 0 : at);
  };
  const add = () => {
    onPicked(picked);
    put(
      picked.length === 1 ? "add an activity" : `add ${picked.length} activities`,
      picked.map((c) => ({ activity: c.id, counts: true, moveOn: "done" })),
    );
    setOpen(false);
    setPicked([]);
  };
  return (
    <>
      <Button onClick={addPage}>
        <FilePlus size={15} aria-hidden /> Add a page
      </Button>
      <Button kind="main" onClick={() => setOpen(true)}>
        <Plus size={15} aria-hidden /> Add activities
      </Button>
      <Dialog
        open={open}
        wide
        onClose={() => setOpen(false)}
        title="Add activities"
        about="Added in the order you pick them."
      >
        <input
          aria-label="Find an activity"
          placeholder="Find"
          value={find}
          onChange={(e) => setFind(e.target.value)}
          className="mb-3 h-8 w-56 rounded-(--radius) border border-line bg-paper px-2"
        />
        {shelf.isError && <Said problem={problemOf(shelf.error)} />}
        {shelf.data?.length === 0 && <p className="text-slate">No activity has this in its title or kind.</p>}
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(180px,1fr))] gap-3">
          {shelf.data?.map((c) => {
            const n = picked.findIndex((p) => p.id === c.id);
            return (
              <li key={c.id}>
                <button
                  type="button"
                  aria-pressed={n >= 0}
                  onClick={() => setPicked(n >= 0 ? picked.filter((p) => p.id !== c.id) : [...picked, c])}
                  className={`relative w-full rounded-(--radius) border p-2 text-left ${n >= 0 ? "border-feather bg-feather-soft" : "border-line hover:border-edge"}`}
                >
                  <span className="grid h-24 place-items-center overflow-hidden rounded-sm bg-mist">
                    {c.scene && <Miniature scene={c.scene} width={150} height={88} />}
                  </span>
                  <span className="mt-1 block truncate font-semibold">{c.title || "Untitled"}</span>
                  <span className="text-slate">{c.kind}</span>
                  {n >= 0 && (
                    <span className="absolute top-1 right-1 grid size-6 place-items-center rounded-[50%] bg-feather font-bold text-on-feather">
                      {n + 1}
                    </span>
                  )}
                </button>
              </li>
            );
          })}
        </ul>
        <More has={shelf.hasNextPage} loading={shelf.isFetchingNextPage} onMore={shelf.fetchNextPage} />
        <div className="mt-4 flex justify-end gap-2">
          <Button onClick={() => setOpen(false)}>Cancel</Button>
          <Button kind="main" disabled={picked.length === 0} onClick={add}>
            {picked.length > 1 ? `Add ${picked.length}` : "Add"}
          </Button>
        </div>
      </Dialog>
    </>
  );
}
