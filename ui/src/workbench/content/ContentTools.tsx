import { ImagePlus, Plus } from "lucide-react";
import { t } from "@lingui/core/macro";
import { Button } from "../../kit/Button";
import { FilePick } from "../../kit/FilePick";
import { useDraft, useDraftStore } from "../model/draft";
import { takeFiles } from "../model/files";
import { Checkbox } from "../../kit/Checkbox";

type Props = {
  find: string;
  onFind: (words: string) => void;
  byTag: boolean;
  onByTag: (on: boolean) => void;
  said: string;
  wrong: boolean;
};

/** Above the grid: what is in focus in words, what can be added, what is looked for. */
export function ContentTools({ find, onFind, byTag, onByTag, said, wrong }: Props) {
  const store = useDraftStore();
  const samples = useDraft((s) => s.samples && s.mayChange);
  return (
    <div className="border-b border-line px-4 py-1.5">
      {samples && (
        <p className="mb-1 rounded-(--radius) bg-feather-soft px-2 py-1">
          {t`Start here: paste rows from a spreadsheet, add picture or sound files, or type over the samples. Samples you haven’t touched go when your content arrives.`}
        </p>
      )}
      <p className={`min-h-[1.4em] ${wrong ? "text-ember" : "text-slate"}`} role="status" data-said>
        {said}
      </p>
      <div className="flex flex-wrap items-center gap-1.5 pt-1">
        <Button
          className="px-2"
          onClick={() => void store.getState().edit(t`add an item`, { act: "addItems", names: [t`New item`] })}
        >
          <Plus size={14} aria-hidden /> {t`Item`}
        </Button>
        <Button
          className="px-2"
          onClick={() => void store.getState().edit(t`add a target`, { act: "addTargets", names: [t`New target`] })}
        >
          <Plus size={14} aria-hidden /> {t`Target`}
        </Button>
        <FilePick
          className="px-2"
          label={t`Picture and sound files`}
          multiple
          accept="image/png,image/jpeg,image/webp,image/gif,image/svg+xml,audio/*"
          onFiles={(files) => void takeFiles(store, files)}
        >
          <ImagePlus size={14} aria-hidden /> {t`Add files`}
        </FilePick>
        <Button kind="quiet" className="px-2" onClick={() => store.setState({ asking: "table" })}>
          {t`Import table…`}
        </Button>
        <Button kind="quiet" className="px-2" onClick={() => store.setState({ asking: "swap" })}>
          {t`Replace content…`}
        </Button>
        <label className="ml-auto flex items-center gap-1.5 text-slate">
          <Checkbox on={byTag} onChange={onByTag} /> {t`Group by tag`}
        </label>
        <input
          aria-label={t`Find in the content`}
          placeholder={t`Find`}
          value={find}
          onChange={(e) => onFind(e.target.value)}
          className="h-8 w-24 rounded-(--radius) border border-line bg-paper px-2"
        />
      </div>
    </div>
  );
}
