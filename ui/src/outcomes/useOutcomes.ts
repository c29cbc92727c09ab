import { useQuery } from "@tanstack/react-query";
import { plural, t } from "@lingui/core/macro";
import { api, ask } from "../api/client";
import type { Outcomes } from "../api/types";
import { engine } from "../engine/engine";

/** Which of a learner's states is looked at. */
export type Which = "first" | "final";

/** What the learners of a release did, kept up to date, and what is right by the key that counts. */
export function useOutcomes(release: string | undefined, step?: number) {
  const outcomes = useQuery({
    queryKey: ["outcomes", release, step],
    enabled: release !== undefined,
    queryFn: () =>
      ask(api.GET("/api/releases/{id}/outcomes", { params: { path: { id: release! }, query: step ? { step } : {} } })),
    // Sittings that are not counted yet are counted on by asking again.
    refetchInterval: ({ state }) => ((state.data as Outcomes | undefined)?.behind ? 200 : 5000),
  });
  const doc = outcomes.data?.document;
  const cells = useQuery({
    queryKey: ["released-cells", release, step, outcomes.data?.remark],
    enabled: !!doc,
    staleTime: Infinity,
    queryFn: async () => (await engine.figures(doc!)).cells,
  });
  return { outcomes, doc, right: cells.data?.right };
}

/** By solution and target, the items that are right there. */
export type Right = Record<string, string[]>[];

export const isRight = (right: Right | undefined, item: string, target: string) =>
  right?.some((s) => s[target]?.includes(item)) ?? false;

export const percent = (share: number) => `${Math.round(100 * share)}%`;

/** The short form of a time for a table. */
export const seconds = (ms: number) =>
  ms < 60000
    ? `${Math.round(ms / 1000)} s`
    : `${Math.floor(ms / 60000)}:${String(Math.floor((ms % 60000) / 1000)).padStart(2, "0")}`;

export const sittings = (n: number) => plural(n, { one: "one sitting", other: "# sittings" });

/** How a learner is called whose name is not kept, or not shown. */
export const calledSo = (learner: string, sitting: number) => learner || t`Sitting ${sitting}`;
