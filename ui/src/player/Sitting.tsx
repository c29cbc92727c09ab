import { useState } from "react";
import type { Move, Scene, Seated, Standing } from "../api/types";
import { Button } from "../shared/Button";
import { RichText } from "../shared/RichText";
import { useSize } from "../shared/useSize";
import { PlayBoard } from "./PlayBoard";
import type { HostedRelease } from "./remote";
import { useSitting } from "./useSitting";
import { announce, attemptWords, outcomeWords, scoreWords } from "./words";

type Props = { release: HostedRelease; seated: Seated; onAnother: () => void };

/** A hosted sitting: title, tries in words, the board, Check, the score. */
export function Sitting({ release, seated, onAnother }: Props) {
  const { scene } = seated;
  const [said, setSaid] = useState("");
  const { standing, queue, offline, lost, act } = useSitting({
    judge: release,
    first: seated.standing,
    elapsed: seated.elapsed,
    keep: release.keep,
    onAnswer: (move: Move, after: Standing) => setSaid(announce(scene, move, after)),
  });
  const [room, size] = useSize<HTMLDivElement>();

  return (
    <div className="flex min-h-full flex-col lg:h-full">
      <header className="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-line bg-paper px-4 py-2">
        <h1 className="font-sans text-lg font-bold">{scene.title}</h1>
        <span className="text-slate">{seated.learner}</span>
        <span className="ml-auto text-slate">{attemptWords(standing)}</span>
      </header>
      {scene.instructions.length > 0 && (
        <div className="px-4 pt-2 pb-1">
          <RichText nodes={scene.instructions} />
        </div>
      )}
      <div ref={room} className="relative min-h-80 flex-1 px-4 pt-2">
        {size.width > 0 && (
          <PlayBoard
            scene={scene}
            standing={standing}
            queue={queue}
            act={act}
            mediaURL={release.mediaURL}
            room={{ width: size.width - 32, height: size.height - 8 }}
            besideAllowed
          />
        )}
        {/* Over the board, so that nothing moves away from under a finger. */}
        {(offline || lost) && (
          <p
            role="status"
            className="absolute inset-x-4 bottom-2 z-30 rounded-(--radius) border border-ember bg-ember-soft px-4 py-2 shadow-(--shadow-raised)"
          >
            {lost ||
              `No connection. ${queue.length === 1 ? "One move is" : `${queue.length} moves are`} kept here and sent as soon as it is back.`}
          </p>
        )}
      </div>
      <Bar scene={scene} standing={standing} busy={queue.length > 0} act={act} onAnother={onAnother} />
      <div aria-live="polite" className="sr-only">
        {said}
      </div>
    </div>
  );
}

type BarProps = {
  scene: Scene;
  standing: Standing;
  busy: boolean;
  act: (a: { do: "check" | "again" | "undo" | "reset" }) => void;
  onAnother: () => void;
};

function Bar({ scene, standing, busy, act, onAnother }: BarProps) {
  return (
    <footer className="sticky bottom-0 flex flex-wrap items-center gap-3 border-t border-line bg-paper px-4 py-3">
      {standing.phase === "placing" && (
        <>
          {standing.canUndo && (
            <Button disabled={busy} onClick={() => act({ do: "undo" })}>
              Undo
            </Button>
          )}
          {scene.reset && Object.keys(standing.stands).length > standing.held.length && (
            <Button disabled={busy} onClick={() => act({ do: "reset" })}>
              Put all back
            </Button>
          )}
          <Button
            kind="main"
            className="ml-auto h-10 px-6"
            disabled={busy || !standing.canCheck}
            onClick={() => act({ do: "check" })}
          >
            Check
          </Button>
        </>
      )}
      {standing.phase === "paused" && (
        <>
          <Outcome standing={standing} />
          <Button
            kind="main"
            className="ml-auto h-10 px-6"
            disabled={busy}
            autoFocus
            onClick={() => act({ do: "again" })}
          >
            Try again
          </Button>
        </>
      )}
      {standing.phase === "done" && (
        <>
          <Outcome standing={standing} />
          <strong className="text-lg">{scoreWords(scene, standing)}</strong>
          {standing.final?.band && <span className="rounded-(--radius) bg-mist px-2 py-1">{standing.final.band}</span>}
          <Button className="ml-auto" onClick={onAnother}>
            Next learner
          </Button>
        </>
      )}
    </footer>
  );
}

function Outcome({ standing }: { standing: Standing }) {
  const tone = { right: "text-teal", part: "text-brass", wrong: "text-ember" }[standing.shown?.outcome ?? "part"];
  return <span className={`font-medium ${tone}`}>{outcomeWords(standing)}</span>;
}
