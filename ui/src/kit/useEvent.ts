import { useCallback, useLayoutEffect, useRef } from "react";

/** A handler that stays the same function and does what the newest one does: what it is given to is not drawn again for it. */
export function useEvent<A extends unknown[], R>(handler: (...args: A) => R): (...args: A) => R {
  const newest = useRef(handler);
  useLayoutEffect(() => {
    newest.current = handler;
  });
  return useCallback((...args) => newest.current(...args), []);
}
