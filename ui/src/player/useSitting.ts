import { useCallback, useEffect, useRef, useState } from "react";
import type { Act, Move, Standing } from "../api/types";
import { keep, kept } from "../kit/kept";
import { Unreachable, type Judge } from "./judge";

type Options = {
  judge: Judge;
  first: Standing;
  elapsed: number;
  /** Where moves that are not yet answered are kept, so that a reload loses none. */
  keep?: string;
  /** How it stands now, where another window may have gone on with it. */
  now?: () => Promise<Standing | undefined>;
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
export function useSitting({ judge, first, elapsed, keep: under, now, onAnswer }: Options) {
  const [standing, setStanding] = useState(first);
  const [queue, setQueue] = useState<Move[]>(() => unsent(under, first.n));
  const [offline, setOffline] = useState(false);
  const [lost, setLost] = useState("");
  // Another window has gone on with it, and this one has caught up.
  const [caughtUp, setCaughtUp] = useState(false);
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
          tell.current?.postMessage(answer.n);
          setCaughtUp(answer.n !== head.n);
          if (answer.n !== head.n) {
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

  // Of several windows each hears from the others when one has gone on, and looks again
  // when it is turned to.
  const tell = useRef<BroadcastChannel>(undefined);
  useEffect(() => {
    if (!under || !now) return;
    const look = async () => {
      const stands = await now().catch(() => undefined);
      if (!stands || stands.n <= last.current.n || count.current > last.current.n) return;
      last.current = stands;
      count.current = stands.n;
      lastT.current = Math.max(lastT.current, stands.t);
      setStanding(stands);
      setCaughtUp(true);
    };
    const channel = new BroadcastChannel(under);
    tell.current = channel;
    channel.onmessage = (e: MessageEvent<number>) => e.data > last.current.n && void look();
    const turnedTo = () => document.visibilityState === "visible" && void look();
    document.addEventListener("visibilitychange", turnedTo);
    return () => {
      channel.close();
      document.removeEventListener("visibilitychange", turnedTo);
    };
  }, [under, now]);

  const act = useCallback((what: Act) => {
    lastT.current = Math.max(lastT.current, Math.round(performance.now() - began.current));
    const move: Move = { ...what, n: ++count.current, t: lastT.current };
    setQueue((q) => [...q, move]);
  }, []);

  const passed = useCallback(() => Math.round(performance.now() - began.current), []);
  return { standing, queue, offline, lost, caughtUp, act, elapsed: passed };
}
