import { useMemo } from "react";
import { useDraft, useDraftStore } from "../model/draft";
import { AllReplies } from "./AllReplies";
import { replyOf } from "../model/replies";
import { FromSituation } from "./FromSituation";
import { RepliesGrid } from "./RepliesGrid";
import { ReplyPane } from "./ReplyPane";

/** What learners are told: by item, as a table, or all replies by moment; below, the one that is chosen. */
export function RepliesLens() {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  const chosen = useDraft((s) => s.reply);
  const situation = useDraft((s) => s.situation);
  const all = useDraft((s) => s.allReplies ?? true);
  const reply = useMemo(() => replyOf(doc, chosen), [doc, chosen]);
  return (
    <div className="flex min-h-0 flex-1 flex-col max-lg:overflow-auto">
      <div
        className="flex items-center gap-1 border-b border-line px-3 py-1.5"
        role="group"
        aria-label="Feedback shown"
      >
        {(
          [
            [true, "All feedback"],
            [false, "By item"],
          ] as const
        ).map(([on, name]) => (
          <button
            key={name}
            type="button"
            aria-pressed={all === on}
            onClick={() => store.setState({ allReplies: on, situation: undefined })}
            className={`h-7 rounded-(--radius) px-3 ${all === on ? "bg-feather-soft font-semibold" : "text-slate hover:bg-shade"}`}
          >
            {name}
          </button>
        ))}
      </div>
      {all ? <AllReplies /> : <RepliesGrid />}
      {situation ? <FromSituation situation={situation} /> : all && reply && <ReplyPane key={reply.id} reply={reply} />}
    </div>
  );
}
