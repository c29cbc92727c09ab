import { useEffect, useRef, useState } from "react";
import { DropdownMenu } from "radix-ui";
import { ChevronDown, Copy, Eye, EyeOff, GripVertical, Play, Trash2 } from "lucide-react";
import type { Doc, Reply } from "../../api/types";
import type { Covered } from "../../engine/engine";
import { Button } from "../../shared/Button";
import { ToneMark } from "../../shared/ToneMark";
import { useDraft, useDraftStore } from "../draft";
import { add, blank, change, drop, duplicate, moments, moveBy } from "./changes";
import { replyName } from "../rehearse/trailWords";
import { useTry } from "./useTry";

const entry =
  "cursor-default rounded-sm px-3 py-1.5 outline-none data-[highlighted]:bg-feather-soft data-[disabled]:opacity-50";

/** All replies by moment, in the order in which they are tried. */
export function AllReplies() {
  const doc = useDraft((s) => s.doc);
  const store = useDraftStore();
  const silent = useDraft((s) => s.covers?.silent.length ?? 0);
  return (
    <>
      <div className="flex flex-wrap items-center gap-2 border-b border-line px-4 py-1.5">
        <NewReply />
        <Button className="h-7 px-2" onClick={() => store.setState({ toRehearse: { moves: [], setting: true } })}>
          Set up a situation…
        </Button>
        <ForTargets />
        <Button
          className="h-7 px-2"
          title="One reply for each outcome, and for each when no attempt is left; what is there already stays"
          onClick={() => void store.getState().edit("add the usual replies", { act: "startingReplies" })}
        >
          Usual replies
        </Button>
        {silent > 0 && doc.replies.length > 0 && (
          <span className="text-slate">
            {silent} {silent === 1 ? "outcome" : "outcomes"} without a reply
          </span>
        )}
      </div>
      <div
        className="min-h-24 flex-1 overflow-auto max-lg:min-h-64 max-lg:flex-none"
        role="group"
        aria-label="All replies"
      >
        {doc.replies.length === 0 && (
          <p className="px-4 py-4 text-slate">
            Learners are told only which pieces are right. <b className="text-ink">Usual replies</b> makes one for each
            outcome; or set up a situation on the board and say what is told then.
          </p>
        )}
        {moments.map(([moment, title]) => {
          const own = doc.replies.filter((r) => r.moment === moment);
          if (own.length === 0) return null;
          return (
            <section key={moment} aria-label={`Replies: ${title}`}>
              <h3 className="sticky top-0 z-10 border-b border-line bg-shade px-4 py-1 text-[13px] font-semibold text-slate">
                {title}
                {own.length > 1 && <span className="font-normal">: the first that fits is given</span>}
              </h3>
              <ol>
                {own.map((r) => (
                  <Row key={r.id} reply={r} />
                ))}
              </ol>
            </section>
          );
        })}
      </div>
    </>
  );
}

