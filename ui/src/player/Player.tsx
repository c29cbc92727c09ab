import { lazy, Suspense, useEffect, useMemo, useRef, useState } from "react";
import type { Opening, Problem, Seated } from "../api/types";
import { Button } from "../kit/Button";
import { Said } from "../kit/Said";
import { useKeptFocus } from "../kit/useKeptFocus";
import { tellProgress, tellSize } from "./around";
import { Gate } from "./Gate";
import type { Host, Walk } from "./judge";
import { Refused } from "./remote";
import type { Onward } from "./Result";
import { Sitting } from "./Sitting";
import { refusal } from "../words/refusals";
import { wordsFor } from "../words/words";

/** Most links lead to a single activity. */
const SeriesRun = lazy(() => import("./SeriesRun").then((m) => ({ default: m.SeriesRun })));

const away: Problem = { status: 0, title: "", code: "no-server", detail: wordsFor(navigator.language)("away") };

/** What went wrong, as far as it can be said before the activity's language is known in that of the browser. */
function problemOf(error: unknown): Problem {
  if (!(error instanceof Refused)) return away;
  // Of what nothing is known yet, the browser's language speaks.
  return refusal(wordsFor(navigator.language), navigator.language, error.problem);
}

/** A ticket is used once, however often React runs what uses it. */
const arriving = new WeakMap<Host, ReturnType<NonNullable<Host["arrive"]>>>();

function arrivals(host: Host) {
  if (!host.arrive) return undefined;
  if (!arriving.has(host)) arriving.set(host, host.arrive());
  return arriving.get(host);
}

type Props = {
  /** What is opened, and for a series the way through it. */
  host: Host;
  walk?: Walk;
  /** It is a draft. */
  draft?: boolean;
  /** On a shared screen. */
  room?: boolean;
};

/** What a link opens: the gate, then the sitting, or the series. */
export function Player(p: Props) {
  const root = useRef<HTMLDivElement>(null);
  useKeptFocus(root);
  useEffect(() => tellSize(root.current!.parentElement!), []);
  return (
    <div ref={root} className="contents">
      <Opened {...p} />
    </div>
  );
}

function Opened({ host, walk, draft = false, room = false }: Props) {
  const [opening, setOpening] = useState<Opening | null>(null);
  const [seated, setSeated] = useState<Seated | null>(null);
  const [walking, setWalking] = useState(false);
  const [turn, setTurn] = useState(0);
  const [problem, setProblem] = useState<Problem | null>(null);

  useEffect(() => {
    const open = async () => {
      const begun = await arrivals(host);
      const o = await host.opening();
      setOpening(o);
      setSeated(begun?.sitting ?? o.sitting ?? null);
      setWalking(o.series?.underWay ?? false);
      document.title = o.title;
      document.documentElement.lang = o.lang;
    };
    open().catch((error) => setProblem(problemOf(error)));
  }, [host]);

  const begin = async (who: { learner?: string; code?: string }) => {
    try {
      setProblem(null);
      const { sitting } = await host.begin(who);
      setTurn((n) => n + 1);
      setSeated(sitting ?? null);
      setWalking(!sitting);
    } catch (error) {
      setProblem(problemOf(error));
    }
  };
  const another = async () => {
    try {
      await host.leave();
      setSeated(null);
      setWalking(false);
      // Where no name is kept the next learner begins at once.
      if ((room || draft) && opening && !opening.byCode)
        await begin({ learner: wordsFor(opening.lang, opening.words)("roomLearner") });
    } catch (error) {
      setProblem(problemOf(error));
    }
  };

  const onceMore = async () => {
    try {
      const begun = await host.arrive!(true);
      setTurn((n) => n + 1);
      setSeated(begun?.sitting ?? null);
    } catch (error) {
      setProblem(problemOf(error));
    }
  };

  const bench = useMemo(() => host.bench(0, 0), [host]);
  if (problem && !opening) {
    return (
      <main className="mx-auto max-w-lg p-8">
        <Said problem={problem} />
        <Button className="mt-4" onClick={() => location.reload()}>
          {wordsFor(navigator.language)("again")}
        </Button>
      </main>
    );
  }
  if (!opening) return <main className="p-8 text-slate">{wordsFor(navigator.language)("opening")}</main>;
  const w = wordsFor(opening.lang, opening.words);
  const back = host.back?.();
  const after: Onward | undefined = !host.alone
    ? { says: "nextLearner", go: () => void another() }
    : back
      ? { says: "backToCourse", go: () => location.assign(back) }
      : undefined;
  if (walking && walk)
    return (
      <Suspense>
        <SeriesRun
          key={turn}
          walk={walk}
          title={opening.title}
          lang={opening.lang}
          words={opening.words}
          after={after}
        />
      </Suspense>
    );
  if (seated)
    return (
      <Sitting
        key={turn}
        bench={bench}
        seated={seated}
        room={room}
        beside={draft ? w("tried") : room ? "" : seated.learner}
        onAnswer={tellProgress}
        end={
          <>
            {host.arrive && <Button onClick={onceMore}>{w("beginAgain")}</Button>}
            {after && <Button onClick={after.go}>{w(after.says)}</Button>}
            {host.arrive && problem && <Said problem={refusal(w, opening.lang, problem)} />}
          </>
        }
      />
    );
  return <Gate opening={opening} problem={problem} nameless={draft || room || !!host.alone} onBegin={begin} />;
}
