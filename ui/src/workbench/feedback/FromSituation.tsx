import { useEffect, useRef, useState } from "react";
import { flushSync } from "react-dom";
import { t } from "@lingui/core/macro";
import type { Reply } from "../../api/types";
import { engine, type Fact, type Situation } from "../../engine/engine";
import { Select } from "../../kit/Select";
import { Button } from "../../kit/Button";
import { useDraft, useDraftStore } from "../model/draft";
import { add, moments, whenOf } from "../model/replies";
import { listed } from "../../words/figures";

/** How many of the things that hold are offered before all are asked for. */
const atFirst = 14;

/** A situation that was set up or met: by which of what holds there it is to be known again. */
export function FromSituation({ situation }: { situation: Situation }) {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  const [moment, setMoment] = useState(situation.moment);
  const [facts, setFacts] = useState<Fact[]>([]);
  const [on, setOn] = useState<ReadonlySet<number>>(new Set());
  const [problem, setProblem] = useState("");
  useEffect(() => {
    let live = true;
    engine.facts(doc, { ...situation, moment }).then(
      (found) => {
        if (!live) return;
        setFacts(found);
        setOn(new Set(found.flatMap((f, i) => (f.telling ? [i] : []))));
      },
      (error: unknown) => live && setProblem(error instanceof Error ? error.message : String(error)),
    );
    return () => {
      live = false;
    };
  }, [doc, situation, moment]);
  const [all, setAll] = useState(false);
  // What is most likely meant stands first; of a large board not everything is told at once.
  const order = facts.map((_, i) => i).sort((a, b) => Number(facts[b]!.telling) - Number(facts[a]!.telling));
  const shown = all ? order : order.slice(0, atFirst);
  const offered = useRef<HTMLDivElement>(null);
  const showAll = () => {
    flushSync(() => setAll(true));
    offered.current?.querySelectorAll("button")[atFirst]?.focus(); // keys go on with what is new
  };
  const chosen = facts.filter((_, i) => on.has(i));
  const make = () => {
    add(store, { moment: moment as Reply["moment"], when: whenOf(chosen.map((f) => f.when)) });
    store.setState({ allReplies: true });
  };
  return (
    <section
      aria-label={t`Situation`}
      className="max-h-[60%] max-lg:max-h-none overflow-auto border-t-2 border-edge bg-paper px-4 py-2"
    >
      <p className="mb-1 flex flex-wrap items-center gap-2">
        <b>{t`Feedback for this situation,`}</b>
        <Select
          label={t`When`}
          value={moment}
          onPick={(to) => setMoment(to)}
          className="h-7 rounded-(--radius) border border-line bg-paper px-1"
          options={[
            ...moments
              .filter(([id]) => ["placed", "checked", "timeUp", "done"].includes(id))
              .map(([id, title]) => [id, title.charAt(0).toLowerCase() + title.slice(1)] as const),
          ]}
        />
        {t`and`}
      </p>
      {problem && <p className="text-ember">{problem}</p>}
      <div ref={offered} className="flex flex-wrap gap-1.5" role="group" aria-label={t`What holds there`}>
        {shown.map((i) => (
          <button
            key={i}
            type="button"
            aria-pressed={on.has(i)}
            onClick={() => setOn(new Set(on.has(i) ? [...on].filter((k) => k !== i) : [...on, i]))}
            className={`rounded-(--radius) border px-2 py-0.5 ${on.has(i) ? "border-feather bg-feather-soft font-medium" : "border-line text-slate"}`}
          >
            {facts[i]!.said.message}
          </button>
        ))}
        {shown.length < facts.length && (
          <button type="button" className="px-2 text-feather underline" onClick={showAll}>
            {t`${facts.length - shown.length} more …`}
          </button>
        )}
      </div>
      <p className="sticky -bottom-2 mt-2 flex items-center gap-2 bg-paper py-1">
        <Button kind="main" onClick={make} disabled={facts.length === 0}>
          {t`Create feedback`}
        </Button>
        <Button onClick={() => store.setState({ situation: undefined })}>{t`Cancel`}</Button>
        <span className="text-slate">
          {chosen.length === 0 ? t`Always at this point.` : t`When ${listed(chosen.map((f) => f.said.message))}.`}
        </span>
      </p>
    </section>
  );
}
