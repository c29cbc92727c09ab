import { useCallback, useState } from "react";
import { keep, kept } from "../kit/kept";
import type { Standing, Told } from "../api/types";

/** What stands before the learner. The same reply keeps its key from answer to answer. */
export const keyOf = (t: Told) => `${t.n}.${t.number}`;

const remembered = (under: string | undefined) => (under && kept<string[]>(under)) || [];

/** Which replies are before the learner: those that stand, less what was closed, and what was opened again. */
export function useTold(standing: Standing, under?: string) {
  const [closed, setClosed] = useState(() => remembered(under));
  const [again, setAgain] = useState<string>();
  const close = useCallback(
    (key: string) => {
      setAgain((was) => (was === key ? undefined : was));
      setClosed((was) => {
        const now = was.includes(key) ? was : [...was, key];
        if (under) keep(under, now);
        return now;
      });
    },
    [under],
  );
  const shown = standing.replies.filter((t) => keyOf(t) === again || (!t.over && !closed.includes(keyOf(t))));
  /** The reply that can be opened again from a piece. */
  const reopens = useCallback(
    (piece: string) => {
      const t = standing.replies.findLast((x) => x.reopen && x.piece === piece);
      return t && !(shown.some((x) => keyOf(x) === keyOf(t)) || again === keyOf(t)) ? keyOf(t) : undefined;
    },
    [standing, shown, again],
  );
  return { shown, close, reopens, reopen: setAgain };
}
