import { useState } from "react";
import { useQueryClient } from "@tanstack/react-query";
import { t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import type { Problem, Trace } from "../api/types";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { Said } from "../kit/Said";

type Props = { traces: Trace[]; says: string[]; onClose: (done: boolean) => void };

/** Asks before what is kept of learners is deleted: it does not come back. */
export function Erasing({ traces, says, onClose }: Props) {
  const queries = useQueryClient();
  const [problem, setProblem] = useState<Problem>();
  const [busy, setBusy] = useState(false);
  const erase = async () => {
    setBusy(true);
    try {
      await ask(api.POST("/api/learners/erase", { body: { traces } }));
    } catch (error) {
      setProblem(problemOf(error));
      setBusy(false);
      return;
    }
    onClose(true);
    void queries.invalidateQueries();
  };
  const leave = () => onClose(false);
  return (
    <Dialog
      open
      busy={busy}
      onClose={leave}
      title={t`Delete learners’ data`}
      about={t`Moves and scores are deleted and statistics recalculated. This can’t be undone.`}
    >
      <ul tabIndex={0} aria-label={t`What is deleted`} className="max-h-48 list-disc overflow-auto pl-5">
        {says.map((x, i) => (
          <li key={i}>{x}</li>
        ))}
      </ul>
      {problem && <Said problem={problem} />}
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={leave}>{t`Cancel`}</Button>
        <Button kind="grave" onClick={() => void erase()}>
          {t`Delete for good`}
        </Button>
      </div>
    </Dialog>
  );
}
