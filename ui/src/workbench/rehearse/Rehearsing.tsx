import { useEffect } from "react";
import { Button } from "../../shared/Button";
import { attemptWords, outcomeWords, scoreWords } from "../../player/words";
import { useSitting } from "../../player/useSitting";
import type { Judge } from "../../player/judge";
import type { Rehearsed } from "../../engine/engine";
import { LiveBoard } from "./LiveBoard";
import type { Rehearsal } from "./rehearsal";

/** The same board, live. Rehearsing is told by the frame of the board and a word. */
export function Rehearsing({ rehearsal }: { rehearsal: Rehearsal }) {
  const { opening, judge, learner, problem, next, stop } = rehearsal;
  useEffect(() => {
    // Escape leaves; with a piece in hand the board takes it first.
    const leave = (e: KeyboardEvent) => {
      if (e.key === "Escape" && !document.querySelector('[data-piece][aria-pressed="true"]')) stop();
    };
    window.addEventListener("keydown", leave);
    return () => window.removeEventListener("keydown", leave);
  }, [stop]);
  return (
    <div className="flex min-h-0 flex-1 flex-col rounded-(--radius) border-2 border-feather bg-paper">
      <div className="flex items-center gap-3 rounded-t-[3px] bg-feather px-3 py-1 text-on-feather">
        <span className="font-semibold">Rehearsing</span>
        <button type="button" onClick={next} className="ml-auto underline underline-offset-4">
          Next learner
        </button>
        <button type="button" onClick={stop} className="underline underline-offset-4">
          Back to editing
        </button>
      </div>
      {problem && <p className="p-4 text-ember">{problem}</p>}
      {opening && judge && <Live key={learner} judge={judge} opening={opening} />}
    </div>
  );
}

function Live({ judge, opening }: { judge: Judge; opening: Rehearsed }) {
  const { standing, queue, lost, act } = useSitting({ judge, first: opening.standing, elapsed: 0 });
  return (
    <>
      <LiveBoard scene={opening.scene} standing={standing} queue={queue} act={act} />
      <div className="flex min-h-12 flex-wrap items-center gap-3 border-t border-line px-3 py-2">
        <span className="text-slate">{attemptWords(standing)}</span>
        {lost && <span className="text-ember">{lost}</span>}
        {standing.phase !== "placing" && <span className="font-medium">{outcomeWords(standing)}</span>}
        {standing.phase === "done" && <strong>{scoreWords(opening.scene, standing)}</strong>}
        <span className="ml-auto flex gap-2">
          {standing.phase === "placing" && (
            <>
              <Button disabled={!standing.canUndo} onClick={() => act({ do: "undo" })}>
                Undo
              </Button>
              <Button kind="main" disabled={!standing.canCheck} onClick={() => act({ do: "check" })}>
                Check
              </Button>
            </>
          )}
          {standing.phase === "paused" && (
            <Button kind="main" onClick={() => act({ do: "again" })}>
              Try again
            </Button>
          )}
        </span>
      </div>
    </>
  );
}
