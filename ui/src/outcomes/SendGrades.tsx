import { useState } from "react";
import { useMutation } from "@tanstack/react-query";
import { plural, t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import type { Release } from "../api/types";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { Said } from "../kit/Said";

/** Tells learning platforms the scores as they stand after a re-mark, once it was asked. */
export function SendGrades({ release }: { release: Release }) {
  const [asking, setAsking] = useState(false);
  const send = useMutation({
    mutationFn: () => ask(api.POST("/api/releases/{id}/grades", { params: { path: { id: release.id } } })),
    onSuccess: () => setAsking(false),
  });
  const n = send.data?.grades;
  return (
    <div className="flex flex-wrap items-center gap-3 border-t border-line py-1.5">
      <p role="status" className="flex-1 text-slate">
        {n === undefined
          ? t`Learning platforms still have the scores of before.`
          : n === 0
            ? t`Nobody came to this release from a learning platform.`
            : t`${plural(n, { one: "# score is", other: "# scores are" })} on the way to the platforms.`}
      </p>
      <Button onClick={() => setAsking(true)}>{t`Send scores to platforms…`}</Button>
      <Dialog
        open={asking}
        busy={send.isPending}
        onClose={() => setAsking(false)}
        title={t`Send the scores again?`}
        about={t`Every learner who came from a learning platform gets the score as it stands now in its gradebook, also where it is lower than before.`}
      >
        {send.error && <Said problem={problemOf(send.error)} />}
        <div className="mt-2 flex justify-end gap-2">
          <Button onClick={() => setAsking(false)}>{t`Cancel`}</Button>
          <Button kind="main" onClick={() => send.mutate()}>
            {t`Send scores`}
          </Button>
        </div>
      </Dialog>
    </div>
  );
}
