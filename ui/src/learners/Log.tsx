import { useInfiniteQuery } from "@tanstack/react-query";
import { t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import { Button } from "../kit/Button";
import { Said } from "../kit/Said";
import { moment } from "../words/figures";

/** Every download, re-mark, deletion and change of these settings: who, when, what. */
export function Log() {
  const log = useInfiniteQuery({
    queryKey: ["records"],
    initialPageParam: 0,
    queryFn: ({ pageParam }) => ask(api.GET("/api/records", { params: { query: { before: pageParam } } })),
    getNextPageParam: (last) => (last.more ? last.records.at(-1)?.id : undefined),
  });
  const list = log.data?.pages.flatMap((p) => p.records) ?? [];
  const head = "border-b border-line py-1.5 pr-4 text-left font-semibold text-slate";
  const cell = "border-b border-line py-1.5 pr-4 align-top";
  return (
    <>
      <h2 className="mb-2 text-base">{t`Log`}</h2>
      {log.isError && <Said problem={problemOf(log.error)} />}
      {log.isSuccess && list.length === 0 && (
        <p className="text-slate">{t`Downloads, re-marks, deletions and changes of these settings will be listed here.`}</p>
      )}
      {list.length > 0 && (
        <table className="w-full">
          <thead>
            <tr>
              {[t`When`, t`Who`, t`What`, t`Of`].map((h) => (
                <th key={h} className={head}>
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {list.map((r) => (
              <tr key={r.id}>
                <td className={`${cell} whitespace-nowrap text-slate tabular-nums`}>{moment(r.at)}</td>
                <td className={`${cell} whitespace-nowrap`}>{r.by || "Keen Magpie"}</td>
                <td className={cell}>
                  <b>{r.what}</b>
                  {r.detail && `: ${r.detail}`}
                </td>
                <td className={cell}>{r.about}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {log.hasNextPage && (
        <Button className="mt-3" onClick={() => void log.fetchNextPage()}>
          {t`Load older`}
        </Button>
      )}
    </>
  );
}
