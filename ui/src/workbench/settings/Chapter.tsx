import type { ReactNode } from "react";
import { t } from "@lingui/core/macro";
import type { Doc } from "../../api/types";
import { useDraft, useDraftStore } from "../model/draft";
import { Effect, type Moment } from "./Effect";

/** The play settings of the draft, and how they are changed. */
export function usePlay() {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  const set = (apply: (p: Doc["play"]) => void) =>
    store.getState().change({ says: t`change play settings`, apply: (d) => apply(d.play) });
  return { doc, play: doc.play, set };
}

/** A stretch of the learner's time: its sentences, and a small board that follows them. */
export function Chapter({
  title,
  moment,
  doc,
  children,
}: {
  title: string;
  moment: Moment;
  doc: Doc;
  children: ReactNode;
}) {
  return (
    <section aria-label={title} className="flex gap-4 border-b border-line px-4 py-2.5">
      <div className="min-w-0 flex-1 leading-7.5 [&_p]:mb-1">
        <h2 className="text-[15px]">{title}</h2>
        {children}
      </div>
      <Effect moment={moment} play={doc.play} />
    </section>
  );
}
