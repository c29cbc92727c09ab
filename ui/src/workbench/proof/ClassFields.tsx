import { useState } from "react";
import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { prover, Stopped, type Class } from "../../engine/engine";
import { Button } from "../../kit/Button";
import { tip } from "../../kit/tip";
import { itemOf, nameOf, targetOf } from "../../document/parts";
import { useDraft } from "../model/draft";

const room = "h-7 rounded-(--radius) border border-line bg-paper px-1.5 text-right tabular-nums";

/** Learners who know each item's place with some probability, and guess otherwise, play to the end. */
export function ClassFields() {
  const doc = useDraft((s) => s.doc);
  const [number, setNumber] = useState(200);
  const [ability, setAbility] = useState(60);
  const [seed, setSeed] = useState(1);
  const [done, setDone] = useState<number>();
  const [found, setFound] = useState<{ of: typeof doc; class: Class; took: number }>();
  const [problem, setProblem] = useState("");
  const play = async () => {
    setDone(0);
    setProblem("");
    const began = performance.now();
    try {
      const made = await prover.learners(doc, { number, ability, seed }, setDone);
      performance.measure("class", { start: began });
      setFound({ of: doc, class: made, took: performance.now() - began });
    } catch (error) {
      if (!(error instanceof Stopped)) setProblem(error instanceof Error ? error.message : String(error));
    }
    setDone(undefined);
  };
  const field = (label: string, value: number, high: number, set: (n: number) => void, width: string) => (
    <input
      aria-label={label}
      type="number"
      min={0}
      max={high}
      value={value}
      onChange={(e) => set(Math.max(0, Math.min(high, Math.round(Number(e.target.value)))))}
      className={`${room} ${width}`}
    />
  );
  return (
    <div data-class>
      <p className="flex flex-wrap items-center gap-x-1.5 gap-y-1">
        {field(t`Learners`, number, 100000, setNumber, "w-20")}{" "}
        <Trans>
          simulated learners who know {field(t`Percent known`, ability, 100, setAbility, "w-14")}% of the places, seed{" "}
          {field(t`Seed`, seed, 1e9, setSeed, "w-14")}
        </Trans>
        {done !== undefined ? (
          <>
            <progress max={number} value={done} aria-label={t`Learners done`} className="w-32 accent-feather" />
            <span className="text-slate tabular-nums">{done}</span>
            <Button onClick={() => prover.stop()}>{t`Stop`}</Button>
          </>
        ) : (
          <Button onClick={() => void play()}>{t`Run simulation`}</Button>
        )}
      </p>
      {problem && <p className="text-ember">{problem}</p>}
      {found && (
        <div className={`mt-2 flex flex-wrap items-start gap-x-8 gap-y-3 ${found.of === doc ? "" : "opacity-50"}`}>
          <Bars
            title={t`scores: ${found.class.meanPercent}% on average, ${share(found.class.passed, found.class.number)} passed`}
            bars={found.class.scores.map((n, i) => ({ label: i === 10 ? "100" : String(10 * i), n }))}
            unit="%"
          />
          <Bars
            title={t`attempts: ${share(found.class.right, found.class.number)} ended all correct`}
            bars={attemptBars(found.class.attempts)}
          />
          <Told of={found.class} />
          <Guessed of={found.class} />
          <p className="basis-full text-slate">
            <Trans>
              Median {found.class.moves[2]} moves (range {found.class.moves[0]} to {found.class.moves[4]}). It took{" "}
              {(found.took / 1000).toFixed(1)} s.
            </Trans>
          </p>
        </div>
      )}
    </div>
  );
}

const share = (n: number, of: number) => `${of > 0 ? Math.round((100 * n) / of) : 0}%`;

function attemptBars(attempts: Record<string, number>): Bar[] {
  const all = Object.entries(attempts).sort((a, b) => Number(a[0]) - Number(b[0]));
  const shown = all.slice(0, 9).map(([label, n]) => ({ label, n }));
  const rest = all.slice(9).reduce((sum, [, n]) => sum + n, 0);
  return rest > 0 ? [...shown, { label: t`more`, n: rest }] : shown;
}

type Bar = { label: string; n: number };

/** A chart of how many learners there are at each value. */
function Bars({ title, bars, unit = "" }: { title: string; bars: Bar[]; unit?: string }) {
  const most = Math.max(1, ...bars.map((b) => b.n));
  return (
    <figure aria-label={`${title}. ${bars.map((b) => `${b.label}${unit}: ${b.n}`).join(", ")}`}>
      <figcaption className="mb-1 text-[13px] text-slate">{title}</figcaption>
      <div className="flex items-end gap-1" aria-hidden>
        {bars.map((b) => (
          <span
            key={b.label}
            className="flex w-7 flex-col items-center text-[11px] tabular-nums"
            {...tip(`${b.label}${unit}: ${b.n}`)}
          >
            <span className="text-slate">{b.n || ""}</span>
            <span className="w-full bg-feather" style={{ height: Math.max(b.n > 0 ? 2 : 0, (56 * b.n) / most) }} />
            <span className="w-full border-t border-edge text-center">{b.label}</span>
          </span>
        ))}
      </div>
    </figure>
  );
}

/** To how many learners each reply was given. */
function Told({ of }: { of: Class }) {
  const doc = useDraft((s) => s.doc);
  const called = useDraft((s) => s.known?.called);
  if (doc.replies.length === 0) return null;
  return (
    <table className="text-[13px]">
      <caption className="mb-1 text-left text-slate">{t`Feedback shown`}</caption>
      <tbody>
        {doc.replies
          .filter((r) => !r.off)
          .map((r) => ({ id: r.id, n: of.replies[r.id] ?? 0 }))
          .sort((a, b) => b.n - a.n)
          .slice(0, 12)
          .map(({ id, n }) => (
            <tr key={id} className="border-t border-line/70">
              <td className="max-w-64 truncate pr-3">{called?.[id]?.message ?? id}</td>
              <td className={`text-right tabular-nums ${n === 0 ? "text-brass" : ""}`}>
                {n === 0 ? t`never` : share(n, of.number)}
              </td>
            </tr>
          ))}
      </tbody>
    </table>
  );
}

/** Where guessed pieces ended up, most often. */
function Guessed({ of }: { of: Class }) {
  const doc = useDraft((s) => s.doc);
  const rows = Object.entries(of.guessed).map(([item, places]) => {
    const all = Object.values(places).reduce((sum, n) => sum + n, 0);
    const most = Object.entries(places)
      .sort((a, b) => b[1] - a[1])
      .slice(0, 3);
    return { item, all, most };
  });
  if (rows.length === 0) return null;
  return (
    <table className="text-[13px]">
      <caption className="mb-1 text-left text-slate">{t`Where guessed pieces went`}</caption>
      <tbody>
        {rows.map(({ item, all, most }) => (
          <tr key={item} className="border-t border-line/70">
            <td className="max-w-40 truncate pr-3">{nameOf(itemOf(doc, item)) || item}</td>
            {most.map(([target, n]) => (
              <td key={target} className="max-w-40 truncate pr-3">
                {target ? nameOf(targetOf(doc, target)) : "home"} <span className="text-slate">{share(n, all)}</span>
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
