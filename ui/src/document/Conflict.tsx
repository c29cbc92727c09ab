import { useState } from "react";
import { useStore, type StoreApi } from "zustand";
import { t } from "@lingui/core/macro";
import { problemOf } from "../api/client";
import type { Problem } from "../api/types";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { Said } from "../kit/Said";
import type { Session } from "./history";
import type { Saver } from "./saver";

type Props<D> = {
  store: StoreApi<Session<D>>;
  saver: Saver<D>;
  /** Keeps a document as one of its own on the shelf. */
  copy: (doc: D) => Promise<unknown>;
  /** Reads the newer one in place of this. */
  reload: () => Promise<void>;
};

/** Another has saved in between: go on with one of the two, and the other is kept as a copy. */
export function Conflict<D extends { title: string }>({ store, saver, copy, reload }: Props<D>) {
  const problem = useStore(store, (s) => (s.saving === "conflict" ? s.problem : undefined));
  const [busy, setBusy] = useState(false);
  const [failed, setFailed] = useState<Problem | null>(null);
  const theirs = problem?.current;
  if (!problem || !theirs) return null;

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
      const document = theirs.document as unknown as D;
      await copy({ ...document, title: t`${document.title} (${theirs.savedBy}’s version)`.slice(0, 200) });
      await saver.overwrite(theirs.revision);
    });
  const others = () =>
    choose(async () => {
      const { doc } = store.getState();
      await copy({ ...doc, title: t`${doc.title} (my changes)`.slice(0, 200) });
      saver.unsaved.forget();
      await reload();
    });

  return (
    <Dialog
      open
      busy={busy}
      title={t`Someone else saved a newer version`}
      about={t`${problem.detail} Which version do you want to continue with?`}
    >
      <div className="flex flex-col gap-3">
        <Button kind="main" onClick={() => void mine()} className="h-auto py-2 whitespace-normal">
          {t`Continue with mine, and save ${theirs.savedBy}’s as a copy`}
        </Button>
        <Button onClick={() => void others()} className="h-auto py-2 whitespace-normal">
          {t`Continue with ${theirs.savedBy}’s, and keep mine as a copy on the shelf`}
        </Button>
        {failed && <Said problem={failed} />}
      </div>
    </Dialog>
  );
}
