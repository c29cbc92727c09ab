import { useQuery } from "@tanstack/react-query";
import { RefreshCw } from "lucide-react";
import { t } from "@lingui/core/macro";
import { address } from "../api/address";
import { ask, problemOf } from "../api/client";
import type { Admitted, LinkResult } from "../api/types";
import { Button } from "../kit/Button";
import { Said } from "../kit/Said";
import { api } from "./pass";
import { moment } from "../words/figures";

const state = (r: LinkResult) => (!r.begun ? t`Not begun` : r.done ? t`Finished` : t`Under way`);

/** What the learners of one link of a course have come to, and who has not begun. */
export function LinkResults({ page }: { page: Admitted }) {
  const seen = useQuery({
    queryKey: ["linkResults"],
    queryFn: () => ask(api.GET("/api/launched/results")),
    refetchOnWindowFocus: false,
  });
  const list = seen.data?.results ?? [];
  const done = list.filter((r) => r.done).length;
  const begun = list.filter((r) => r.begun).length;
  return (
    <div className="min-h-full">
      <header className="flex flex-wrap items-center gap-x-4 gap-y-2 border-b border-line bg-paper px-5 py-3">
        <div className="mr-auto">
          <h1 className="text-lg">{seen.data?.title ?? page.title}</h1>
          <p className="text-slate">
            {!seen.data
              ? page.course
              : seen.data.members
                ? t`${page.course}: ${begun} begun, ${done} finished, of ${list.length}`
                : t`${page.course}: ${begun} begun, ${done} finished`}
          </p>
        </div>
        <Button disabled={seen.isFetching} onClick={() => void seen.refetch()}>
          <RefreshCw size={16} aria-hidden /> {t`Refresh`}
        </Button>
        {seen.data?.try && (
          <a
            href={address(seen.data.try)}
            target="_blank"
            rel="noreferrer"
            className="inline-flex h-8 items-center rounded-(--radius) border border-edge bg-paper px-3 font-medium hover:bg-shade"
          >
            {t`Play as a learner (nothing is recorded)`}
          </a>
        )}
      </header>
      <main className="mx-auto flex max-w-4xl flex-col gap-3 px-5 py-4">
        {seen.isError && <Said problem={problemOf(seen.error)} />}
        {seen.data?.away && (
          <p role="status" className="rounded-(--radius) bg-mist px-3 py-2">
            {t`${page.platform} didn’t say who is in the course just now, so those who haven’t begun are missing here.`}
          </p>
        )}
        {seen.data && list.length === 0 && <p className="text-slate">{t`Nobody has opened it yet.`}</p>}
        {list.length > 0 && (
          <div className="overflow-x-auto rounded-(--radius) border border-line bg-paper">
            <table className="w-full">
              <thead className="border-b border-line bg-mist text-left">
                <tr>
                  <th className="px-4 py-2 font-semibold">{t`Name`}</th>
                  <th className="px-4 font-semibold">{t`Status`}</th>
                  <th className="px-4 text-right font-semibold">{t`Score`}</th>
                  <th className="px-4 font-semibold whitespace-nowrap max-sm:hidden">{t`Last begun`}</th>
                  <th className="px-4 text-right font-semibold max-sm:hidden">{t`Times`}</th>
                </tr>
              </thead>
              <tbody>
                {list.map((r, i) => (
                  <tr key={i} className="border-b border-line last:border-0">
                    <td className="px-4 py-1.5 font-medium">{r.name}</td>
                    <td className={`px-4 ${r.begun ? "" : "text-slate"}`}>{state(r)}</td>
                    <td className="px-4 text-right tabular-nums">
                      {r.judged ? `${Number(r.score)} (${Number(r.percent)}%)` : ""}
                    </td>
                    <td className="px-4 whitespace-nowrap text-slate max-sm:hidden">
                      {r.begun ? moment(r.begun) : ""}
                    </td>
                    <td className="px-4 text-right tabular-nums max-sm:hidden">{r.times || ""}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        )}
      </main>
    </div>
  );
}
