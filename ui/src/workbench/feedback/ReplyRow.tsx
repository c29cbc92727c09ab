import { useEffect, useRef } from "react";
import { Copy, Eye, EyeOff, Play, Trash2 } from "lucide-react";
import { t } from "@lingui/core/macro";
import type { Reply } from "../../api/types";
import { Button } from "../../kit/Button";
import { useSorted } from "../../kit/Sortable";
import { tip } from "../../kit/tip";
import { ToneMark } from "../../board/ToneMark";
import { useDraft, useDraftStore, writing } from "../model/draft";
import { change, chooseWith, chosenReplies, drop, duplicate, moveBy } from "../model/replies";
import { neverWords, useTry } from "./useTry";

/** A reply in the list of its moment: when it is given, its first words, what can be done with it. */
export function ReplyRow({ reply }: { reply: Reply }) {
  const store = useDraftStore();
  const chosen = useDraft((s) => !s.situation && chosenReplies(s).includes(reply.id));
  const only = useDraft((s) => s.known?.only[s.doc.replies.findIndex((r) => r.id === reply.id)]?.message);
  const covered = useDraft((s) => s.covers?.replies.find((c) => c.id === reply.id));
  const sorted = useSorted(reply.id);
  const { tryIt, said } = useTry(reply.id);
  const row = useRef<HTMLLIElement | null>(null);
  useEffect(() => {
    if (chosen) row.current?.scrollIntoView({ block: "nearest" });
  }, [chosen]);
  const doc = useDraft((s) => s.doc);
  const called = useDraft((s) => s.known?.called);
  const before = covered?.shadowed;
  const choose = () => store.setState(writing(reply.id));
  const tool = "grid size-7 place-items-center rounded-(--radius) text-slate hover:bg-shade hover:text-ink";
  const never = covered && !covered.given && !reply.off;
  return (
    <li
      ref={(e) => {
        row.current = e;
        sorted.ref(e);
      }}
      style={sorted.style}
      className={`group/row flex scroll-mt-8 items-start gap-1 border-b border-line/70 py-1 pr-2 pl-1 ${chosen ? "bg-feather-soft" : ""} ${sorted.moving ? "relative bg-paper shadow-(--shadow-raised)" : ""}`}
    >
      {sorted.grip}
      <button
        type="button"
        aria-pressed={chosen}
        onClick={(e) => {
          if (e.shiftKey || e.ctrlKey || e.metaKey) chooseWith(store, reply.id, e.shiftKey);
          else choose();
        }}
        onKeyDown={(e) => {
          const by = { ArrowUp: -1, ArrowDown: 1 }[e.key];
          if (e.altKey && by) {
            e.preventDefault();
            store.getState().change(moveBy(store.getState().doc, reply.id, by));
          } else if (by) {
            e.preventDefault();
            const rows = [...document.querySelectorAll<HTMLElement>("[data-reply-row]")];
            const to = rows[rows.indexOf(e.currentTarget) + by];
            to?.focus();
            if (e.shiftKey && to?.dataset.replyRow) chooseWith(store, to.dataset.replyRow, true);
          } else if (e.key === "Delete") drop(store, chosen ? chosenReplies(store.getState()) : [reply.id]);
        }}
        data-reply-row={reply.id}
        className={`flex min-w-0 flex-1 scroll-mt-8 gap-2 py-0.5 text-left select-none ${reply.off ? "opacity-55" : ""}`}
      >
        {reply.tone === "plain" ? (
          <span className="w-[18px] shrink-0" />
        ) : (
          <ToneMark tone={reply.tone} className="mt-0.5" />
        )}
        <span className="min-w-0">
          <span className="block text-slate">
            {only === "" ? t`Always` : only && only.charAt(0).toUpperCase() + only.slice(1)}
          </span>
          <span className={`block truncate font-medium ${reply.off ? "line-through" : ""}`}>
            {reply.say.text ||
              (reply.say.picture ? t`a picture` : <i className="font-normal text-slate">{t`no text yet`}</i>)}
          </span>
          {never && <span className="block text-brass">{said || neverWords(called, covered.shadowed)}</span>}
          {!never && said && <span className="block text-slate">{said}</span>}
        </span>
      </button>
      {never && before && (
        <Button
          className="h-7 px-2"
          onClick={() => {
            const own = doc.replies.filter((r) => r.moment === reply.moment).map((r) => r.id);
            store.getState().change(moveBy(doc, reply.id, own.indexOf(before) - own.indexOf(reply.id)));
          }}
        >
          {t`Move before it`}
        </Button>
      )}
      <span
        className={`flex ${chosen ? "" : "opacity-0 group-hover/row:opacity-100 group-focus-within/row:opacity-100"}`}
      >
        <button
          type="button"
          className={tool}
          aria-label={t`Try: ${reply.say.text || reply.id}`}
          {...tip(t`Preview when this is shown`)}
          onClick={tryIt}
        >
          <Play size={15} aria-hidden />
        </button>
        <button
          type="button"
          className={tool}
          aria-label={t`Duplicate: ${reply.say.text || reply.id}`}
          {...tip(t`Duplicate`)}
          onClick={() => duplicate(store, reply.id)}
        >
          <Copy size={15} aria-hidden />
        </button>
        <button
          type="button"
          className={tool}
          aria-label={
            reply.off ? t`Switch on: ${reply.say.text || reply.id}` : t`Switch off: ${reply.say.text || reply.id}`
          }
          {...tip(reply.off ? t`Switch on` : t`Disable`)}
          onClick={() =>
            change(store, reply.id, reply.off ? t`switch a reply on` : t`switch a reply off`, (r) => (r.off = !r.off))
          }
        >
          {reply.off ? <EyeOff size={15} aria-hidden /> : <Eye size={15} aria-hidden />}
        </button>
        <button
          type="button"
          className={tool}
          aria-label={t`Delete: ${reply.say.text || reply.id}`}
          {...tip(t`Delete`)}
          onClick={() => drop(store, [reply.id])}
        >
          <Trash2 size={15} aria-hidden />
        </button>
      </span>
    </li>
  );
}
