import { useEffect, useState } from "react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../../api/client";
import type { Problem } from "../../api/types";
import { LinkField } from "../../kit/LinkField";
import { Button } from "../../kit/Button";
import { Dialog } from "../../kit/Dialog";
import { Said } from "../../kit/Said";
import { useDraft, useDraftStore } from "../model/draft";
import type { Doc } from "../../api/types";
import type { Saver } from "../../document/saver";

/** Links by which a colleague tries the draft; each can be withdrawn. */
export function DraftLinks({ saver }: { saver: Saver<Doc> }) {
  const store = useDraftStore();
  const id = useDraft((s) => s.id);
  const queries = useQueryClient();
  const [problem, setProblem] = useState<Problem>();
  const path = { params: { path: { id } } };
  const key = ["draft-links", id];
  const links = useQuery({
    queryKey: key,
    queryFn: () => ask(api.GET("/api/activities/{id}/draft-links", path)),
  });
  // Whoever opens a link finds what is saved.
  useEffect(() => void saver.flush(), [saver]);
  const act = async (asked: Promise<{ links: string[] }>) => {
    try {
      // What is still being read would put back what was there before.
      await queries.cancelQueries({ queryKey: key });
      queries.setQueryData(key, await asked);
      setProblem(undefined);
    } catch (error) {
      setProblem(problemOf(error));
    }
  };
  const list = links.data?.links ?? [];
  return (
    <Dialog
      open
      onClose={() => store.setState({ asking: "" })}
      title={t`Preview links`}
      about={t`Anyone with the link can try the current draft. Results aren’t saved.`}
    >
      {list.length === 0 && <p className="mb-4 text-slate">{links.isPending ? t`Opening…` : t`No links yet.`}</p>}
      <ul>
        {list.map((link, i) => (
          <li key={link} className="mb-3 flex items-center gap-2">
            <span className="min-w-0 flex-1">
              <LinkField path={link} label={t`Link to try ${i + 1}`} />
            </span>
            <Button
              kind="grave"
              onClick={() =>
                void act(
                  ask(
                    api.DELETE("/api/activities/{id}/draft-links/{link}", {
                      params: { path: { id, link: link.split("/").pop()! } },
                    }),
                  ),
                )
              }
            >
              {t`Revoke`}
            </Button>
          </li>
        ))}
      </ul>
      {(problem || links.isError) && <Said problem={problem ?? problemOf(links.error)} />}
      <Button kind="main" onClick={() => void act(ask(api.POST("/api/activities/{id}/draft-links", path)))}>
        {t`Create link`}
      </Button>
    </Dialog>
  );
}
