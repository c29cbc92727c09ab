import { useCallback, useEffect, useMemo, useState } from "react";
import { t } from "@lingui/core/macro";
import type { Doc } from "../../api/types";
import { engine, type Rehearsed } from "../../engine/engine";
import { useSitting } from "../../player/useSitting";
import { Button } from "../../kit/Button";
import { itemOfPiece } from "../../document/parts";
import { useDraft, useDraftStore } from "../model/draft";
import { solutionName } from "../model/key";
import { LiveBoard } from "./LiveBoard";
import { LocalJudge } from "../../player/local";
import { Counting } from "./Counting";
import { movesTo, nothingShown, shownIn, type Shown } from "./demonstration";
import { LooseOffer } from "./LooseOffer";

/** The board on which pieces are put where they belong, to say that this is right. */
export function Demonstrating() {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  const solution = useDraft((s) => Math.min(s.solution, s.doc.key.solutions.length - 1));
  // The draft and the arrangement that the board began with: making targets begins it anew.
  const [began, setBegan] = useState<{ doc: Doc; with: Shown }>(() => {
    const { shownFirst } = store.getState();
    return { doc, with: shownFirst ? { targets: shownFirst, loose: [] } : nothingShown };
  });
  useEffect(() => store.setState({ shownFirst: undefined }), [store]);
  const [opening, setOpening] = useState<Rehearsed>();
  const [problem, setProblem] = useState("");
  const stop = useCallback(() => store.setState({ demonstrating: false }), [store]);

  const judge = useMemo(() => new LocalJudge(began.doc, 1, () => {}, movesTo(began.with), true), [began]);
  useEffect(() => {
    let live = true;
    setOpening(undefined);
    engine.rehearse(began.doc, 1, movesTo(began.with), true).then(
      (r) => live && setOpening(r),
      (error: unknown) => live && setProblem(error instanceof Error ? error.message : String(error)),
    );
    return () => {
      live = false;
    };
  }, [began]);

  useEffect(() => {
    const leave = (e: KeyboardEvent) => {
      if (e.key === "Escape" && !document.querySelector('[data-piece][aria-pressed="true"], [role="dialog"]')) stop();
    };
    window.addEventListener("keydown", leave);
    return () => window.removeEventListener("keydown", leave);
  }, [stop]);

  return (
    <div className="flex min-h-0 flex-1 flex-col rounded-(--radius) border-2 border-teal bg-paper" data-demonstrating>
      <div className="flex items-center gap-3 rounded-t-[3px] bg-teal px-3 py-1 text-paper">
        <span className="font-semibold">{t`Setting the answer key`}</span>
        <span className="truncate">{solutionName(doc.key.solutions, solution)}</span>
        <button type="button" onClick={stop} className="ml-auto underline underline-offset-4">
          {t`Done`}
        </button>
      </div>
      {problem && <p className="p-4 text-ember">{problem}</p>}
      {opening && (
        <Live
          key={began.doc.id + JSON.stringify(began.with)}
          judge={judge}
          opening={opening}
          solution={solution}
          onBegin={(shown) => setBegan({ doc: store.getState().doc, with: shown })}
        />
      )}
    </div>
  );
}

type LiveProps = { judge: LocalJudge; opening: Rehearsed; solution: number; onBegin: (shown: Shown) => void };

function Live({ judge, opening, solution, onBegin }: LiveProps) {
  const store = useDraftStore();
  const { standing, queue, lost, act } = useSitting({ judge, first: opening.standing, elapsed: 0 });
  const shown = useMemo(() => shownIn(standing), [standing]);
  const some = Object.values(shown.targets).some((list) => list.length > 0);

  /** Targets where pieces lie on the bare board; the pieces are in them then. */
  const makeTargets = async (shows: "always" | "never") => {
    const loose = shown.loose;
    const made = await store.getState().edit(loose.length === 1 ? t`make a target here` : t`make targets here`, {
      act: "targetsHere",
      solution,
      to: shows,
      spots: loose.map(({ piece, frame }) => ({ item: itemOfPiece(piece), frame })),
    });
    if (!made) return; // the pieces stay where they lie; the ledger says why
    const targets = { ...shown.targets };
    made.targets.forEach((id, i) => (targets[id] = [loose[i]!.piece]));
    onBegin({ targets, loose: [] });
  };
  /** What is right already, on the board. */
  const begin = async () => {
    const { doc } = store.getState();
    const only: Doc = { ...doc, key: { ...doc.key, solutions: [doc.key.solutions[solution]!] } };
    const { ways } = await engine.ways(only, 0, 1);
    if (ways[0]) onBegin({ targets: ways[0].targets, loose: [] });
  };
  return (
    <>
      <LiveBoard scene={opening.scene} standing={standing} queue={queue} act={act} />
      {shown.loose.length > 0 && queue.length === 0 && (
        <LooseOffer pieces={shown.loose.map((l) => l.piece)} onMake={(shows) => void makeTargets(shows)} />
      )}
      <div className="flex min-h-12 flex-wrap items-center gap-2 border-t border-line px-3 py-2">
        {lost && <span className="text-ember">{lost}</span>}
        <Button disabled={!standing.canUndo} onClick={() => act({ do: "undo" })}>
          {t`Undo`}
        </Button>
        <Button disabled={!some && shown.loose.length === 0} onClick={() => act({ do: "reset" })}>
          {t`Reset pieces`}
        </Button>
        {!some && <Button onClick={() => void begin()}>{t`Start from the current answer key`}</Button>}
        <span className="ml-auto" />
        <Counting key={JSON.stringify(shown.targets)} shown={shown.targets} some={some} solution={solution} />
      </div>
    </>
  );
}
