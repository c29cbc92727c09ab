import { useState } from "react";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import type { Me, Release, RunRow } from "../api/types";
import { Downloads } from "../outcomes/Downloads";
import { Outcomes, TotalsOnly } from "../outcomes/Outcomes";
import { Sittings } from "../outcomes/Sittings";
import { short } from "../words/words";
import { Select } from "../kit/Select";
import { Said } from "../kit/Said";
import { tip } from "../kit/tip";
import { Checkbox } from "../kit/Checkbox";
import { moment } from "../words/figures";

/** Those who have begun a released series, and what learners did at each of its activities. */
export function Runs({ release, activity, me }: { release: Release; activity: string; me: Me }) {
  const [step, setStep] = useState<number>();
  const [listed, setListed] = useState(false);
  const runs = useQuery({
    queryKey: ["runs", release.id],
    queryFn: () => ask(api.GET("/api/releases/{id}/runs", { params: { path: { id: release.id } } })),
    refetchInterval: 5000,
  });
  if (runs.isError) return <Said problem={problemOf(runs.error)} />;
  if (!runs.data) return <p className="mt-5 text-slate">{t`Opening…`}</p>;
  const { runs: list, steps, least } = runs.data;
  return (
    <>
      <div className="mt-5 mb-3 flex flex-wrap items-center gap-3">
        <label className="flex items-center gap-2">
          <span className="text-slate">{t`View`}</span>
          <Select
            value={step ?? ""}
            onPick={(to) => setStep(to === "" ? undefined : Number(to))}
            className="h-8 rounded-(--radius) border border-edge bg-paper px-2"
            options={[["", t`Whole series`], ...steps.map((s) => [s.step, `${s.step + 1}. ${s.title}`] as const)]}
          />
        </label>
        {step !== undefined && (
          <label className="flex items-center gap-1.5">
            <Checkbox on={listed} onChange={setListed} /> {t`List of sittings`}
          </label>
        )}
        {step === undefined && !least && list.length > 0 && (
          <span className="ml-auto">
            <Downloads release={release.id} runs />
          </span>
        )}
      </div>
      {step !== undefined ? (
        listed ? (
          <Sittings key={step} release={release} activity={activity} me={me} step={step} />
        ) : (
          <Outcomes key={step} release={release} activity={activity} me={me} step={step} />
        )
      ) : least ? (
        <TotalsOnly least={least} sittings={release.sittings} finished={release.finished} />
      ) : list.length === 0 ? (
        <p className="rounded-(--radius) border border-line bg-paper p-6 text-slate">
          {t`Nobody has begun this release yet. Give learners the link above.`}
        </p>
      ) : (
        <Table
          list={list}
          steps={steps}
          to={(sitting, step) => `/activity/${activity}/releases/${release.id}/sittings/${sitting}?step=${step}`}
        />
      )}
    </>
  );
}

type TableProps = {
  list: RunRow[];
  steps: { step: number; title: string }[];
  /** Where a sitting is played again. */
  to: (sitting: number, step: number) => string;
};

function Table({ list, steps, to }: TableProps) {
  const head = "border-b border-line bg-shade px-3 py-2 text-left font-semibold text-slate whitespace-nowrap";
  const cell = "border-b border-line px-3 py-2";
  return (
    <div className="overflow-auto rounded-(--radius) border border-line bg-paper">
      <table className="w-full">
        <thead>
          <tr>
            <th className={head}>{t`Learner`}</th>
            <th className={head}>{t`Started`}</th>
            <th className={head}>{t`State`}</th>
            {steps.map((s) => (
              <th key={s.step} className={`${head} max-w-40 truncate text-right`} {...tip(s.title)}>
                {s.title}
              </th>
            ))}
            <th className={`${head} text-right`}>{t`Percent`}</th>
            <th className={head}>{t`Band`}</th>
          </tr>
        </thead>
        <tbody>
          {list.map((r) => (
            <tr key={r.id}>
              <td className={`${cell} font-medium`}>{r.learner || t`Run ${r.id}`}</td>
              <td className={`${cell} text-slate`}>{moment(r.startedAt)}</td>
              <td className={`${cell} text-slate`}>{r.done ? t`finished` : t`at step ${r.at} of ${r.steps}`}</td>
              {steps.map((s) => {
                const x = r.sittings.find((y) => y.step === s.step);
                return (
                  <td key={s.step} className={`${cell} text-right tabular-nums`}>
                    {x ? (
                      <Link
                        to={to(x.sitting, s.step)}
                        {...tip(
                          r.learner
                            ? t`Play again what ${r.learner} did in ${s.title}`
                            : t`Play again what this learner did in ${s.title}`,
                        )}
                        className="text-feather underline underline-offset-4"
                      >
                        {x.phase === "done" ? short(x.score) : t`under way`}
                      </Link>
                    ) : (
                      "–"
                    )}
                  </td>
                );
              })}
              <td className={`${cell} text-right tabular-nums`}>{r.done ? `${short(r.percent)}%` : "–"}</td>
              <td className={cell}>{r.band}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
