import { useEffect, useRef } from "react";
import { Undo2 } from "lucide-react";
import { t } from "@lingui/core/macro";
import { tip } from "../../kit/tip";
import type { RehearsedStep, TrailStep } from "../../engine/engine";
import { itemOf, targetOf } from "../../document/parts";
import { useDraft, useDraftStore, type DraftStore } from "../model/draft";
import { setBlock } from "../model/key";
import type { Rehearsal } from "./rehearsal";
import { stepWords } from "../../outcomes/trailWords";

const none = {};

/** The trail: each move, what it came to, and by which rule. A line leads to what decided it. */
export function Trail({ rehearsal }: { rehearsal: Rehearsal }) {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  const lens = useDraft((s) => s.lens);
  const mayChange = useDraft((s) => s.mayChange);
  const called = useDraft((s) => s.known?.called ?? none);
  const list = useRef<HTMLOListElement>(null);
  const steps = rehearsal.now?.steps ?? [];
  useEffect(() => {
    // In the list alone: on a phone the page would go with it, and the board out of sight at each move.
    const last = list.current?.lastElementChild;
    if (last) list.current!.scrollTop += last.getBoundingClientRect().top - list.current!.getBoundingClientRect().top;
  }, [steps.length]);
  return (
    <section
      aria-label={t`Trail`}
      className={`flex shrink-0 flex-col border-t-2 border-feather bg-paper ${lens === "replies" ? "h-[30%]" : "h-[46%]"}`}
    >
      <div className="flex items-baseline gap-4 border-b border-line bg-shade px-4 py-1.5">
        <h2 className="text-base">{t`Trail`}</h2>
        {steps.length > 0 && (
          <>
            <span className="truncate text-slate">
              {t`Click a line to see the rule behind it. Change it, here or there, and the same moves are re-evaluated.`}
            </span>
            <button
              type="button"
              onClick={() => rehearsal.back(-1)}
              className="ml-auto whitespace-nowrap text-feather underline underline-offset-4"
            >
              {t`Back to the start`}
            </button>
          </>
        )}
      </div>
      <ol ref={list} tabIndex={0} aria-label={t`Trail of the rehearsal`} className="flex-1 overflow-auto px-4 py-2">
        {steps.length === 0 && (
          <li className="text-slate">{t`Every move is listed here, with what was decided and why.`}</li>
        )}
        {steps.map((step, at) => (
          <li key={step.move.n} className="flex gap-2 border-b border-line/60 py-1.5">
            <span className="w-6 shrink-0 text-right text-slate">{step.move.n}</span>
            <span className="min-w-0 flex-1">
              {step.trail.map((line, i) => {
                const other = mayChange ? otherWay(line, step) : undefined;
                return (
                  <span key={i} className="group/line flex items-baseline gap-2">
                    <button
                      type="button"
                      className={`block min-h-6 min-w-0 flex-1 rounded-sm px-1 text-left hover:bg-feather-soft ${i > 0 ? "text-slate" : "font-medium"}`}
                      onClick={() => goTo(store, line, step)}
                    >
                      {stepWords(doc, line, step, called)}
                    </button>
                    {other && (
                      <button
                        type="button"
                        className="min-h-6 shrink-0 text-[13px] whitespace-nowrap text-feather underline underline-offset-4"
                        onClick={() =>
                          setBlock(
                            store,
                            other.letting ? -1 : (line.solution ?? store.getState().solution),
                            { items: [other.item], targets: [other.target], tags: [] },
                            other.on,
                          )
                        }
                      >
                        {other.says}
                      </button>
                    )}
                  </span>
                );
              })}
            </span>
            {at < steps.length - 1 && (
              <button
                type="button"
                aria-label={t`Back to after move ${step.move.n}`}
                {...tip(t`Continue from here`)}
                onClick={() => rehearsal.back(at)}
                className="grid size-7 shrink-0 place-items-center rounded-(--radius) text-slate hover:bg-shade"
              >
                <Undo2 size={15} aria-hidden />
              </button>
            )}
          </li>
        ))}
      </ol>
    </section>
  );
}

/** How the cell that decided a line can be the other way, right there: the same moves are then judged again. */
function otherWay(line: TrailStep, step: RehearsedStep) {
  const item = line.item ?? step.trail.find((x) => x.item)?.item;
  const target = line.target ?? step.target;
  if (!item || !target) return undefined;
  const cell = { item, target, letting: false };
  switch (line.code) {
    case "rightHere":
      return { ...cell, on: false, says: t`Mark as not correct` };
    case "wrongHere":
      return line.why === "noCell" ? { ...cell, on: true, says: t`Mark as correct` } : undefined;
    case "turnedAway":
      return { ...cell, letting: true, on: true, says: t`Accept it here` };
    default:
      return undefined;
  }
}

/** Shows in the ledger what decided a line: a reply, the marks, a play setting, or a cell. */
function goTo(store: DraftStore, line: TrailStep, step: RehearsedStep) {
  const { doc } = store.getState();
  const item = line.item ?? step.trail.find((x) => x.item)?.item ?? "";
  const target = line.target ?? step.target ?? "";
  if (line.reply || line.code === "finished") {
    store.setState({ lens: "replies", reply: line.reply?.reply ?? line.why, situation: undefined });
  } else if (line.code === "score") {
    store.setState({ lens: "marks" });
  } else if (line.field?.startsWith("/play") || playCodes.includes(line.code)) {
    store.setState({ lens: "play" });
  } else if (itemOf(doc, item) && targetOf(doc, target)) {
    store.setState({ lens: "placing", byItem: false, cellAsked: { item, target } });
  } else {
    store.getState().select({
      items: itemOf(doc, item) ? [item] : [],
      targets: targetOf(doc, target) ? [target] : [],
    });
  }
}

/** What comes of the play settings. */
const playCodes = [
  "lastAttempt",
  "heldInPlace",
  "goesHome",
  "dealt",
  "again",
  "timeUp",
  "allPlaced",
  "rejected",
  "hinted",
  "beside",
];
