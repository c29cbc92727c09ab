import { useCallback, useEffect, useRef, useState } from "react";
import type { Act, Move, Standing } from "../api/types";
import { keep, kept } from "../shared/kept";
import { Unreachable, type Judge } from "./judge";

type Options = {
  judge: Judge;
  first: Standing;
  elapsed: number;
  /** Where moves that are not yet answered are kept, so that a reload loses none. */
  keep?: string;
  onAnswer?: (move: Move, after: Standing, before: Standing) => void;
};

function unsent(under: string | undefined, after: number): Move[] {
  const moves = ((under && kept<Move[]>(under)) || []).filter((m) => m.n > after);
  return moves[0]?.n === after + 1 ? moves : [];
}

/**
 * A sitting under way: moves are numbered, sent one after the other in order, and
 * sent again until they are answered. Nothing waits for an answer but the next
 * move's sending.
 */
export function useSitting({ judge, first, elapsed, keep: under, onAnswer }: Options) {
  const [standing, setStanding] = useState(first);
  const [queue, setQueue] = useState<Move[]>(() => unsent(under, first.n));
  const [offline, setOffline] = useState(false);
  const [lost, setLost] = useState("");
  const began = useRef(performance.now() - elapsed);
  const lastT = useRef(Math.max(first.t, queue.at(-1)?.t ?? 0));
  const count = useRef(first.n + queue.length);
  const last = useRef(first);
  const answered = useRef(onAnswer);
  useEffect(() => {
    answered.current = onAnswer;
  });

  useEffect(() => {
    if (under) keep(under, queue.length > 0 ? queue : undefined);
  }, [under, queue]);

  const head = queue[0];
  useEffect(() => {
    if (!head) return;
    let live = true;
    let wait = 400;
    const send = async () => {
      while (live) {
        try {
          const answer = await judge.act(head);
          if (!live) return;
          setOffline(false);
          setLost("");
          setStanding(answer);
          answered.current?.(head, answer, last.current);
          last.current = answer;
          if (answer.n < head.n) {
            // Another window has moved this sitting on: what stands there counts.
            count.current = answer.n;
            setQueue([]);
          } else {
            setQueue((q) => q.filter((m) => m.n !== head.n));
          }
          return;
        } catch (error) {
          if (!live) return;
          if (!(error instanceof Unreachable)) {
            // It will never be taken: what stands there counts, and the reason is said.
            count.current = last.current.n;
            setQueue([]);
            setLost(error instanceof Error ? error.message : String(error));
            return;
          }
          setOffline(true);
          await new Promise((r) => setTimeout(r, Math.max(wait, error.after * 1000)));
          wait = Math.min(wait * 2, 5000);
        }
      }
    };
    void send();
    return () => {
      live = false;
    };
  }, [head, judge]);

  const act = useCallback((what: Act) => {
    lastT.current = Math.max(lastT.current, Math.round(performance.now() - began.current));
    const move: Move = { ...what, n: ++count.current, t: lastT.current };
    setQueue((q) => [...q, move]);
  }, []);

  const passed = useCallback(() => Math.round(performance.now() - began.current), []);
  return { standing, queue, offline, lost, act, elapsed: passed };
}
