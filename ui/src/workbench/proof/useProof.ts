import { replaceEqualDeep } from "@tanstack/react-query";
import { useCallback, useEffect, useState } from "react";
import type { Doc } from "../../api/types";
import {
  prover,
  Stopped,
  type Chance,
  type Counted,
  type Covers,
  type Finding,
  type Solved,
} from "../../engine/engine";

/** What is known; figures of an earlier draft stand until the new ones are there. */
export type Proof = {
  solved?: Solved;
  count?: Counted;
  chance?: Chance;
  replies?: Finding[];
  covers?: Covers;
  /** What is being worked out, and was not for this draft yet. */
  stale: ReadonlySet<Part>;
  /** It has taken a while. */
  slow: boolean;
  /** What was left because it took too long. */
  left: ReadonlySet<Part>;
  leave: () => void;
};

const parts = ["solved", "count", "chance", "replies"] as const;
export type Part = (typeof parts)[number];
const none: ReadonlySet<Part> = new Set();

const settle = 150; // ms without a change before anything is worked out
const long = 700; // ms after which it says that it is still counting

/** Proves the draft in a worker of its own, part by part; a change ends what is under way. */
export function useProof(doc: Doc, sound: boolean): Proof {
  const [known, setKnown] = useState<Omit<Proof, "leave">>({ stale: none, slow: false, left: none });
  useEffect(() => {
    if (!sound) return;
    let live = true;
    setKnown((k) => ({ ...k, stale: new Set(parts), left: none, slow: false }));
    let clock: ReturnType<typeof setTimeout> | undefined;
    const answer = (part: Part, found: Partial<Proof>) =>
      setKnown((k) => {
        const { stale, left, slow, ...before } = k;
        const now = replaceEqualDeep(before, { ...before, ...found }); // what is as it was is not drawn again
        return { ...now, left, slow, stale: new Set([...stale].filter((p) => p !== part)) };
      });
    const work = async () => {
      clock = setTimeout(() => setKnown((k) => (k.stale.size > 0 ? { ...k, slow: true } : k)), long);
      const ask: Record<Part, () => Promise<Partial<Proof>>> = {
        solved: async () => ({ solved: await prover.solve(doc) }),
        count: async () => ({ count: await prover.count(doc) }),
        chance: async () => ({ chance: await prover.chance(doc) }),
        replies: async () => {
          const covers = await prover.replies(doc);
          return { covers, replies: covers.findings };
        },
      };
      for (const part of parts) {
        if (!live) return;
        try {
          const began = performance.now();
          const found = await ask[part]();
          performance.measure(`proof ${part}`, { start: began });
          if (live) answer(part, found);
        } catch (error) {
          if (!live) return;
          if (error instanceof Stopped) {
            setKnown((k) => ({
              ...k,
              left: new Set([...k.left, part]),
              stale: new Set([...k.stale].filter((p) => p !== part)),
            }));
          } else return; // a draft with a fault: the strip says which
        }
      }
      clearTimeout(clock);
      if (live) setKnown((k) => (k.slow ? { ...k, slow: false } : k));
    };
    let since = 0; // when it began; 0 while it rests
    const wait = setTimeout(() => {
      since = performance.now();
      void work().finally(() => (since = 0));
    }, settle);
    return () => {
      live = false;
      clearTimeout(wait);
      clearTimeout(clock);
      // What will soon be there is let go to its end: that is quicker than a new worker.
      if (since > 0 && performance.now() - since > settle) prover.stop();
    };
  }, [doc, sound]);
  const leave = useCallback(() => prover.stop(), []);
  return { ...known, leave };
}
