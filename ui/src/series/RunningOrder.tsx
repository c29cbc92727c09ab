import { useEffect, useRef, type KeyboardEvent } from "react";
import { FileText, Play, Trash2 } from "lucide-react";
import { t } from "@lingui/core/macro";
import type { Card, Leg } from "../api/types";
import { Miniature } from "../board/Miniature";
import { Button } from "../kit/Button";
import { Sortable, useSorted } from "../kit/Sortable";
import { tip } from "../kit/tip";
import { AddSteps } from "./AddSteps";
import type { SeriesEditing } from "./seriesDraft";
import { kindName } from "../shelf/kinds";

type Props = {
  series: SeriesEditing;
  cards: Map<string, Card>;
  onPicked: (cards: Card[]) => void;
  chosen: number;
  onChoose: (step: number) => void;
  onRehearse: (from: number) => void;
};

export const titleOf = (leg: Leg, cards: Map<string, Card>) =>
  leg.page ? leg.page.title || t`Untitled page` : (cards.get(leg.activity!)?.title ?? t`Deleted activity`);

const movesOn = { free: t`Continue any time`, done: t`Continue when finished`, right: t`Continue when all is correct` };

/** The steps in their order, moved by drag or Alt with arrows. */
export function RunningOrder({ series, cards, onPicked, chosen, onChoose, onRehearse }: Props) {
  const { doc, change } = series;
  const list = useRef<HTMLOListElement>(null);
  const follow = useRef(false);
  const move = (from: number, to: number) => {
    if (to < 0 || to >= doc.steps.length || from === to) return;
    change(t`move a step`, (d) => {
      const [leg] = d.steps.splice(from, 1);
      d.steps.splice(to, 0, leg!);
    });
    follow.current = true;
    onChoose(to);
  };
  const remove = (at: number) => {
    change(t`remove a step`, (d) => void d.steps.splice(at, 1));
    follow.current = true;
    onChoose(Math.max(0, at - 1));
  };
  // The focus goes with what was moved.
  useEffect(() => {
    if (!follow.current) return;
    follow.current = false;
    list.current?.querySelectorAll<HTMLElement>("[data-step]")[chosen]?.focus();
  }, [chosen, doc]);
  const keys = (e: KeyboardEvent, at: number) => {
    const by = { ArrowUp: -1, ArrowDown: 1 }[e.key];
    if (by) {
      e.preventDefault();
      if (e.altKey) move(at, at + by);
      else {
        follow.current = true;
        onChoose(Math.min(doc.steps.length - 1, Math.max(0, at + by)));
      }
    } else if (e.key === "Delete") {
      e.preventDefault();
      remove(at);
    }
  };
  return (
    <section
      aria-label={t`Running order`}
      className="rounded-(--radius) border border-line bg-paper shadow-(--shadow-card)"
    >
      <div className="flex flex-wrap items-center gap-2 border-b border-line px-4 py-2">
        <h2 className="text-base">{t`Running order`}</h2>
        <span className="text-slate">{t`Drag or Alt+arrow keys to reorder`}</span>
        <span className="ml-auto flex gap-2">
          <AddSteps series={series} onPicked={onPicked} after={chosen} onAdded={onChoose} />
        </span>
      </div>
      {doc.steps.length === 0 && (
        <p className="p-6 text-slate">{t`This series is empty. Add activities, or pages that introduce them.`}</p>
      )}
      <Sortable
        ids={doc.steps.map((_, i) => String(i))}
        name={(id) => t`step ${Number(id) + 1}, ${titleOf(doc.steps[Number(id)]!, cards)}`}
        onMove={move}
      >
        <ol ref={list}>
          {doc.steps.map((leg, i) => (
            <Step
              key={`${i}.${leg.page?.id ?? leg.activity}`}
              leg={leg}
              at={i}
              cards={cards}
              chosen={i === chosen}
              onChoose={onChoose}
              onKeyDown={(e) => keys(e, i)}
              onRehearse={onRehearse}
              onRemove={remove}
            />
          ))}
        </ol>
      </Sortable>
    </section>
  );
}

type StepProps = {
  leg: Leg;
  at: number;
  cards: Map<string, Card>;
  chosen: boolean;
  onChoose: (step: number) => void;
  onKeyDown: (e: KeyboardEvent) => void;
  onRehearse: (from: number) => void;
  onRemove: (step: number) => void;
};

/** A step with its grip: what it is, how it goes on, what can be done with it. */
function Step({ leg, at: i, cards, chosen, onChoose, onKeyDown, onRehearse, onRemove }: StepProps) {
  const sorted = useSorted(String(i));
  const card = cards.get(leg.activity ?? "");
  const missing = !leg.page && !card;
  return (
    <li
      ref={sorted.ref}
      style={sorted.style}
      className={`flex items-center gap-2 border-b border-line/70 pr-2 pl-1 last:border-0 ${chosen ? "bg-feather-soft" : ""} ${sorted.moving ? "relative bg-paper shadow-(--shadow-raised)" : ""}`}
    >
      {sorted.grip}
      <button
        type="button"
        data-step
        aria-current={chosen}
        onClick={() => onChoose(i)}
        onKeyDown={onKeyDown}
        className="flex min-w-0 flex-1 items-center gap-3 py-2 text-left"
      >
        <span className="w-5 shrink-0 text-right text-slate tabular-nums">{i + 1}</span>
        <span className="grid h-14 w-20 shrink-0 place-items-center overflow-hidden rounded-sm border border-line bg-mist">
          {card?.scene ? (
            <Miniature scene={card.scene} width={76} height={52} />
          ) : (
            <FileText size={20} aria-hidden className="text-slate" />
          )}
        </span>
        <span className="min-w-0">
          <span className={`block sm:truncate font-semibold ${missing ? "text-ember" : ""}`}>
            {titleOf(leg, cards)}
          </span>
          <span className="block sm:truncate text-slate">
            {leg.page
              ? t`Page`
              : [
                  card && kindName(card.kind),
                  leg.counts ? (leg.points === undefined ? t`default points` : t`${leg.points} points`) : t`practice`,
                  movesOn[leg.moveOn],
                ]
                  .filter(Boolean)
                  .join(" · ")}
          </span>
        </span>
      </button>
      <Button
        kind="quiet"
        className="px-2"
        aria-label={t`Rehearse from step ${i + 1}`}
        {...tip(t`Rehearse from here`)}
        onClick={() => onRehearse(i)}
      >
        <Play size={16} aria-hidden />
      </Button>
      <Button
        kind="quiet"
        className="px-2"
        aria-label={t`Remove step ${i + 1}`}
        {...tip(t`Remove this step`)}
        onClick={() => onRemove(i)}
      >
        <Trash2 size={16} aria-hidden />
      </Button>
    </li>
  );
}
