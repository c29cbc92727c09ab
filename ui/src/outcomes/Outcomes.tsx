import { useState } from "react";
import { plural, t } from "@lingui/core/macro";
import { problemOf } from "../api/client";
import type { Me, Release } from "../api/types";
import { Said } from "../kit/Said";
import { Placements } from "./Placements";
import { Remarking } from "./Remarking";
import { Scores } from "./Scores";
import { Suspects } from "./Suspects";
import { WhichState } from "./WhichState";
import { sittings, useOutcomes, type Which } from "./useOutcomes";
import { grouped } from "../words/figures";

type Props = { release: Release; activity: string; me: Me; step?: number };

/** What the learners of a release, or of a step of a series, did: first what looks keyed wrong, then scores, then each item. */
export function Outcomes({ release, activity, me, step }: Props) {
  const [view, setView] = useState<Which>("first");
  const { outcomes, doc, right } = useOutcomes(release.id, step);
  if (outcomes.isError) return <Said problem={problemOf(outcomes.error)} />;
  if (!outcomes.data || !doc) return <p className="text-slate">{t`Loading…`}</p>;
  const { figures, behind, least } = outcomes.data;
  const now = figures[view];
  const series = step !== undefined;
  if (least) return <TotalsOnly least={least} sittings={figures.sittings} finished={figures.finished} />;
  if (now.n === 0 && !behind)
    return (
      <p className="rounded-(--radius) border border-line bg-paper p-6 text-slate">
        {figures.sittings === 0
          ? t`Nobody has played this yet. Give learners the link above.`
          : plural(figures.sittings, {
              one: "One sitting is under way, and has not come to a check yet.",
              other: "# sittings are under way, and none has come to a check yet.",
            })}
      </p>
    );
  return (
    <div className="flex flex-col gap-4">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <WhichState view={view} onView={setView} />
        <span className="text-slate">
          {view === "final"
            ? t`${grouped(now.n)} of ${grouped(figures.sittings)} sittings, those that are finished`
            : t`${grouped(now.n)} of ${grouped(figures.sittings)} sittings, with at least one check`}
        </span>
        {behind > 0 && (
          <span role="status" className="text-slate">
            {t`${sittings(behind)} still being counted`}
          </span>
        )}
      </div>
      <Suspects figures={now} doc={doc} activity={series ? undefined : activity} designer={me.role === "designer"} />
      <Remarking release={release} designer={me.role === "designer"} step={step} />
      <Scores figures={now} marks={doc.marks} />
      <Placements figures={now} times={figures.times ?? []} doc={doc} right={right} />
    </div>
  );
}

/** What is said of a group so small that its figures would tell of single learners. */
export function TotalsOnly({ least, sittings, finished }: { least: number; sittings: number; finished?: number }) {
  return (
    <p className="rounded-(--radius) border border-line bg-paper p-6">
      <b>
        {finished === undefined
          ? t`${plural(sittings, { one: "# sitting", other: "# sittings" })}.`
          : t`${plural(sittings, { one: "# sitting", other: "# sittings" })}, ${finished} finished.`}
      </b>{" "}
      <span className="text-slate">
        {t`With fewer than ${least} sittings only totals are shown, to protect individual learners.`}
      </span>
    </p>
  );
}
