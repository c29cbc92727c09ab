import { useCallback, useEffect, useMemo, useState } from "react";
import type { Doc, Move, Standing } from "../../api/types";
import { engine, type Rehearsed } from "../../engine/engine";
import type { Judge } from "../../player/judge";

/** Judges a rehearsal in the browser: the core, in its worker. */
export class LocalJudge implements Judge {
  constructor(
    private readonly doc: Doc,
    private readonly seed: number,
    private readonly onJudged: (r: Rehearsed) => void,
    /** What was done before. */
    private moves: Move[] = [],
    private readonly demonstrate = false,
  ) {}

  async act(move: Move): Promise<Standing> {
    const moves = [...this.moves, move];
    const rehearsed = await engine.rehearse(this.doc, this.seed, moves, this.demonstrate);
    this.moves = moves;
    this.onJudged(rehearsed);
    return rehearsed.standing;
  }
}

export type Rehearsal = {
  on: boolean;
  problem: string;
  /** The same number while one learner plays. */
  learner: number;
  judge?: Judge;
  /** Before the first move. */
  opening?: Rehearsed;
  now?: Rehearsed;
  start(): void;
  next(): void;
  stop(): void;
};

/** Plays the draft as it stands when the learner starts; a later change of it starts over with *next learner*. */
export function useRehearsal(doc: Doc): Rehearsal {
  const [learner, setLearner] = useState(0);
  const [played, setPlayed] = useState<Doc | null>(null);
  const [opening, setOpening] = useState<Rehearsed>();
  const [now, setNow] = useState<Rehearsed>();
  const [problem, setProblem] = useState("");

  const begin = useCallback(() => {
    setOpening(undefined);
    setNow(undefined);
    setProblem("");
    setPlayed(doc);
    setLearner((n) => n + 1);
  }, [doc]);

  useEffect(() => {
    if (!played) return;
    let live = true;
    engine.rehearse(played, learner, []).then(
      (r) => live && setOpening(r),
      (error: unknown) => live && setProblem(error instanceof Error ? error.message : String(error)),
    );
    return () => {
      live = false;
    };
  }, [played, learner]);

  const judge = useMemo(() => (played ? new LocalJudge(played, learner, setNow) : undefined), [played, learner]);
  return {
    on: played !== null,
    problem,
    learner,
    judge,
    opening,
    now: now ?? opening,
    start: begin,
    next: begin,
    stop: () => setPlayed(null),
  };
}
