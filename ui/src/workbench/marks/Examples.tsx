import { useEffect, useState } from "react";
import { Play, X } from "lucide-react";
import { t } from "@lingui/core/macro";
import { tip } from "../../kit/tip";
import { engine, type Worked } from "../../engine/engine";
import { short } from "../../words/words";
import { useDraft, useDraftStore } from "../model/draft";
import { shortScoreWords } from "../../outcomes/trailWords";

/** What sittings score now, and how that comes about. */
export function Examples() {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  const [list, setList] = useState<Worked[]>([]);
  const [problem, setProblem] = useState("");
  useEffect(() => {
    let live = true;
    engine.examples(doc).then(
      (found) => {
        if (!live) return;
        setList(found);
        setProblem("");
      },
      (error: unknown) => live && setProblem(error instanceof Error ? error.message : String(error)),
    );
    return () => {
      live = false;
    };
  }, [doc]);
  const first = list.findIndex((w) => !w.code);
  return (
    <section
      aria-label={t`Worked examples`}
      className="max-h-[42%] shrink-0 max-lg:max-h-none overflow-auto border-t-2 border-edge bg-paper"
    >
      {problem && <p className="px-4 py-2 text-ember">{problem}</p>}
      <table className="w-full text-left">
        <thead className="sticky top-0 bg-shade text-[13px]">
          <tr className="[&_th]:px-2 [&_th]:py-1 [&_th]:font-semibold">
            <th className="pl-4!">{t`Worked examples`}</th>
            <th className="text-right">{t`score`}</th>
            <th className="text-right">%</th>
            <th>{t`Calculation`}</th>
            <td />
          </tr>
        </thead>
        <tbody className={problem ? "opacity-45" : ""}>
          {list.map((w, i) => (
            <tr
              key={i}
              className="border-t border-line/70 align-top [&_td]:px-2 [&_td]:py-1"
              data-example={w.code ?? w.name}
            >
              <td className="pl-4!">{w.name}</td>
              {w.impossible ? (
                <td colSpan={3} className="text-slate">
                  {w.impossible}
                </td>
              ) : (
                <>
                  <td className="text-right font-bold tabular-nums">{short(w.final?.score)}</td>
                  <td className="text-right tabular-nums">{short(w.final?.percent)}</td>
                  <td className="text-[13px] text-slate">
                    {w.score && shortScoreWords(doc, w.score)}
                    {w.score?.verdict && short(w.score.verdict.score) !== short(w.final?.score) && (
                      <>
                        {" "}
                        = {short(w.score.verdict.score)};{" "}
                        {
                          {
                            best: t`the best attempt counts`,
                            last: t`the last attempt counts`,
                            first: t`the first attempt counts`,
                          }[doc.marks.keep]
                        }
                      </>
                    )}
                    {w.final && (doc.marks.passMark > 0 || w.final.band) && (
                      <span className="text-ink">
                        {" · "}
                        {[doc.marks.passMark > 0 ? (w.final.passed ? t`passed` : t`not passed`) : "", w.final.band]
                          .filter(Boolean)
                          .join(", ")}
                      </span>
                    )}
                  </td>
                </>
              )}
              <td className="flex justify-end gap-0.5 whitespace-nowrap">
                {w.moves.length > 0 && (
                  <button
                    type="button"
                    aria-label={t`Rehearse: ${w.name}`}
                    {...tip(t`Replay on the board`)}
                    onClick={() => store.setState({ toRehearse: { moves: w.moves } })}
                    className="grid size-6 place-items-center rounded-(--radius) text-slate hover:bg-mist"
                  >
                    <Play size={13} aria-hidden />
                  </button>
                )}
                {!w.code && (
                  <button
                    type="button"
                    aria-label={t`Delete: ${w.name}`}
                    onClick={() =>
                      store.getState().change({
                        says: t`delete a worked example`,
                        apply: (d) => void d.marks.examples.splice(i - first, 1),
                      })
                    }
                    className="grid size-6 place-items-center rounded-(--radius) text-slate hover:bg-mist"
                  >
                    <X size={13} aria-hidden />
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
