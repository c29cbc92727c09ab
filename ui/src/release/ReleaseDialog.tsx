import { useState } from "react";
import { useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, ask, problemOf } from "../api/client";
import type { Problem, Release } from "../api/types";
import { Button } from "../shared/Button";
import { Dialog } from "../shared/Dialog";
import { Said } from "../shared/Said";
import { useDraft, useDraftStore } from "../workbench/draft";
import type { Saver } from "../workbench/saving";
import { LinkField } from "./LinkField";

/** Freezes the draft as it is now and gives the link that learners open. */
export function ReleaseDialog({ saver, onClose }: { saver: Saver; onClose: () => void }) {
  const store = useDraftStore();
  const queries = useQueryClient();
  const { id, known, doc } = useDraft((s) => s);
  const [made, setMade] = useState<Release | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);

  const release = async () => {
    setBusy(true);
    setProblem(null);
    try {
      await saver.flush();
      const { revision, saving, problem: unsaved } = store.getState();
      if (saving !== "saved") {
        if (unsaved) setProblem(unsaved);
        return;
      }
      setMade(await ask(api.POST("/api/activities/{id}/releases", { params: { path: { id } }, body: { revision } })));
      await queries.invalidateQueries({ queryKey: ["releases", id] });
    } catch (error) {
      setProblem(problemOf(error));
    } finally {
      setBusy(false);
    }
  };

  return (
    <Dialog
      open
      onClose={onClose}
      title={made ? `Release ${made.number} is out` : `Release ${doc.title}`}
      about={
        made
          ? "Whoever has this link can play it, without signing in."
          : "A release is frozen: what you change afterwards reaches learners with the next one."
      }
    >
      {made ? (
        <>
          <LinkField path={made.link} />
          <div className="mt-4 flex justify-end gap-2">
            <Link
              to={`/activity/${id}/releases`}
              className="inline-flex h-8 items-center rounded-(--radius) border border-line px-3 font-medium hover:bg-shade"
            >
              See its sittings
            </Link>
            <Button kind="main" onClick={onClose}>
              Done
            </Button>
          </div>
        </>
      ) : (
        <>
          <ul className="mb-4 list-disc pl-5">
            <li>
              {known?.pieces ?? doc.items.length} pieces, {doc.targets.length} targets
              {known && known.nowhere.length > 0 && `, ${known.nowhere.length} belong nowhere`}
            </li>
            <li>
              {doc.play.attempts === 0
                ? "Any number of attempts"
                : doc.play.attempts === 1
                  ? "One attempt"
                  : `${doc.play.attempts} attempts`}
              {doc.play.wrongPieces === "home" && ", wrong pieces go home"}
              {doc.play.rightPieces === "hold" && ", right ones are held"}
            </li>
            <li>{doc.marks.points} points</li>
          </ul>
          {problem && <Said problem={problem} />}
          <div className="mt-4 flex justify-end gap-2">
            <Button onClick={onClose}>Cancel</Button>
            <Button kind="main" disabled={busy} onClick={() => void release()}>
              Release
            </Button>
          </div>
        </>
      )}
    </Dialog>
  );
}
