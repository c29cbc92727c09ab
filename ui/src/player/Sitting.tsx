import { useMemo, useState } from "react";
import type { Move, Seated, Standing } from "../api/types";
import { Button } from "../shared/Button";
import { plainText, RichText } from "../shared/RichText";
import { PlayRoom } from "./PlayRoom";
import type { HostedRelease } from "./remote";
import { clockWords, useClock } from "./useClock";
import { useSitting } from "./useSitting";
import { announce, attemptWords, wordsFor, WordsProvider } from "./words";

type Props = { release: HostedRelease; seated: Seated; onAnother: () => void };

/** A hosted sitting: title, tries in words, the board, Check, the score. */
export function Sitting({ release, seated, onAnother }: Props) {
  const { scene } = seated;
  const w = useMemo(() => wordsFor(scene.lang, scene.words), [scene]);
  const [said, setSaid] = useState("");
  const { standing, queue, offline, lost, act, elapsed } = useSitting({
    judge: release,
    first: seated.standing,
    elapsed: seated.elapsed,
    keep: release.keep,
    onAnswer: (move: Move, after: Standing) => {
      const told = after.replies.filter((t) => t.n === after.n && !t.over).map((t) => plainText(t.rich));
      setSaid([announce(w, scene, move, after), ...told].filter(Boolean).join(" "));
    },
  });
  const left = useClock(scene.timeLimit, elapsed, standing.phase !== "done", () => act({ do: "timeUp" }));

  return (
    <WordsProvider value={w}>
      <div className="flex min-h-full flex-col lg:h-full" lang={scene.lang}>
        <header className="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-line bg-paper px-4 py-2">
          <h1 className="font-sans text-lg font-bold">{scene.title}</h1>
          <span className="text-slate">{seated.learner}</span>
          <span className="ml-auto text-slate">{attemptWords(w, scene, standing)}</span>
          {left !== undefined && standing.phase !== "done" && (
            <span className={`tabular-nums ${left < 30000 ? "font-bold text-ember" : "text-slate"}`}>
              {w("timeLeft", { time: clockWords(left) })}
            </span>
          )}
        </header>
        {scene.instructions.length > 0 && (
          <div className="px-4 pt-2 pb-1">
            <RichText nodes={scene.instructions} />
          </div>
        )}
        <PlayRoom
          scene={scene}
          standing={standing}
          queue={queue}
          act={act}
          mediaURL={release.mediaURL}
          beckon={release.beckon}
          keep={`${release.keep}-closed`}
          besideAllowed
          notice={
            // Over the board, so that nothing moves away from under a finger.
            (offline || lost) && (
              <p
                role="status"
                className="absolute inset-x-4 bottom-2 z-30 rounded-(--radius) border border-ember bg-ember-soft px-4 py-2 shadow-(--shadow-raised)"
              >
                {lost || w("kept", { n: queue.length })}
              </p>
            )
          }
          end={<Button onClick={onAnother}>{w("nextLearner")}</Button>}
        />
        <div aria-live="polite" className="sr-only">
          {said}
        </div>
      </div>
    </WordsProvider>
  );
}
