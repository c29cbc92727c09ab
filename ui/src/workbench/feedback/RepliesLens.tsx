import { useMemo } from "react";
import { t } from "@lingui/core/macro";
import { useDraft, useDraftStore } from "../model/draft";
import { AllReplies } from "./AllReplies";
import type { Reply } from "../../api/types";
import { chosenReplies } from "../model/replies";
import { FromSituation } from "./FromSituation";
import { RepliesGrid } from "./RepliesGrid";
import { ReplyPane } from "./ReplyPane";
import { SaidFields } from "./SaidFields";

/** What learners are told: by item, as a table, or all replies by moment; below, the one that is chosen. */
export function RepliesLens() {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  const chosen = useDraft((s) => s.reply);
  const situation = useDraft((s) => s.situation);
  const all = useDraft((s) => s.allReplies ?? true);
  const together = useDraft((s) => s.together);
  const replies = useMemo(() => {
    const ids = chosenReplies({ reply: chosen, together });
    return doc.replies.filter((r) => ids.includes(r.id));
  }, [doc, chosen, together]);
  return (
    <div className="flex min-h-0 flex-1 flex-col max-lg:overflow-auto">
      <div
        className="flex items-center gap-1 border-b border-line px-3 py-1.5"
        role="group"
        aria-label={t`Feedback shown`}
      >
        {(
          [
            [true, t`All feedback`],
            [false, t`By item`],
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
      {situation ? (
        <FromSituation situation={situation} />
      ) : (
        all && (replies.length > 1 ? <Several replies={replies} /> : <One reply={replies[0]} />)
      )}
    </div>
  );
}

const One = ({ reply }: { reply?: Reply }) => reply && <ReplyPane key={reply.id} reply={reply} />;

/** What several replies say and do, changed in all of them at once. */
function Several({ replies }: { replies: Reply[] }) {
  return (
    <section
      aria-label={t`Replies`}
      className="max-h-[62%] min-h-64 overflow-auto border-t-2 border-edge bg-paper max-lg:max-h-none"
    >
      <p className="border-b border-line bg-shade px-4 py-2">
        <b>{t`${replies.length} selected.`}</b> {t`What you change here changes in all of them.`}
      </p>
      <SaidFields replies={replies} />
    </section>
  );
}
