import { Printer } from "lucide-react";
import type { Now, StepNow } from "../api/types";
import { Button } from "../kit/Button";
import { ToneMark } from "../board/ToneMark";
import { useWords, type Words } from "../words/words";

/** Where it goes on at the end of all: with whoever comes next, or back to where the learner came from. */
export type Onward = { says: "nextLearner" | "backToCourse"; go: () => void };

type Props = {
  title: string;
  learner: string;
  now: Now;
  busy: boolean;
  onLook: (step: number) => void;
  onAgain: () => void;
  after?: Onward;
};

const tones: Record<string, "right" | "near" | "wrong"> = { right: "right", part: "near", wrong: "wrong" };

function outcome(w: Words, s: StepNow): string {
  if (!s.begun) return w("notBegun");
  if (s.phase !== "done") return w("underWay");
  if (s.band) return s.band;
  return s.outcome
    ? w(s.outcome === "right" ? "outcomeRight" : s.outcome === "part" ? "outcomePart" : "outcomeWrong")
    : w("finished");
}

/** What a series has come to: each step's score, the total, and what can be done once more. It can be printed. */
export function Result({ title, learner, now, busy, onLook, onAgain, after }: Props) {
  const w = useWords();
  const { total } = now;
  const cell = "border-b border-line py-2 pr-4 text-left align-middle";
  const figure = "border-b border-line py-2 text-right align-middle tabular-nums";
  const own = now.steps.flatMap((s, i) => (s.page ? [] : [{ ...s, i }]));
  return (
    <main className="flex-1 overflow-auto px-4 py-6 print:p-0">
      <article className="mx-auto max-w-2xl rounded-(--radius) border border-line bg-paper p-6 shadow-(--shadow-card) print:border-0 print:shadow-none">
        <h1 className="text-2xl">{w("result")}</h1>
        <p className="mb-4 text-slate">
          {title} · {learner} · {new Date().toLocaleDateString(document.documentElement.lang, { dateStyle: "long" })}
        </p>
        {total && (
          <p className="mb-4 flex flex-wrap items-baseline gap-x-4 gap-y-1">
            <strong className="text-3xl tabular-nums">{w("percent", { n: Number(total.percent) })}</strong>
            <span className="text-slate">{w("of", { score: Number(total.score), points: total.points })}</span>
            {total.band && <span className="rounded-(--radius) bg-mist px-2 py-1 font-medium">{total.band}</span>}
            {total.passMark && (
              <span className={`font-medium ${total.passed ? "text-teal" : "text-ember"}`}>
                {w(total.passed ? "passed" : "notPassed", { mark: total.passMark })}
              </span>
            )}
          </p>
        )}
        <table className="w-full">
          <tbody>
            {own.map((s) => (
              <tr key={s.i}>
                <th scope="row" className={`${cell} font-medium`}>
                  {s.open && s.begun ? (
                    <button
                      type="button"
                      disabled={busy}
                      onClick={() => onLook(s.i)}
                      className="min-h-6 text-left text-feather underline underline-offset-4 print:text-ink print:no-underline"
                    >
                      {s.title}
                    </button>
                  ) : (
                    s.title
                  )}
                </th>
                <td className={cell}>
                  <span className="inline-flex items-center gap-1.5">
                    {s.phase === "done" && s.outcome && <ToneMark tone={tones[s.outcome]!} />}
                    {outcome(w, s)}
                  </span>
                </td>
                <td className={figure}>
                  {s.counts ? w("of", { score: Math.round(100 * s.score) / 100, points: s.points }) : w("practice")}
                </td>
              </tr>
            ))}
            {total && (
              <tr className="font-bold">
                <th scope="row" className={`${cell} border-0`}>
                  {w("total")}
                </th>
                <td className={`${cell} border-0`}>{total.band}</td>
                <td className={`${figure} border-0`}>
                  {w("of", { score: Number(total.score), points: total.points })}
                </td>
              </tr>
            )}
          </tbody>
        </table>
        <div className="mt-6 flex flex-wrap gap-2 print:hidden">
          <Button onClick={() => print()}>
            <Printer size={16} aria-hidden /> {w("print")}
          </Button>
          {now.again && (
            <Button kind="main" disabled={busy} onClick={onAgain}>
              {w(now.again === "all" ? "againAll" : "againWrong")}
            </Button>
          )}
          {after && (
            <Button className="ml-auto" onClick={after.go}>
              {w(after.says)}
            </Button>
          )}
        </div>
      </article>
    </main>
  );
}
