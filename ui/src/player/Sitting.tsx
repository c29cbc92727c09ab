import { useEffect, useMemo, useState, type ReactNode } from "react";
import { LayoutGrid, List } from "lucide-react";
import type { Move, Seated, Standing } from "../api/types";
import { Button } from "../kit/Button";
import { plainText } from "../board/RichText";
import type { Bench } from "./judge";
import { PlayRoom } from "./PlayRoom";
import { clockWords, useClock } from "./useClock";
import { useAsList } from "./useAsList";
import { useSitting } from "./useSitting";
import { announce, attemptWords, directionOf, leftWords, wordsFor, WordsProvider } from "../words/words";

type Props = {
  bench: Bench;
  seated: Seated;
  /** Large, for a shared screen. */
  room?: boolean;
  /** What stands beside the title. */
  beside?: ReactNode;
  /** Of a series: what stands above it, and leads on. */
  above?: ReactNode;
  onward?: ReactNode;
  /** What there is to do when it is over. */
  end?: ReactNode;
  onGo?: (to: string) => void;
  /** After each answer of the judge. */
  onAnswer?: (after: Standing) => void;
};

/** A sitting: title, tries in words, the board or the list, Check, the score. */
export function Sitting(p: Props) {
  const { bench, seated, room } = p;
  const { scene } = seated;
  const w = useMemo(() => wordsFor(scene.lang, scene.words), [scene]);
  const [said, setSaid] = useState({ text: "", n: 0 });
  const { standing, queue, offline, lost, caughtUp, act, elapsed } = useSitting({
    judge: bench,
    first: seated.standing,
    elapsed: seated.elapsed,
    keep: bench.keep,
    now: bench.now,
    onAnswer: (move: Move, after: Standing, before: Standing) => {
      const told = after.replies.filter((t) => t.n === after.n && !t.over).map((t) => plainText(t.rich));
      setSaid({ text: [announce(w, scene, move, before, after), ...told].filter(Boolean).join(" "), n: after.n });
      p.onAnswer?.(after);
    },
  });
  const on = standing.phase !== "done";
  const left = useClock(scene.timeLimit, elapsed, on, () => act({ do: "timeUp" }));
  const [asList, setAsList] = useAsList(scene);
  const warning = left !== undefined && on ? leftWords(w, left, scene.timeLimit) : "";
  // The words for a screen reader: what was said last, or how much time is left.
  const [heard, setHeard] = useState({ text: "", n: 0 });
  useEffect(() => setHeard(said), [said]);
  useEffect(() => {
    if (warning) setHeard((was) => ({ ...was, text: warning }));
  }, [warning]);

  return (
    <WordsProvider value={w}>
      <div
        className={`flex min-h-full flex-col lg:h-full ${room ? "text-lg" : ""}`}
        lang={scene.lang}
        dir={directionOf(scene.lang)}
        data-room={room}
      >
        {p.above}
        <header className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line bg-paper px-4 py-2">
          <h1 className={`font-sans font-bold ${room ? "text-2xl" : "text-lg"}`}>{scene.title}</h1>
          <span className="text-slate">{p.beside}</span>
          <span className="ml-auto text-slate">{attemptWords(w, scene, standing)}</span>
          {left !== undefined && on && (
            <span
              className={`tabular-nums ${warning ? "rounded-(--radius) bg-ember-soft px-2 font-bold text-ember" : "text-slate"}`}
            >
              {w("timeLeft", { time: clockWords(left) })}
            </span>
          )}
          <Button kind="quiet" className="px-2" aria-pressed={asList} onClick={() => setAsList(!asList)}>
            {asList ? <LayoutGrid size={16} aria-hidden /> : <List size={16} aria-hidden />}
            {w(asList ? "asBoard" : "asList")}
          </Button>
        </header>
        <main className="flex flex-1 flex-col lg:min-h-0">
          <PlayRoom
            scene={scene}
            standing={standing}
            queue={queue}
            act={act}
            mediaURL={bench.mediaURL}
            beckon={bench.beckon}
            keep={bench.keep && `${bench.keep}-closed`}
            besideAllowed
            readable
            modal
            largest={room ? 2.6 : undefined}
            asList={asList}
            notice={
              // Over the board, so that nothing moves away from under a finger.
              (offline || lost || caughtUp) && (
                <p
                  role="status"
                  className="absolute inset-x-4 bottom-2 z-30 rounded-(--radius) border border-ember bg-ember-soft px-4 py-2 shadow-(--shadow-raised)"
                >
                  {lost || (offline ? w("kept", { n: queue.length }) : w("caughtUp"))}
                </p>
              )
            }
            onGo={p.onGo}
            onward={p.onward}
            end={p.end}
          />
        </main>
        <div aria-live="polite" className="sr-only">
          {/* Redrawn for each move, so that a screen reader says it even when the words are the same. */}
          <span key={heard.n}>{heard.text}</span>
        </div>
      </div>
    </WordsProvider>
  );
}
