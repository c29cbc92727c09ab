import { useState } from "react";
import { useQuery } from "@tanstack/react-query";
import { api, ask, problemOf } from "../api/client";
import type { Me, Release } from "../api/types";
import { engine } from "../engine/engine";
import { Said } from "../shared/Said";
import { Placements } from "./Placements";
import { Remarking } from "./Remarking";
import { Scores } from "./Scores";
import { Suspects } from "./Suspects";

/** What the learners of a release did: first what looks keyed wrong, then scores, then each item. */
export function Outcomes({ release, activity, me }: { release: Release; activity: string; me: Me }) {
  const [view, setView] = useState<"first" | "final">("first");
  const outcomes = useQuery({
    queryKey: ["outcomes", release.id],
    queryFn: () => ask(api.GET("/api/releases/{id}/outcomes", { params: { path: { id: release.id } } })),
    refetchInterval: 5000,
  });
  const doc = outcomes.data?.document;
  const cells = useQuery({
    queryKey: ["released-cells", release.id, outcomes.data?.remark],
    enabled: !!doc,
    staleTime: Infinity,
    queryFn: async () => (await engine.figures(doc!)).cells,
  });
  if (outcomes.isError) return <Said problem={problemOf(outcomes.error)} />;
  if (!outcomes.data || !doc) return <p className="text-slate">Working it out…</p>;
  const { figures } = outcomes.data;
  const now = figures[view];
  if (now.n === 0)
    return (
      <p className="rounded-(--radius) border border-line bg-paper p-6 text-slate">
        {figures.sittings === 0
          ? "Nobody has played this release yet. Give learners the link above."
          : `${figures.sittings === 1 ? "One sitting is" : `${figures.sittings} sittings are`} under way, and none has come to a check yet.`}
      </p>
    );
  const tab = (which: "first" | "final", name: string) => (
    <button
      type="button"
      aria-pressed={view === which}
      onClick={() => setView(which)}
      className={`h-7 rounded-sm px-2.5 ${view === which ? "bg-feather-soft font-semibold" : "text-slate"}`}
    >
      {name}
    </button>
  );
  return (
    <div className="flex flex-col gap-4">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <div
          role="group"
          aria-label="Which state"
          className="flex rounded-(--radius) border border-line bg-paper p-0.5"
        >
          {tab("first", "First attempt")}
          {tab("final", "Final")}
        </div>
        <span className="text-slate">
          {now.n} of {figures.sittings} sittings
          {view === "final" ? ", those that are finished" : ", those that came to a check"}
        </span>
      </div>
      <Suspects figures={now} doc={doc} activity={activity} designer={me.role === "designer"} />
      <Remarking release={release} designer={me.role === "designer"} />
      <Scores figures={now} passMark={doc.marks.passMark} />
      <Placements figures={now} times={figures.times ?? []} doc={doc} right={cells.data?.right} />
    </div>
  );
}
