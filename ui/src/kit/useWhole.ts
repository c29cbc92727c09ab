import { useQueryClient } from "@tanstack/react-query";
import { useTurns } from "./useTurns";

/**
 * Changes what the server keeps and takes as a whole (a list, words): as it is there now, whatever
 * of it has been read here, so that nothing is taken away unseen, and one change after the other.
 */
export function useWhole<T>(queryKey: readonly unknown[], read: () => Promise<T>, write: (next: T) => Promise<T>) {
  const queries = useQueryClient();
  const inTurn = useTurns();
  return (apply: (now: T) => T) =>
    inTurn(async () => {
      try {
        const kept = await write(apply(await read()));
        await queries.cancelQueries({ queryKey }); // what was asked for before comes too late
        queries.setQueryData(queryKey, kept);
      } catch (error) {
        void queries.invalidateQueries({ queryKey });
        throw error;
      }
    });
}
