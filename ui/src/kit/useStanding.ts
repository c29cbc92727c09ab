import { useLayoutEffect, useRef } from "react";

/**
 * A field that shows what stands there, but for what is being typed. It stays the same field
 * when that changes: one that was put in place of another as it is left would take the focus
 * from where it was going. Whoever takes what is typed says so with `typing`.
 */
export function useStanding(value: string) {
  const ref = useRef<HTMLInputElement>(null);
  const typing = useRef(false);
  useLayoutEffect(() => {
    if (ref.current && !typing.current) ref.current.value = value;
  }, [value]);
  return { typing, field: { ref, defaultValue: value, onInput: () => void (typing.current = true) } };
}
