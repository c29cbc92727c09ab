import { useEffect, useMemo, useState } from "react";
import { t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import type { Doc, Problem } from "../api/types";
import { SeriesRun } from "../player/SeriesRun";
import { Select } from "../kit/Select";
import { Button } from "../kit/Button";
import { Said } from "../kit/Said";
import { useWorkspaceWords } from "../words/useWorkspaceWords";
import { LocalWalk } from "./localWalk";
import type { SeriesEditing } from "./seriesDraft";

type Props = { series: SeriesEditing; from: number; onLeave: () => void };

/** The whole series, rehearsed in the browser from any step; nothing is recorded. */
export function SeriesRehearsal({ series, from, onLeave }: Props) {
  const { doc } = series;
  const [docs, setDocs] = useState<Record<string, Doc>>();
  const [problem, setProblem] = useState<Problem>();
  const [learner, setLearner] = useState(1);
  const [start, setStart] = useState(from);
  const words = useWorkspaceWords(doc.lang);
  useEffect(() => {
    const ids = [...new Set(doc.steps.flatMap((s) => s.activity ?? []))];
    Promise.allSettled(ids.map((id) => ask(api.GET("/api/activities/{id}", { params: { path: { id } } })))).then(
      (all) =>
        setDocs(
          Object.fromEntries(all.flatMap((a, i) => (a.status === "fulfilled" ? [[ids[i], a.value.document]] : []))),
        ),
      (error: unknown) => setProblem(problemOf(error)),
    );
  }, [doc]);
  const walk = useMemo(
    () => docs && new LocalWalk(doc, docs, t`Learner ${learner}`, 1000 * learner, start),
    [doc, docs, learner, start],
  );
  const link = "whitespace-nowrap underline underline-offset-4";
  return (
    <div className="flex min-h-full flex-col border-2 border-feather lg:h-full" data-rehearsing>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 bg-feather px-3 py-1 text-on-feather">
        <span className="font-semibold">{t`Rehearsing`}</span>
        <label className="flex items-center gap-2">
          {t`from`}
          <Select
            label={t`Rehearse from`}
            value={start}
            onPick={(to) => {
              setStart(Number(to));
              setLearner((n) => n + 1);
            }}
            className="h-6 rounded-sm border border-on-feather/50 bg-feather px-1 text-on-feather"
            options={[...doc.steps.map((s, i) => [i, s.page ? t`step ${i + 1}, a page` : t`step ${i + 1}`] as const)]}
          />
        </label>
        <span className="ml-auto flex gap-4">
          <button type="button" className={link} onClick={() => setLearner((n) => n + 1)}>
            {t`Restart as new learner`}
          </button>
          <button type="button" className={link} onClick={onLeave}>
            {t`Done`}
          </button>
        </span>
      </div>
      <div className="min-h-0 flex-1">
        {problem && (
          <div className="p-4">
            <Said problem={problem} />
            <Button onClick={onLeave}>{t`Done`}</Button>
          </div>
        )}
        {walk && <SeriesRun key={learner} walk={walk} title={doc.title} lang={doc.lang} words={words} />}
      </div>
    </div>
  );
}
