import { useEffect, useState } from "react";

/** Milliseconds left of a limit, second by second; at its end it says so once. */
export function useClock(limit: number, elapsed: () => number, on: boolean, onUp: () => void): number | undefined {
  const [left, setLeft] = useState(limit > 0 ? Math.max(0, limit - elapsed()) : 0);
  useEffect(() => {
    if (limit === 0 || !on) return;
    let up = false;
    const tick = () => {
      const rest = Math.max(0, limit - elapsed());
      setLeft(rest);
      if (rest === 0 && !up) {
        up = true;
        onUp();
      }
    };
    tick();
    const clock = setInterval(tick, 250);
    return () => clearInterval(clock);
    // The clock goes on through re-renders; what it calls does not change what it measures.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [limit, on]);
  return limit > 0 ? left : undefined;
}

/** 2:05, or 0:09. */
export const clockWords = (ms: number) => {
  const s = Math.ceil(ms / 1000);
  return `${Math.floor(s / 60)}:${String(s % 60).padStart(2, "0")}`;
};
