import { replaceEqualDeep } from "@tanstack/react-query";
import { useState } from "react";

/** A value that is the same object as before where it says the same. */
export function useSame<T>(value: T): T {
  const [same, setSame] = useState(value);
  const next = replaceEqualDeep(same, value);
  if (next !== same) setSame(next);
  return next;
}
