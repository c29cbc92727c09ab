import { useState } from "react";
import { prover, Stopped, type Class } from "../../engine/engine";
import { Button } from "../../shared/Button";
import { useDraft } from "../draft";

const room = "h-7 rounded-(--radius) border border-line bg-paper px-1.5 text-right tabular-nums";

/** Learners who know each item's place with some probability, and guess otherwise, play to the end. */
export function ClassFields() {
  const doc = useDraft((s) => s.doc);
  const [number, setNumber] = useState(200);
  const [ability, setAbility] = useState(60);
  const [seed, setSeed] = useState(1);
  const [working, setWorking] = useState(false);
  const [found, setFound] = useState<{ of: typeof doc; class: Class }>();
  const [problem, setProblem] = useState("");
  const play = async () => {
    setWorking(true);
    setProblem("");
    try {
      setFound({ of: doc, class: await prover.learners(doc, { number, ability, seed }) });
    } catch (error) {
      if (!(error instanceof Stopped)) setProblem(error instanceof Error ? error.message : String(error));
    }
    setWorking(false);
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
  const most = Math.max(1, ...(found?.class.scores ?? []));
  return (
    <div data-class>
      <p className="flex flex-wrap items-center gap-x-1.5 gap-y-1">
        {field("Learners", number, 10000, setNumber, "w-18")} made-up learners who know{" "}
        {field("Percent known", ability, 100, setAbility, "w-14")} % of the places, seed{" "}
        {field("Seed", seed, 1e9, setSeed, "w-14")}
        {working ? (
          <>
            <span className="text-slate">playing…</span>
            <Button onClick={() => prover.stop()}>Stop</Button>
          </>
        ) : (
          <Button onClick={() => void play()}>Let them play</Button>
        )}
      </p>
      {problem && <p className="text-ember">{problem}</p>}
      {found && (
        <div className={`mt-2 flex items-end gap-6 ${found.of === doc ? "" : "opacity-50"}`}>
          <figure>
            <div className="flex h-16 items-end gap-0.5" aria-hidden>
              {found.class.scores.map((n, i) => (
                <span
                  key={i}
                  title={`${i === 10 ? "100" : `${10 * i} to ${10 * i + 9}`} %: ${n}`}
                  className="w-4 bg-feather"
                  style={{ height: `${Math.max(n > 0 ? 3 : 0, (100 * n) / most)}%` }}
                />
              ))}
            </div>
            <figcaption className="flex justify-between border-t border-edge text-[12px] text-slate">
              <span>0 %</span>
              <span>scores</span>
              <span>100 %</span>
            </figcaption>
          </figure>
          <p className="text-slate">
            <b className="text-ink">{found.class.meanPercent} %</b> on average; {found.class.right} all right,{" "}
            {found.class.passed} passed;{" "}
            {Object.entries(found.class.attempts)
              .map(([k, n]) => `${n} in ${k} ${k === "1" ? "attempt" : "attempts"}`)
              .slice(0, 5)
              .join(", ")}
            ; {found.class.moves[2]} moves in the middle ({found.class.moves[0]} to {found.class.moves[4]}).
          </p>
        </div>
      )}
    </div>
  );
}
