import { useEffect, useRef, useState, type KeyboardEvent } from "react";
import { FileText, GripVertical, Play, Trash2 } from "lucide-react";
import type { Card, Leg } from "../api/types";
import { Miniature } from "../board/Miniature";
import { Button } from "../kit/Button";
import { AddSteps } from "./AddSteps";
import type { SeriesEditing } from "./seriesDraft";

type Props = {
  series: SeriesEditing;
  cards: Map<string, Card>;
  onPicked: (cards: Card[]) => void;
  chosen: number;
  onChoose: (step: number) => void;
  onRehearse: (from: number) => void;
};

export const titleOf = (leg: Leg, cards: Map<string, Card>) =>
  leg.page ? leg.page.title || "Untitled page" : (cards.get(leg.activity!)?.title ?? "Deleted activity");

const movesOn = { free: "Continue any time", done: "goes on when it is over", right: "goes on when all is correct" };

/** The steps in their order, moved by drag or Alt with arrows. */
export function RunningOrder({ series, cards, onPicked, chosen, onChoose, onRehearse }: Props) {
  const { doc, change } = series;
  const [over, setOver] = useState(-1);
  const list = useRef<HTMLOListElement>(null);
  const follow = useRef(false);
  const move = (from: number, to: number) => {
    if (to < 0 || to >= doc.steps.length || from === to) return;
    change("move a step", (d) => {
      const [leg] = d.steps.splice(from, 1);
      d.steps.splice(to, 0, leg!);
    });
    follow.current = true;
    onChoose(to);
  };
  const remove = (at: number) => {
    change("take a step out", (d) => void d.steps.splice(at, 1));
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
      aria-label="Running order"
      className="rounded-(--radius) border border-line bg-paper shadow-(--shadow-card)"
    >
      <div className="flex flex-wrap items-center gap-2 border-b border-line px-4 py-2">
        <h2 className="text-base">Running order</h2>
        <span className="text-slate">Drag or Alt+arrow keys to reorder</span>
        <span className="ml-auto flex gap-2">
          <AddSteps series={series} onPicked={onPicked} after={chosen} onAdded={onChoose} />
        </span>
      </div>
      {doc.steps.length === 0 && (
        <p className="p-6 text-slate">This series is empty. Add activities, or pages that introduce them.</p>
      )}
      <ol ref={list}>
        {doc.steps.map((leg, i) => {
          const card = cards.get(leg.activity ?? "");
          const missing = !leg.page && !card;
          return (
            <li
              key={`${i}.${leg.page?.id ?? leg.activity}`}
              draggable
              onDragStart={(e) => e.dataTransfer.setData("text/x-step", String(i))}
              onDragOver={(e) => {
                if (!e.dataTransfer.types.includes("text/x-step")) return;
                e.preventDefault();
                setOver(i);
              }}
              onDragLeave={() => setOver(-1)}
              onDrop={(e) => {
                e.preventDefault();
                setOver(-1);
                move(Number(e.dataTransfer.getData("text/x-step")), i);
              }}
              className={`flex items-center gap-2 border-b border-line/70 pr-2 pl-1 last:border-0 ${i === chosen ? "bg-feather-soft" : ""} ${over === i ? "border-t-2 border-t-feather" : ""}`}
            >
              <GripVertical size={15} aria-hidden className="shrink-0 cursor-grab text-edge" />
              <button
                type="button"
                data-step
                aria-current={i === chosen}
                onClick={() => onChoose(i)}
                onKeyDown={(e) => keys(e, i)}
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
                  <span className={`block truncate font-semibold ${missing ? "text-ember" : ""}`}>
                    {titleOf(leg, cards)}
                  </span>
                  <span className="block truncate text-slate">
                    {leg.page
                      ? "page"
                      : [
                          card?.kind,
                          leg.counts
                            ? leg.points === undefined
                              ? "default points"
                              : `${leg.points} points`
                            : "practice",
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
                aria-label={`Rehearse from step ${i + 1}`}
                title="Rehearse from here"
                onClick={() => onRehearse(i)}
              >
                <Play size={16} aria-hidden />
              </Button>
              <Button
                kind="quiet"
                className="px-2"
                aria-label={`Remove step ${i + 1}`}
                title="Take it out"
                onClick={() => remove(i)}
              >
                <Trash2 size={16} aria-hidden />
              </Button>
            </li>
          );
        })}
      </ol>
    </section>
  );
}
