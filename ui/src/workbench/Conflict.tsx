import { useState } from "react";
import { useQueryClient } from "@tanstack/react-query";
import { problemOf } from "../api/client";
import type { Problem } from "../api/types";
import { Button } from "../shared/Button";
import { Dialog } from "../shared/Dialog";
import { Said } from "../shared/Said";
import { useDraft } from "./draft";
import { forgetUnsaved, keepCopy, type Saver } from "./saving";

/** Another has saved in between: go on with one of the two, and the other is kept as a copy. */
export function Conflict({ saver }: { saver: Saver }) {
  const queries = useQueryClient();
  const { id, doc, problem } = useDraft((s) => s);
  const [busy, setBusy] = useState(false);
  const [failed, setFailed] = useState<Problem | null>(null);
  const theirs = problem?.current;
  if (!theirs) return null;

  const choose = async (act: () => Promise<void>) => {
    setBusy(true);
    setFailed(null);
    try {
      await act();
    } catch (error) {
      setFailed(problemOf(error));
    }
    setBusy(false);
  };
  const mine = () =>
    choose(async () => {
      await keepCopy({
        ...theirs.document,
        title: `${theirs.document.title} (as ${theirs.savedBy} saved it)`.slice(0, 200),
      });
      await saver.overwrite(theirs.revision);
    });
  const others = () =>
    choose(async () => {
      await keepCopy({ ...doc, title: `${doc.title} (my changes)`.slice(0, 200) });
      forgetUnsaved(id);
      await queries.resetQueries({ queryKey: ["draft", id] });
    });

  return (
    <Dialog open title="Saved by another in between" about={`${problem.detail} Which one do you go on with?`}>
      <div className="flex flex-col gap-3">
        <Button kind="main" disabled={busy} onClick={() => void mine()} className="h-auto py-2 whitespace-normal">
          Go on with mine; keep {theirs.savedBy}’s as a copy on the shelf
        </Button>
        <Button disabled={busy} onClick={() => void others()} className="h-auto py-2 whitespace-normal">
          Go on with {theirs.savedBy}’s; keep mine as a copy on the shelf
        </Button>
        {failed && <Said problem={failed} />}
      </div>
    </Dialog>
  );
}
