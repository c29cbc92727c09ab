import { useCallback, useEffect, useMemo, useState, type ReactNode } from "react";
import { Check } from "lucide-react";
import type { Going, Now, Problem, Standing, View } from "../api/types";
import { Button } from "../kit/Button";
import { Said } from "../kit/Said";
import { tip } from "../kit/tip";
import type { Walk } from "./judge";
import { tellSeries } from "./around";
import { PageView } from "./PageView";
import { Refused } from "./remote";
import { Result, type Onward } from "./Result";
import { Sitting } from "./Sitting";
import { clockWords, useClock } from "./useClock";
import { refusal } from "../words/refusals";
import { useWords, directionOf, wordsFor, WordsProvider } from "../words/words";

type Props = {
  walk: Walk;
  title: string;
  lang: string;
  words?: Record<string, string>;
  after?: Onward;
  /** Where it begins; absent: where the learner is. */
  from?: number;
  /** What stands first above it. */
  lead?: ReactNode;
};

/** A series: its steps in running order, what leads on, and the result. */
export function SeriesRun({ walk, title, lang, words, after, from, lead }: Props) {
  const w = useMemo(() => wordsFor(lang, words), [lang, words]);
  const [view, setView] = useState<View>();
  const [now, setNow] = useState<Now>();
  const [problem, setProblem] = useState<Problem>();
  const [busy, setBusy] = useState(false);
  const [began, setBegan] = useState(0);

  const failed = useCallback(
    (error: unknown) =>
      setProblem(
        error instanceof Refused
          ? refusal(w, lang, error.problem)
          : {
              status: 0,
              title: "",
              code: "no-server",
              detail: error instanceof Error && !navigator.onLine ? w("away") : String(error),
            },
      ),
    [w, lang],
  );
  useEffect(() => {
    if (now) tellSeries(now);
  }, [now]);
  const go = useCallback(
    async (to: Going) => {
      setBusy(true);
      try {
        const there = await walk.go(to);
        setProblem(undefined);
        setView(there);
        setNow(there.now);
        setBegan(performance.now() - there.elapsed);
        scrollTo(0, 0);
      } catch (error) {
        failed(error);
      } finally {
        setBusy(false);
      }
    },
    [walk, failed],
  );
  useEffect(() => void go(from === undefined ? {} : { to: from }), [go, from]);

  // What has come of the sitting decides where the learner may go.
  const answered = useCallback(
    (after: Standing) => {
      if (after.phase === "placing" && after.result !== "restarted") return;
      walk.now().then(setNow, failed);
    },
    [walk, failed],
  );
  const left = useClock(
    view?.timeLimit ?? 0,
    () => performance.now() - began,
    !!view && !!now && now.at < now.steps.length,
    () => void go({}),
  );
  const step = view?.now.at ?? 0;
  const turn = view?.sitting?.turn ?? 0;
  const bench = useMemo(() => walk.bench(step, turn), [walk, step, turn]);

  if (!view || !now)
    return <main className="p-8 text-slate">{problem ? <Said problem={problem} /> : w("opening")}</main>;
  const end = now.steps.length;
  const at = now.at;
  const page = view.page;
  const back = page?.aside ? () => void go({ to: at }) : now.back >= 0 ? () => void go({ to: now.back }) : undefined;
  const offered = (what: string) => {
    if (what === "next" && now.next >= 0) void go({ to: now.next });
    if (what === "back" && at > 0) void go({ to: at - 1 });
    if (what.startsWith("page:")) void go({ page: what.slice(5) });
  };
  const onward = (
    <>
      {back && (
        <Button disabled={busy} onClick={back}>
          {w("back")}
        </Button>
      )}
      {now.retry && (
        <Button disabled={busy} onClick={() => void go({ retry: true })}>
          {w("beginAnew")}
        </Button>
      )}
      {now.next >= 0 && (
        <Button kind="main" className="h-10 px-6" disabled={busy} onClick={() => void go({ to: now.next })}>
          {w(now.next === end ? "toResult" : "next")}
        </Button>
      )}
    </>
  );
  const above = (
    <Steps title={title} lead={lead} now={now} busy={busy} onGo={(to) => void go({ to })}>
      {left !== undefined && at < end && (
        <span className={`tabular-nums ${left < 60000 ? "font-bold text-ember" : "text-slate"}`}>
          {w("timeLeft", { time: clockWords(left) })}
        </span>
      )}
    </Steps>
  );
  return (
    <WordsProvider value={w}>
      <div className="flex min-h-full flex-col lg:h-full" lang={lang} dir={directionOf(lang)}>
        {problem && <Said problem={problem} />}
        {view.sitting && !page ? (
          <Sitting
            key={`${at}.${turn}.${view.elapsed}`}
            bench={bench}
            seated={view.sitting}
            above={above}
            onward={onward}
            onGo={offered}
            onAnswer={answered}
          />
        ) : (
          <>
            {above}
            {page ? (
              <PageView page={page} mediaURL={walk.mediaURL}>
                {page.aside ? (
                  <Button kind="main" className="h-10 px-6" disabled={busy} onClick={back}>
                    {w("backToStep", { title: now.steps[at]?.title ?? "" })}
                  </Button>
                ) : (
                  <>
                    <span />
                    <span className="flex gap-2">{onward}</span>
                  </>
                )}
              </PageView>
            ) : (
              <Result
                title={title}
                learner={view.learner}
                now={now}
                busy={busy}
                onLook={(to) => void go({ to })}
                onAgain={() => void go({ again: true })}
                after={after}
              />
            )}
          </>
        )}
      </div>
    </WordsProvider>
  );
}

type StepsProps = {
  title: string;
  lead?: ReactNode;
  now: Now;
  busy: boolean;
  onGo: (to: number) => void;
  children: ReactNode;
};

/** The running order above each step: where the learner is, and what can be gone to. */
function Steps({ title, lead, now, busy, onGo, children }: StepsProps) {
  const w = useWords();
  const end = now.steps.length;
  return (
    <nav
      aria-label={w("steps")}
      className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line bg-shade px-4 py-1.5 print:hidden"
    >
      {lead}
      <span className="font-semibold">{title}</span>
      <ol className="flex flex-wrap gap-1">
        {now.steps.map((s, i) => {
          const done = s.phase === "done" || (s.page && i < now.reached);
          const name = w("stepCalled", { n: i + 1, title: s.title });
          return (
            <li key={i}>
              <button
                type="button"
                disabled={busy || !s.open || i === now.at}
                aria-current={i === now.at ? "step" : undefined}
                aria-label={done ? w("stepDone", { step: name }) : name}
                {...tip(s.title)}
                onClick={() => onGo(i)}
                className={`grid size-6 place-items-center text-[13px] tabular-nums ${s.page ? "rounded-sm" : "rounded-[50%]"} border ${
                  i === now.at
                    ? "border-feather bg-feather font-bold text-on-feather"
                    : done
                      ? "border-edge bg-paper text-ink"
                      : "border-line bg-mist text-slate"
                }`}
              >
                {done && i !== now.at ? <Check size={13} aria-hidden /> : i + 1}
              </button>
            </li>
          );
        })}
      </ol>
      <span className="text-slate">{now.at < end ? w("step", { n: now.at + 1, total: end }) : w("result")}</span>
      <span className="ml-auto">{children}</span>
    </nav>
  );
}