function NewReply() {
  const store = useDraftStore();
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <Button className="h-7 px-2" kind="main">
          New reply <ChevronDown size={14} aria-hidden />
        </Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          className="z-50 min-w-56 rounded-(--radius) border border-line bg-paper p-1 shadow-(--shadow-raised)"
        >
          {moments.map(([moment, title, more]) => (
            <DropdownMenu.Item
              key={moment}
              className={entry}
              onSelect={() => add(store, blank(store.getState().doc, moment))}
            >
              {title} {more && <span className="text-slate">({more})</span>}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** A reply for each combination of which of the selected targets are right. */
function ForTargets() {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  const selected = useDraft((s) => s.selection.targets);
  const targets = selected.length > 0 ? selected : doc.targets.map((t) => t.id);
  const n = targets.length;
  return (
    <Button
      className="h-7 px-2"
      disabled={n === 0 || n > 4}
      title={
        n > 4
          ? "Select up to four targets first"
          : `Makes ${2 ** n} replies: both or all of them right, each right alone, none right`
      }
      onClick={() =>
        void store.getState().edit(`add ${2 ** n} replies`, {
          act: "repliesForTargets",
          parts: { items: [], targets, scenery: [] },
        })
      }
    >
      One for each combination of {selected.length > 0 ? `${n} selected` : n > 4 ? "selected" : n} targets
    </Button>
  );
}

function Row({ reply }: { reply: Reply }) {
  const store = useDraftStore();
  const chosen = useDraft((s) => s.reply === reply.id && !s.situation);
  const when = useDraft((s) => s.known?.when[s.doc.replies.findIndex((r) => r.id === reply.id)]);
  const covered = useDraft((s) => s.covers?.replies.find((c) => c.id === reply.id));
  const [over, setOver] = useState(false);
  const { tryIt, said } = useTry(reply.id);
  const row = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (chosen) row.current?.scrollIntoView({ block: "nearest" });
  }, [chosen]);
  const doc = useDraft((s) => s.doc);
  const before = covered?.shadowed;
  const choose = () => store.setState({ reply: reply.id, situation: undefined });
  const tool = "grid size-7 place-items-center rounded-(--radius) text-slate hover:bg-shade hover:text-ink";
  const never = covered && !covered.given && !reply.off;
  return (
    <li
      ref={row}
      draggable
      onDragStart={(e) => e.dataTransfer.setData("text/x-reply", reply.id)}
      onDragOver={(e) => {
        if (!e.dataTransfer.types.includes("text/x-reply")) return;
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        setOver(false);
        e.preventDefault();
        const { doc } = store.getState();
        const id = e.dataTransfer.getData("text/x-reply");
        const own = doc.replies.filter((r) => r.moment === reply.moment).map((r) => r.id);
        if (own.includes(id)) store.getState().change(moveBy(doc, id, own.indexOf(reply.id) - own.indexOf(id)));
      }}
      className={`group/row flex items-start gap-1 border-b border-line/70 py-1 pr-2 pl-1 ${chosen ? "bg-feather-soft" : ""} ${over ? "border-t-2 border-t-feather" : ""}`}
    >
      <GripVertical size={15} aria-hidden className="mt-1.5 shrink-0 cursor-grab text-edge" />
      <button
        type="button"
        aria-pressed={chosen}
        onClick={choose}
        onKeyDown={(e) => {
          const by = { ArrowUp: -1, ArrowDown: 1 }[e.key];
          if (e.altKey && by) {
            e.preventDefault();
            store.getState().change(moveBy(store.getState().doc, reply.id, by));
          } else if (e.key === "Delete") drop(store, reply.id);
        }}
        className={`flex min-w-0 flex-1 gap-2 py-0.5 text-left ${reply.off ? "opacity-55" : ""}`}
      >
        {reply.tone === "plain" ? (
          <span className="w-[18px] shrink-0" />
        ) : (
          <ToneMark tone={reply.tone} className="mt-0.5" />
        )}
        <span className="min-w-0">
          <span className="block text-slate">{conditionOnly(when)}</span>
          <span className={`block truncate font-medium ${reply.off ? "line-through" : ""}`}>
            {reply.say.text ||
              (reply.say.picture ? "a picture" : <i className="font-normal text-slate">says nothing yet</i>)}
          </span>
          {never && <span className="block text-brass">{said || neverWords(doc, covered)}</span>}
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
          Put it before
        </Button>
      )}
      <span
        className={`flex ${chosen ? "" : "opacity-0 group-hover/row:opacity-100 group-focus-within/row:opacity-100"}`}
      >
        <button
          type="button"
          className={tool}
          aria-label={`Try: ${reply.say.text || reply.id}`}
          title="Show on the board when this one comes"
          onClick={tryIt}
        >
          <Play size={15} aria-hidden />
        </button>
        <button
          type="button"
          className={tool}
          aria-label={`Duplicate: ${reply.say.text || reply.id}`}
          title="Duplicate"
          onClick={() => duplicate(store, reply.id)}
        >
          <Copy size={15} aria-hidden />
        </button>
        <button
          type="button"
          className={tool}
          aria-label={`${reply.off ? "Switch on" : "Switch off"}: ${reply.say.text || reply.id}`}
          title={reply.off ? "Switch on" : "Switch off without deleting"}
          onClick={() =>
            change(store, reply.id, reply.off ? "switch a reply on" : "switch a reply off", (r) => (r.off = !r.off))
          }
        >
          {reply.off ? <EyeOff size={15} aria-hidden /> : <Eye size={15} aria-hidden />}
        </button>
        <button
          type="button"
          className={tool}
          aria-label={`Delete: ${reply.say.text || reply.id}`}
          title="Delete"
          onClick={() => drop(store, reply.id)}
        >
          <Trash2 size={15} aria-hidden />
        </button>
      </span>
    </li>
  );
}

/** Why a reply never comes. */
const neverWords = (doc: Doc, c: Covered) =>
  c.shadowed
    ? `It can never come: ${replyName(doc, c.shadowed)} stands before it and is given in its place.`
    : "It can never come: no situation was found in which all of its conditions hold.";

/** Under its moment, a reply says only what else must hold. */
function conditionOnly(when: string | undefined): string {
  if (!when) return "";
  const rest = when.replace(/^When [a-z ]+? and /, (all) =>
    all.includes("is put") || all.includes("turned") ? all : "",
  );
  return rest === when && moments.some(([, title]) => title === when)
    ? "Always"
    : rest.charAt(0).toUpperCase() + rest.slice(1);
}
