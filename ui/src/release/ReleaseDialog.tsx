import { useState, type ReactNode } from "react";
import { useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { t } from "@lingui/core/macro";
import { problemOf } from "../api/client";
import type { Entry, Problem, Release } from "../api/types";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { Said } from "../kit/Said";
import { LinkField } from "../kit/LinkField";
import { EntryStart } from "./EntryStart";

type Props = {
  /** Of the draft: an activity or a series. */
  id: string;
  title: string;
  about?: string;
  /** What is released, in lines. */
  facts: ReactNode;
  /** Releases it; undefined where it could not be saved before. */
  release: (entry: Entry) => Promise<Release | undefined>;
  onClose: () => void;
};

/** Freezes a draft as it is now and gives the link that learners open. */
export function ReleaseDialog({ id, title, about, facts, release: freeze, onClose }: Props) {
  const queries = useQueryClient();
  const [made, setMade] = useState<Release | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [entry, setEntry] = useState<Entry>({});
  const [busy, setBusy] = useState(false);

  const release = async () => {
    setBusy(true);
    setProblem(null);
    try {
      const done = await freeze(entry);
      if (done) setMade(done);
      void queries.invalidateQueries({ queryKey: ["releases", id] });
    } catch (error) {
      setProblem(problemOf(error));
    } finally {
      setBusy(false);
    }
  };

  return (
    <Dialog
      open
      busy={busy}
      onClose={onClose}
      title={made ? t`Release ${made.number} published` : t`Release ${title}`}
      about={
        made
          ? made.entry.roster
            ? t`Learners of the roster play it with this link and their code, without signing in.`
            : t`Anyone with this link can play it, without signing in.`
          : (about ?? t`A release is a frozen copy. Later changes need a new release.`)
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
              {t`View sittings`}
            </Link>
            <Button kind="main" onClick={onClose}>
              {t`Done`}
            </Button>
          </div>
        </>
      ) : (
        <>
          <ul className="mb-4 list-disc pl-5">{facts}</ul>
          <EntryStart entry={entry} onEntry={setEntry} />
          {problem && <Said problem={problem} />}
          <div className="mt-4 flex justify-end gap-2">
            <Button onClick={onClose}>{t`Cancel`}</Button>
            <Button kind="main" data-first onClick={() => void release()}>
              {t`Release`}
            </Button>
          </div>
        </>
      )}
    </Dialog>
  );
}
