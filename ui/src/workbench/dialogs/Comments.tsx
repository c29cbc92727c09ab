import { useState } from "react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../../api/client";
import type { Me } from "../../api/types";
import { nameOf } from "../../document/parts";
import { Button } from "../../kit/Button";
import { Dialog } from "../../kit/Dialog";
import { Said } from "../../kit/Said";
import { useDraft, useDraftStore } from "../model/draft";
import { moment } from "../../words/figures";

/** What members said of an activity. */
export function useComments(id: string) {
  return useQuery({
    queryKey: ["comments", id],
    queryFn: () => ask(api.GET("/api/activities/{id}/comments", { params: { path: { id } } })),
  });
}

/** What members said of the draft, of the whole or of a part of it; whoever reviews it adds to it. */
export function Comments({ me }: { me: Me }) {
  const store = useDraftStore();
  const id = useDraft((s) => s.id);
  const items = useDraft((s) => s.doc.items);
  const targets = useDraft((s) => s.doc.targets);
  const queries = useQueryClient();
  const list = useComments(id);
  const may = me.role !== "viewer";
  const close = () => store.setState({ asking: "" });
  const partOf = (part: string) => [...items, ...targets].find((p) => p.id === part);
  const keep = (now: typeof list.data) => queries.setQueryData(["comments", id], now);
  const [text, setText] = useState("");
  const { selection } = store.getState();
  const one = [...selection.items, ...selection.targets];
  const [part, setPart] = useState(one.length === 1 ? one[0]! : "");
  const say = useMutation({
    mutationFn: () =>
      ask(
        api.POST("/api/activities/{id}/comments", {
          params: { path: { id } },
          body: { text, part: part || undefined },
        }),
      ),
    onSuccess: (now) => {
      keep(now);
      setText("");
      setPart("");
    },
  });
  const seeTo = useMutation({
    mutationFn: ({ comment, done }: { comment: string; done: boolean }) =>
      ask(api.PUT("/api/activities/{id}/comments/{comment}", { params: { path: { id, comment } }, body: { done } })),
    onSuccess: keep,
  });
  const takeBack = useMutation({
    mutationFn: (comment: string) =>
      ask(api.DELETE("/api/activities/{id}/comments/{comment}", { params: { path: { id, comment } } })),
    onSuccess: keep,
  });
  const failed = list.error ?? say.error ?? seeTo.error ?? takeBack.error;
  const show = (part: string) => {
    const isItem = items.some((i) => i.id === part);
    close();
    store.getState().select(isItem ? { items: [part] } : { targets: [part] });
  };
  const about = partOf(part);
  return (
    <Dialog
      open
      busy={say.isPending}
      onClose={close}
      title={t`Comments`}
      about={t`Members of the workspace see them, learners never do.`}
    >
      {list.data?.comments.length === 0 && <p className="mb-3 text-slate">{t`No comments yet.`}</p>}
      <ol aria-label={t`Comments`} className="mb-3 max-h-[45vh] overflow-auto">
        {list.data?.comments.map((c) => {
          const of = c.part && partOf(c.part);
          return (
            <li key={c.id} className="border-b border-line py-2">
              <p className="flex flex-wrap gap-x-2 text-slate">
                <span className="font-medium text-ink">{c.saidBy}</span>
                {moment(c.saidAt)}
                {c.part &&
                  (of ? (
                    <button type="button" onClick={() => show(c.part!)} className="text-feather underline">
                      {nameOf(of)}
                    </button>
                  ) : (
                    <span>{t`a part that is gone`}</span>
                  ))}
              </p>
              <p className={`whitespace-pre-wrap break-words ${c.doneBy ? "text-slate" : ""}`}>{c.text}</p>
              <div className="mt-1 flex items-center gap-2">
                {c.doneBy && <span className="text-slate">{t`Done, ${c.doneBy}`}</span>}
                {may && (
                  <Button
                    kind="quiet"
                    className="-ml-2 px-2"
                    disabled={seeTo.isPending}
                    onClick={() => seeTo.mutate({ comment: c.id, done: !c.doneBy })}
                  >
                    {c.doneBy ? t`Reopen` : t`Mark as done`}
                  </Button>
                )}
                {c.mine && (
                  <Button
                    kind="quiet"
                    className="-ml-2 px-2"
                    disabled={takeBack.isPending}
                    onClick={() => takeBack.mutate(c.id)}
                  >
                    {t`Delete`}
                  </Button>
                )}
              </div>
            </li>
          );
        })}
      </ol>
      {failed && (
        <div className="mb-3">
          <Said problem={problemOf(failed)} />
        </div>
      )}
      {may && (
        <form
          onSubmit={(e) => {
            e.preventDefault();
            say.mutate();
          }}
        >
          <label className="block font-medium">
            {about ? t`Comment on ${nameOf(about)}` : t`Comment on the whole activity`}
            <textarea
              autoFocus
              rows={3}
              maxLength={2000}
              value={text}
              onChange={(e) => setText(e.target.value)}
              className="mt-1 w-full rounded-(--radius) border border-edge bg-paper px-3 py-2 font-normal"
            />
          </label>
          <div className="mt-2 flex justify-end gap-2">
            {about && (
              <Button kind="quiet" onClick={() => setPart("")}>
                {t`On the whole instead`}
              </Button>
            )}
            <Button kind="main" type="submit" disabled={!text.trim()}>
              {t`Comment`}
            </Button>
          </div>
        </form>
      )}
    </Dialog>
  );
}
