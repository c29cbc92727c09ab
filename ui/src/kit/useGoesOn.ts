import { useLayoutEffect, useRef } from "react";

/**
 * Where something gives way to what it opened, or that to what it was: if it had the focus, the
 * first there that takes it has it then, and keys go on where they were. To be a ref of what
 * holds both.
 */
export function useGoesOn<E extends HTMLElement>(open: boolean) {
  const holder = useRef<E>(null);
  const before = useRef(open);
  useLayoutEffect(() => {
    if (before.current === open) return;
    before.current = open;
    if (document.activeElement !== document.body) return;
    holder.current?.querySelector<HTMLElement>("button:not(:disabled), input:not(:disabled), textarea")?.focus();
  }, [open]);
  return holder;
}
