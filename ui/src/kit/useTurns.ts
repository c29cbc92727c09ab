import { useRef } from "react";

/** Does one thing after the other: each begins when the one before has its answer, and sees what that left. */
export function useTurns() {
  const last = useRef<Promise<unknown>>(Promise.resolve());
  return <T>(act: () => Promise<T>): Promise<T> => {
    const done = last.current.then(act);
    last.current = done.catch(() => undefined);
    return done;
  };
}
