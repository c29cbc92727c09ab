import { useState } from "react";
import { createPortal } from "react-dom";
import { ChevronLeft, ChevronRight, Info, OctagonX, TriangleAlert, X } from "lucide-react";
import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { engine, type Finding } from "../../engine/engine";
import { Button } from "../../kit/Button";
import { reveal } from "../../kit/reveal";
import { takeDocument } from "../model/changes";
import { useDraft, useDraftStore } from "../model/draft";
import { solutionName } from "../model/key";
import { ClassFields } from "./ClassFields";
import type { Proof } from "./useProof";
import { chanceWords, proofRoom, waysWords } from "./words";

const signs = {
  stop: { Icon: OctagonX, word: t`Error`, look: "text-ember" },
  warn: { Icon: TriangleAlert, word: t`Warning`, look: "text-brass" },
  info: { Icon: Info, word: t`Info`, look: "text-slate" },
};

type Props = { proof: Proof; findings: Finding[]; onClose: () => void };

// What was asked for is where the keys go on; the strip that opened it comes after it.
const enter = (e: HTMLElement | null) => {
  reveal(e);
  e?.focus({ preventScroll: true });
};

/** All findings, each with its parts and its mend; the valid arrangements, on the board one after the other; a class. */
export function ProofPanel({ proof, findings, onClose }: Props) {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  const { solved, count, chance } = proof;
  const conflict = solved?.conflict;
  const show = (at: Finding["at"]) => store.getState().select(at);
  const mend = (f: Finding, by: string) =>
    void store.getState().queue(async () => {
      const mended = await engine.mend(store.getState().doc, f.code, f.parts, by);
      store.getState().change(takeDocument(mended, by.charAt(0).toLowerCase() + by.slice(1)));
    });
  const room = document.getElementById(proofRoom);
  if (!room) return null;
  return createPortal(
    <section
      aria-label={t`Findings`}
      data-zone="proof"
      tabIndex={-1}
      ref={enter}
      className={`flex shrink-0 flex-col border-t-2 border-feather bg-paper -outline-offset-2 ${document.querySelector("[data-rehearsing]") ? "h-[30%]" : "h-[50%]"}`}
    >
      <div className="flex items-center gap-4 border-b border-line px-4 py-1.5">
        <h2>{t`Proof`}</h2>
        <button
          type="button"
          aria-label={t`Close the proof`}
          onClick={onClose}
          className="ml-auto grid size-7 place-items-center rounded-(--radius) text-slate hover:bg-shade"
        >
          <X size={16} />
        </button>
      </div>
      <div className="grid min-h-0 flex-1 content-start gap-x-8 gap-y-3 overflow-auto px-4 py-3 grid-cols-1">
        <ul className="flex flex-col gap-1">
          {findings.length === 0 && (
            <li className="text-slate">
              {!solved
                ? t`Checking…`
                : solved.state === "keyed"
                  ? t`No issues.`
                  : t`Add an answer key first; issues are listed after that.`}
            </li>
          )}
          {findings.map((f, i) => {
            const { Icon, word, look } = signs[f.severity];
            const parts = f.at.items.length + f.at.targets.length + f.at.scenery.length;
            return (
              <li
                key={i}
                data-finding={f.code}
                className="flex flex-wrap items-start gap-x-2 gap-y-1 border-b border-line/60 py-1"
              >
                <Icon size={16} className={`mt-0.5 shrink-0 ${look}`} aria-label={word} />
                <span className="min-w-56 flex-1 basis-56">{f.message}</span>
                {parts > 0 && (
                  <Button kind="quiet" className="!h-7" onClick={() => show(f.at)}>
                    {t`Show`}
                  </Button>
                )}
                {f.mends.map((by) => (
                  <Button key={by} className="!h-7" onClick={() => mend(f, by)}>
                    {by}
                  </Button>
                ))}
              </li>
            );
          })}
        </ul>
        <div className="flex flex-col gap-3">
          {conflict && (
            <p>
              {t`${solutionName(doc.key.solutions, conflict.solution)} can’t be solved.`}{" "}
              <button
                type="button"
                className="text-feather underline"
                onClick={() => show({ items: conflict.items, targets: conflict.targets, scenery: [] })}
              >
                {t`Show what conflicts`}
              </button>
            </p>
          )}
          {solved?.state === "keyed" && count && count.count !== "0" && (
            <WayFields total={waysWords(count)} exact={count.exact} count={count.count} />
          )}
          {chance && solved?.state === "keyed" && solved.solvable && (
            <p>
              <Trans>
                By guessing, everything comes out right with a chance of <b>{chanceWords(chance)}</b>, and the mean
                score is <b>{chance.meanPercent}%</b>.
              </Trans>{" "}
              {chance.interval &&
                t`Both are from 20,000 simulated guesses (95% confidence of the mean: ${chance.interval.meanPercent[0]} to ${chance.interval.meanPercent[1]}%).`}
            </p>
          )}
          {solved?.everythingIn && solved.state === "keyed" && (
            <p>
              <Trans>
                Putting every piece into a target scores at most <b>{solved.everythingIn.percent}%</b>.
              </Trans>
            </p>
          )}
          {solved?.state === "keyed" && solved.solvable && <ClassFields />}
        </div>
      </div>
    </section>,
    room,
  );
}

/** Goes through the valid arrangements on the board. */
function WayFields({ total, count, exact }: { total: string; count: string; exact: boolean }) {
  const store = useDraftStore();
  const way = useDraft((s) => s.way);
  const doc = useDraft((s) => s.doc);
  const [end, setEnd] = useState(false);
  const go = async (number: number) => {
    const { ways } = await engine.ways(store.getState().doc, number, 1);
    const found = ways[0];
    setEnd(!found);
    if (found) store.setState({ way: { ...found, number } });
  };
  const last = way && exact && count === String(way.number + 1);
  return (
    <p className="flex flex-wrap items-center gap-2" data-ways>
      {!way ? (
        <>
          <span>
            {count === "1" ? (
              <Trans>
                <b>{total}</b> arrangement is right.
              </Trans>
            ) : (
              <Trans>
                <b>{total}</b> arrangements are right.
              </Trans>
            )}
          </span>
          <Button onClick={() => void go(0)}>{t`Show me one`}</Button>
        </>
      ) : (
        <>
          <Button aria-label={t`The previous one`} disabled={way.number === 0} onClick={() => void go(way.number - 1)}>
            <ChevronLeft size={15} />
          </Button>
          <span>
            {doc.key.solutions.length > 1
              ? t`${way.number + 1} of ${total}, ${solutionName(doc.key.solutions, way.solution)}`
              : t`${way.number + 1} of ${total}`}
          </span>
          <Button aria-label={t`The next one`} disabled={end || last} onClick={() => void go(way.number + 1)}>
            <ChevronRight size={15} />
          </Button>
          <Button kind="quiet" onClick={() => store.setState({ way: undefined })}>
            {t`Clear the board`}
          </Button>
        </>
      )}
    </p>
  );
}
