import { useState } from "react";
import { useInfiniteQuery, useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate, useParams } from "react-router";
import { t } from "@lingui/core/macro";
import { api, ask } from "../../api/client";
import { Button } from "../../kit/Button";
import { Dialog } from "../../kit/Dialog";
import { TypedInput } from "../../kit/TypedInput";
import { Miniature } from "../../board/Miniature";
import { takeDocument } from "../model/changes";
import { useDraft, useDraftStore } from "../model/draft";
import type { Saver } from "../../document/saver";
import type { Doc } from "../../api/types";
import { keepCopy } from "../model/saving";

const when = new Intl.DateTimeFormat(undefined, { dateStyle: "medium", timeStyle: "short" });

/** What was changed when, and by whom; each can be looked at, brought back, or kept as a copy. */
export function Revisions({ saver }: { saver: Saver<Doc> }) {
  const store = useDraftStore();
  const mayChange = useDraft((s) => s.mayChange);
  const navigate = useNavigate();
  const { id = "" } = useParams();
  const [chosen, setChosen] = useState<number>();
  const close = () => store.setState({ asking: "" });
  const queries = useQueryClient();
  const list = useInfiniteQuery({
    queryKey: ["revisions", id],
    gcTime: 0,
    initialPageParam: 0,
    queryFn: async ({ pageParam: before }) => {
      await saver.flush(); // what was done a moment ago is in it
      return ask(api.GET("/api/activities/{id}/revisions", { params: { path: { id }, query: { before } } }));
    },
    getNextPageParam: (last) => (last.more ? last.revisions.at(-1)?.revision : undefined),
  });
  const revisions = list.data?.pages.flatMap((p) => p.revisions) ?? [];
  const look = useQuery({
    queryKey: ["revision", id, chosen],
    enabled: chosen !== undefined,
    queryFn: () =>
      ask(api.GET("/api/activities/{id}/revisions/{revision}", { params: { path: { id, revision: chosen! } } })),
  });
  const bring = () => {
    if (!look.data) return;
    store.getState().change(takeDocument(look.data.document, t`restore version ${chosen!}`));
    store.setState({ remark: t`Version ${chosen!} restored. Undo takes you back.` });
    close();
  };
  const named = revisions.find((r) => r.revision === chosen)?.name ?? "";
  const rename = async (name: string) => {
    const path = { id, revision: chosen! };
    await ask(api.PUT("/api/activities/{id}/revisions/{revision}", { params: { path }, body: { name } }));
    await queries.invalidateQueries({ queryKey: ["revisions", id] });
  };
  return (
    <Dialog
      open
      wide
      onClose={close}
      title={t`Version history`}
      about={t`Restoring adds a new version; nothing is lost. After a month, the last version of each day is kept, and every version that has a name or was released.`}
    >
      <div className="grid gap-5 md:grid-cols-2">
        <ol aria-label={t`Version history`} className="max-h-[60vh] overflow-auto">
          {list.isPending && <li className="text-slate">{t`Loading…`}</li>}
          {revisions.map((r, i) => (
            <li key={r.revision}>
              <button
                type="button"
                aria-pressed={chosen === r.revision}
                onClick={() => setChosen(r.revision)}
                className={`w-full rounded-(--radius) border p-2 text-left ${chosen === r.revision ? "border-feather bg-feather-soft" : "border-transparent hover:bg-shade"}`}
              >
                <span className="flex justify-between gap-2">
                  <span className="font-medium">{r.name || when.format(new Date(r.savedAt))}</span>
                  <span className="text-slate">{r.savedBy}</span>
                </span>
                {r.name && <span className="block">{when.format(new Date(r.savedAt))}</span>}
                <span className="block text-slate">
                  {r.changes.length > 0
                    ? r.changes
                        .slice(0, 5)
                        .map((c) => c.message)
                        .join("; ") + (r.changes.length > 5 ? "…" : "")
                    : i === revisions.length - 1 && !list.hasNextPage
                      ? t`first version`
                      : t`no visible changes`}
                </span>
              </button>
            </li>
          ))}
          {list.hasNextPage && (
            <li className="p-2">
              <Button disabled={list.isFetchingNextPage} onClick={() => void list.fetchNextPage()}>
                {t`Show older versions`}
              </Button>
            </li>
          )}
        </ol>
        <section aria-label={t`As it was`} className="flex min-h-72 flex-col gap-3">
          <div className="grid flex-1 place-items-center rounded-(--radius) border border-line bg-mist p-3">
            {look.data ? (
              <Miniature scene={look.data.scene} width={380} height={250} />
            ) : (
              <span className="text-slate">{t`Select a version to preview it`}</span>
            )}
          </div>
          <div className="flex justify-end gap-2">
            {look.data && mayChange && (
              <TypedInput
                label={t`Name of this version`}
                placeholder={t`Name it to keep it for good`}
                maxLength={100}
                value={named}
                onDone={(name) => void rename(name)}
                className="h-8 min-w-0 flex-1"
              />
            )}
            {mayChange && (
              <>
                <Button
                  disabled={!look.data}
                  onClick={() =>
                    void keepCopy({ ...look.data!.document, title: `${look.data!.document.title} (${chosen})` }).then(
                      (d) => {
                        close();
                        void navigate(`/activity/${d.id}`);
                      },
                    )
                  }
                >
                  {t`Save as copy`}
                </Button>
                <Button kind="main" disabled={!look.data} onClick={bring}>
                  {t`Restore`}
                </Button>
              </>
            )}
          </div>
        </section>
      </div>
    </Dialog>
  );
}
