import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { t } from "@lingui/core/macro";
import type { Doc, Move } from "../../api/types";
import { engine, EngineError, type Rehearsed } from "../../engine/engine";
import type { Judge } from "../../player/judge";
import { LocalJudge } from "../../player/local";
import { useDraft, useDraftStore } from "../model/draft";

/** A learner who rehearses: by which seed, and what was done before the board was last set up. */
type Learner = { number: number; seed: number; moves: Move[]; setting: boolean; said: string };
/** A board set up for a learner, to be played on from there. */
export type Setup = { seed: number; turn: number; judge: Judge; opening: Rehearsed; elapsed: number };

export type SelfPlay = "right" | "oneWrong" | "wrong" | "random";

export type Rehearsal = {
  on: boolean;
  problem: string;
  seed: number;
  /** The next learner has the same seed. */
  fixed: boolean;
  setFixed(on: boolean): void;
  /** A situation is being set up, for a reply. */
  setting: boolean;
  setup?: Setup;
  /** All that was done, and what it came to. */
  now?: Rehearsed;
  moves: Move[];
  start(): void;
  next(): void;
  stop(): void;
  /** Goes back to after a move, by its place in the list; -1 is before the first. */
  back(to: number): void;
  selfPlay(how: SelfPlay): void;
  /** Begins with these moves. */
  play(moves: Move[], setting?: boolean): void;
};

const reason = (error: unknown) =>
  (error instanceof EngineError && error.failure.faults?.[0]?.message) ||
  (error instanceof Error ? error.message : String(error));

const numbered = (moves: Move[]) => moves.map((m, i) => ({ ...m, n: i + 1 }));

/** Plays the draft in place. When the draft changes, the same moves are judged again under what it has become. */
export function useRehearsal(): Rehearsal {
  const store = useDraftStore();
  const [learner, setLearner] = useState<Learner | null>(null);
  const doc = useDraft((s) => (learner ? s.doc : undefined));
  const [seed, setSeed] = useState(1);
  const [fixed, setFixed] = useState(false);
  const [setup, setSetup] = useState<Setup>();
  const [now, setNow] = useState<Rehearsed>();
  const [problem, setProblem] = useState("");
  const [done, setDone] = useState<Move[]>([]);
  const turn = useRef(0);
  const doneNow = useRef<Move[]>([]);
  const begun = useRef<{ doc: Doc; learner: Learner }>(undefined);
  /** Counts what was begun or given up: of what is worked out first, only the latest begins. */
  const asked = useRef(0);

  const begin = useCallback((moves: Move[], seed: number, setting = false, said = "") => {
    asked.current++;
    setSeed(seed);
    setLearner({ number: ++turn.current, seed, moves: numbered(moves), setting, said });
  }, []);

  useEffect(() => {
    if (!learner || !doc) {
      begun.current = undefined;
      return;
    }
    // What was done since is judged again with the rest where only the draft has changed; what the
    // learner before has done is nobody's any more, also where the draft changes before this one's board is there.
    if (begun.current?.learner !== learner) doneNow.current = learner.moves;
    const moves = doneNow.current;
    begun.current = { doc, learner };
    let live = true;
    // A sitting that is over from the start is looked at as one that is come back to.
    engine.rehearse(doc, learner.seed, moves, false, true).then(
      (opening) => {
        if (!live) return;
        const judged = (r: Rehearsed, all: Move[]) => {
          if (!live) return; // its board has been replaced since
          doneNow.current = all;
          setDone(all);
          setNow(r);
        };
        judged(opening, moves);
        setProblem(learner.said);
        setSetup({
          seed: learner.seed,
          turn: ++turn.current,
          opening,
          elapsed: moves.at(-1)?.t ?? 0,
          judge: new LocalJudge(doc, learner.seed, judged, moves),
        });
      },
      (error: unknown) => live && setProblem(reason(error)),
    );
    return () => {
      live = false;
    };
  }, [doc, learner]);

  const stop = useCallback(() => {
    asked.current++;
    setLearner(null);
    setSetup(undefined);
    setNow(undefined);
    setProblem("");
  }, []);
  const start = useCallback(() => begin([], seed), [begin, seed]);
  return useMemo(
    () => ({
      on: learner !== null,
      problem,
      seed,
      fixed,
      setFixed,
      setting: learner?.setting ?? false,
      setup,
      now,
      moves: done,
      start,
      next: () => begin([], fixed ? seed : seed + 1),
      stop,
      back: (to) => begin(doneNow.current.slice(0, to + 1), seed, learner?.setting),
      selfPlay: (how) => {
        const own = how === "random" && !fixed ? seed + 1 : seed;
        const turn = ++asked.current;
        const latest = (moves: Move[], said = "") => turn === asked.current && begin(moves, own, false, said);
        engine
          .selfPlay(store.getState().doc, how, own)
          .then(latest, (error: unknown) => latest([], t`Can’t play this: ${reason(error)}.`));
      },
      play: (moves, setting) => begin(moves, seed, setting),
    }),
    [learner, problem, seed, fixed, setup, now, done, begin, start, stop, store],
  );
}
