import { useEffect, useRef, useState } from "react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import type { Problem, Remark, RemarkLook, RemarkStep, Release } from "../api/types";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { Said } from "../kit/Said";
import { RemarkDialog } from "./RemarkDialog";
import { SendGrades } from "./SendGrades";
import { sittings } from "./useOutcomes";
import { workOut } from "./workOut";
import { grouped, moment } from "../words/figures";

type Props = { release: Release; designer: boolean; step?: number };

/** Scores finished sittings, of a series those of a step, again under the draft: what changes is shown first, and can be reverted. */
export function Remarking({ release, designer, step: of }: Props) {
  const queries = useQueryClient();
  const [look, setLook] = useState<RemarkLook>();
  const [step, setStep] = useState<RemarkStep>();
  const [problem, setProblem] = useState<Problem>();
  const [busy, setBusy] = useState(false);
  const working = useRef<AbortController>(undefined);
  useEffect(() => () => working.current?.abort(), []);
  const made = useQuery({
    queryKey: ["remarks", release.id, of],
    queryFn: () =>
      ask(api.GET("/api/releases/{id}/remarks", { params: { path: { id: release.id }, query: { step: of } } })),
  });
  const act = async (what: () => Promise<void>) => {
    setBusy(true);
    setProblem(undefined);
    try {
      await what();
    } catch (error) {
      if (!(error instanceof DOMException && error.name === "AbortError")) setProblem(problemOf(error));
    } finally {
      setBusy(false);
      setStep(undefined);
    }
  };
  const again = async () => {
    for (const key of ["remarks", "outcomes", "sittings", "runs"])
      await queries.invalidateQueries({ queryKey: [key, release.id] });
  };
  const seen = (remark: string) =>
    ask(api.GET("/api/releases/{id}/remarks/{remark}", { params: { path: { id: release.id, remark } } })).then(setLook);
  const begin = () =>
    act(async () => {
      working.current = new AbortController();
      setStep({ done: 0, of: 0 });
      await seen(await workOut(release.id, of, setStep, working.current.signal));
    });
  const apply = (k: RemarkLook, neverLower: boolean) =>
    act(async () => {
      await ask(
        api.POST("/api/releases/{id}/remarks/{remark}/apply", {
          params: { path: { id: release.id, remark: k.id } },
          body: { neverLower },
        }),
      );
      setLook(undefined);
      await again();
    });
  const revert = (k: Remark) =>
    act(async () => {
      await ask(
        api.POST("/api/releases/{id}/remarks/{remark}/revert", { params: { path: { id: release.id, remark: k.id } } }),
      );
      await again();
    });
  const list = made.data?.remarks ?? [];
  const latest = list.find((k) => !k.revertedAt);
  if (!designer && list.length === 0) return null;
  return (
    <section aria-label={t`Re-mark`} className="rounded-(--radius) border border-line bg-paper px-4 py-3">
      <div className="flex flex-wrap items-center gap-3">
        <p className="flex-1 text-slate">
          {of === undefined
            ? t`Found a mistake in the answer key? Fix it in the activity, then re-mark the finished sittings.`
            : t`Was the key wrong? Correct it in the activity, and score what was finished at this step again; totals follow.`}
        </p>
        {designer && (
          <Button disabled={busy} onClick={() => void begin()}>
            {t`Re-mark…`}
          </Button>
        )}
      </div>
      {list.length > 0 && (
        <ul className="mt-2">
          {list.map((k) => (
            <li key={k.id} className="flex flex-wrap items-center gap-3 border-t border-line py-1.5">
              <span className={`flex-1 ${k.revertedAt ? "text-slate line-through" : ""}`}>
                {t`${moment(k.appliedAt!)}, ${k.madeBy}: ${sittings(k.sittings)} re-marked, ${k.better + k.worse} with another score`}
              </span>
              {k.revertedAt && <span className="text-slate">{t`reverted ${moment(k.revertedAt)}`}</span>}
              <Button kind="quiet" disabled={busy} onClick={() => void act(() => seen(k.id))}>
                {t`View changes`}
              </Button>
              {designer && k === latest && (
                <Button disabled={busy} onClick={() => void revert(k)}>
                  {t`Revert`}
                </Button>
              )}
            </li>
          ))}
        </ul>
      )}
      {designer && latest && <SendGrades release={release} />}
      {latest && (
        <p className="border-t border-line pt-1.5 text-slate">
          {of === undefined
            ? t`Sittings that begin at this link from now on are still scored by the released key. Release the corrected activity for them.`
            : t`Sittings that begin at this link from now on are still scored by the released key. Release the corrected series for them.`}
        </p>
      )}
      {problem && !look && <Said problem={problem} />}
      <Dialog
        open={!!step}
        onClose={() => working.current?.abort()}
        title={t`Working out what changes`}
        about={t`Replaying the finished sittings with the draft’s key. Nothing is changed yet.`}
      >
        <progress
          aria-label={t`Sittings played again`}
          className="h-3 w-full appearance-none overflow-hidden rounded-sm border border-line bg-shade [&::-moz-progress-bar]:bg-feather [&::-webkit-progress-bar]:bg-shade [&::-webkit-progress-value]:bg-feather"
          max={step?.of || 1}
          value={step?.done ?? 0}
        />
        <p className="mt-1 text-slate tabular-nums">
          {step && step.of > 0 ? t`${grouped(step.done)} of ${sittings(step.of)}` : t`Beginning…`}
        </p>
        <div className="mt-4 flex justify-end">
          <Button onClick={() => working.current?.abort()}>{t`Cancel`}</Button>
        </div>
      </Dialog>
      {look && (
        <RemarkDialog
          look={look}
          busy={busy}
          problem={problem}
          onApply={(neverLower) => void apply(look, neverLower)}
          onClose={() => setLook(undefined)}
        />
      )}
    </section>
  );
}
