import { useQuery } from "@tanstack/react-query";
import { api, ask, problemOf } from "../api/client";
import type { Release } from "../api/types";
import { short } from "../player/words";
import { Said } from "../shared/Said";

const day = new Intl.DateTimeFormat("en", { dateStyle: "medium", timeStyle: "short" });

/** Those who have begun a released series, where they are, and what it has come to. */
export function Runs({ release }: { release: Release }) {
  const runs = useQuery({
    queryKey: ["runs", release.id],
    queryFn: () => ask(api.GET("/api/releases/{id}/runs", { params: { path: { id: release.id } } })),
    refetchInterval: 5000,
  });
  const head = "border-b border-line bg-shade px-3 py-2 text-left font-semibold text-slate whitespace-nowrap";
  const cell = "border-b border-line px-3 py-2";
  const list = runs.data?.runs ?? [];
  return (
    <>
      <h2 className="mt-5 mb-2 text-base">Sittings</h2>
      {runs.isError && <Said problem={problemOf(runs.error)} />}
      {runs.isSuccess && list.length === 0 && (
        <p className="rounded-(--radius) border border-line bg-paper p-6 text-slate">
          Nobody has begun this release yet. Give learners the link above.
        </p>
      )}
      {list.length > 0 && (
        <div className="overflow-auto rounded-(--radius) border border-line bg-paper">
          <table className="w-full">
            <thead>
              <tr>
                <th className={head}>Learner</th>
                <th className={head}>Started</th>
                <th className={head}>State</th>
                <th className={`${head} text-right`}>Percent</th>
                <th className={head}>Band</th>
              </tr>
            </thead>
            <tbody>
              {list.map((r) => (
                <tr key={r.id}>
                  <td className={`${cell} font-medium`}>{r.learner}</td>
                  <td className={`${cell} text-slate`}>{day.format(new Date(r.startedAt))}</td>
                  <td className={`${cell} text-slate`}>{r.done ? "finished" : `at step ${r.at} of ${r.steps}`}</td>
                  <td className={`${cell} text-right tabular-nums`}>{r.done ? `${short(r.percent)} %` : "–"}</td>
                  <td className={cell}>{r.band}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </>
  );
}
