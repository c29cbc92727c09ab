import { useState } from "react";
import type { Opening, Problem } from "../api/types";
import { Button } from "../kit/Button";
import { RichText } from "../board/RichText";
import { Said } from "../kit/Said";
import { clockWords } from "./useClock";
import { refusal } from "../words/refusals";
import { directionOf, wordsFor } from "../words/words";

type Who = { learner?: string; code?: string };
type Props = { opening: Opening; problem: Problem | null; nameless: boolean; onBegin: (who: Who) => Promise<void> };

const given = () => new URLSearchParams(location.hash.slice(1)).get("code") ?? "";

/** Who begins: by a name, or by a code; where nothing is kept, by pressing Start. */
export function Gate({ opening, problem, nameless, onBegin }: Props) {
  const w = wordsFor(opening.lang, opening.words);
  const { byCode, series } = opening;
  const shut = opening.shut && refusal(w, opening.lang, opening.shut).detail;
  // A link can bring its code along.
  const [text, setText] = useState(byCode ? given() : (opening.learner ?? ""));
  const [busy, setBusy] = useState(false);
  const asks = !nameless || byCode;
  return (
    <main dir={directionOf(opening.lang)} className="grid min-h-full place-items-center p-4">
      <form
        className="w-full max-w-md rounded-(--radius) border border-line bg-paper p-6 shadow-(--shadow-card)"
        onSubmit={async (e) => {
          e.preventDefault();
          setBusy(true);
          await onBegin(byCode ? { code: text } : { learner: nameless ? w("roomLearner") : text });
          setBusy(false);
        }}
      >
        <h1 className="mb-2 font-sans text-2xl font-bold">{opening.title}</h1>
        <div className="mb-5 text-slate">
          <RichText nodes={opening.instructions} />
          {!series && opening.timeLimit > 0 && <p>{w("timeFromStart", { time: clockWords(opening.timeLimit) })}</p>}
          {series && (
            <p>
              {w("inThisSeries", { n: series.steps })}
              {series.timeLimit > 0 && `, ${w("withinTime", { time: clockWords(series.timeLimit) })}`}
            </p>
          )}
        </div>
        {shut && !byCode ? (
          <p role="status" className="rounded-(--radius) bg-mist px-3 py-2">
            {shut}
          </p>
        ) : (
          <>
            {asks && (
              <>
                <label className="block font-medium" htmlFor="learner">
                  {w(byCode ? "yourCode" : "yourName")}
                </label>
                <input
                  id="learner"
                  // In a frame the page around it has the focus.
                  autoFocus={window.parent === window}
                  required
                  maxLength={byCode ? 40 : 200}
                  autoComplete={byCode ? "off" : "name"}
                  autoCapitalize={byCode ? "none" : undefined}
                  spellCheck={byCode ? false : undefined}
                  aria-describedby={byCode ? "code-about" : undefined}
                  value={text}
                  onChange={(e) => setText(e.target.value)}
                  className={`mt-1 h-10 w-full rounded-(--radius) border border-edge bg-paper px-3 ${byCode ? "font-medium tracking-widest" : ""}`}
                />
                {byCode && (
                  <p id="code-about" className="mt-1 text-slate">
                    {w("codeAbout")}
                  </p>
                )}
              </>
            )}
            {(problem ?? (shut && byCode)) && (
              <div className="mt-4">
                {problem ? <Said problem={refusal(w, opening.lang, problem)} /> : <p className="text-slate">{shut}</p>}
              </div>
            )}
            <Button kind="main" type="submit" disabled={busy || (asks && !text.trim())} className="mt-4 h-10 w-full">
              {w("start")}
            </Button>
          </>
        )}
      </form>
    </main>
  );
}
