import { useEffect, useMemo, useRef, useState } from "react";
import { useQuery } from "@tanstack/react-query";
import { ChevronLeft, ChevronRight } from "lucide-react";
import { Link, useParams, useSearchParams } from "react-router";
import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { api, ask, problemOf } from "../api/client";
import type { Move, Scene, Standing } from "../api/types";
import { engine, type Known, type Rehearsed } from "../engine/engine";
import { PlayBoard } from "../player/PlayBoard";
import { clockWords } from "../player/useClock";
import { short, wordsFor, WordsProvider } from "../words/words";
import { mediaURL } from "../board/mediaURL";
import { Said } from "../kit/Said";
import { useSize } from "../kit/useSize";
import { tip } from "../kit/tip";
import { endsAt } from "../kit/ends";
import { calledSo } from "./useOutcomes";
import { stepWords } from "./trailWords";

/** When a move was made, as far as that counts. */
const timeOf = (m: Move | undefined) => m?.at ?? m?.t ?? 0;

const nobody = () => {};
const nowhere = () => Promise.resolve({ targets: [], opens: [] });

/** A sitting played again, move by move, with its trail and a time line. */
export function Replay() {
  const { id = "", release = "", sitting = "" } = useParams();
  const step = Number(useSearchParams()[0].get("step") ?? 0);
  const log = useQuery({
    queryKey: ["log", release, sitting],
    queryFn: () =>
      ask(
        api.GET("/api/releases/{id}/sittings/{sitting}", {
          params: { path: { id: release, sitting: Number(sitting) }, query: step ? { step } : {} },
        }),
      ),
    staleTime: Infinity,
  });
  const doc = log.data?.document;
  const moves = useMemo(() => log.data?.moves ?? [], [log.data]);
  const [whole, setWhole] = useState<Rehearsed>();
  const [known, setKnown] = useState<Known>();
  const [at, setAt] = useState<number>();
  const [there, setThere] = useState<{ at: number; played: Rehearsed }>();
  const line = useRef<HTMLLIElement>(null);
  const seed = log.data?.seed ?? 0;
  useEffect(() => {
    if (!doc) return;
    void engine.rehearse(doc, seed, moves, false, true).then(setWhole);
    void engine.figures(doc).then(setKnown);
    setAt(moves.length);
  }, [doc, seed, moves]);
  useEffect(() => {
    if (!doc || at === undefined) return;
    let live = true;
    void engine.rehearse(doc, seed, moves.slice(0, at)).then((played) => live && setThere({ at, played }));
    return () => {
      live = false;
    };
  }, [doc, seed, moves, at]);
  // The trail is there once the sitting was played: then it opens where the move is. The board
  // that comes later must not take it from under the pointer.
  const shown = whole !== undefined && there !== undefined;
  useEffect(() => {
    line.current?.scrollIntoView({ block: "nearest" });
  }, [at, shown]);
  if (log.isError)
    return (
      <main className="p-8">
        <Said problem={problemOf(log.error)} />
      </main>
    );
  if (!doc || !whole || !there || at === undefined) return <p className="p-8 text-slate">{t`Opening…`}</p>;
  const { scene, standing } = there.played;
  const go = (to: number) => setAt(Math.max(0, Math.min(moves.length, to)));
  const tool =
    "grid size-8 place-items-center rounded-(--radius) border border-line bg-paper hover:bg-shade aria-disabled:opacity-40";
  return (
    <div className="flex min-h-full flex-col lg:h-full">
      <header className="flex min-h-12 flex-wrap items-center gap-3 border-b border-line bg-paper px-4">
        <Link to={`/activity/${id}/releases`} className="text-slate hover:text-ink">
          {t`Releases and sittings /`}
        </Link>
        <h1 className="text-lg">{calledSo(log.data?.learner ?? "", Number(sitting))}</h1>
        <span className="text-slate">{doc.title}</span>
        {log.data && log.data.outcome !== "" && (
          <span className="ml-auto whitespace-nowrap">
            <Trans>
              Score <b>{short(log.data.score)}</b> of {doc.marks.points} ({short(log.data.percent)}%)
            </Trans>
            {log.data.band && <span className="text-slate">, {log.data.band}</span>}
          </span>
        )}
      </header>
      <div className="grid min-h-0 flex-1 gap-4 p-4 lg:grid-cols-[minmax(0,3fr)_minmax(18rem,2fr)]">
        <div className="flex min-h-96 flex-col gap-3">
          <Board scene={scene} standing={standing} />
          <TimeLine moves={moves} at={at} onGo={go} />
          <div className="flex items-center gap-2 rounded-(--radius) border border-line bg-paper px-3 py-2">
            <button
              type="button"
              className={tool}
              aria-label={t`Previous move`}
              {...endsAt(at === 0, () => go(at - 1))}
            >
              <ChevronLeft size={18} />
            </button>
            <input
              type="range"
              aria-label={t`Move`}
              min={0}
              max={moves.length}
              value={at}
              aria-valuetext={t`Move ${at} of ${moves.length}`}
              onChange={(e) => go(Number(e.target.value))}
              className="h-6 min-w-24 flex-1 accent-feather"
            />
            <button
              type="button"
              className={tool}
              aria-label={t`Next move`}
              {...endsAt(at === moves.length, () => go(at + 1))}
            >
              <ChevronRight size={18} />
            </button>
            <span className="w-44 text-right text-slate tabular-nums">
              {t`move ${at} of ${moves.length}, at ${clockWords(timeOf(moves[at - 1]))}`}
            </span>
          </div>
        </div>
        <ol aria-label={t`Trail`} className="overflow-auto rounded-(--radius) border border-line bg-paper px-3 py-2">
          {whole.steps.map((step, i) => (
            <li
              key={step.move.n}
              ref={i + 1 === at ? line : undefined}
              className={`border-b border-line/60 last:border-0 ${i + 1 === at ? "bg-feather-soft" : i + 1 > at ? "opacity-50" : ""}`}
            >
              <button
                type="button"
                aria-current={i + 1 === at ? "step" : undefined}
                onClick={() => go(i + 1)}
                className="flex w-full gap-2 px-1 py-1.5 text-left"
              >
                <span className="w-12 shrink-0 text-right text-slate tabular-nums">
                  {clockWords(timeOf(step.move))}
                </span>
                <span className="min-w-0 flex-1">
                  {moves[i]?.late && <span className="block text-brass">{t`Received late`}</span>}
                  {step.trail.map((line, k) => (
                    <span key={k} className={`block ${k > 0 ? "text-slate" : "font-medium"}`}>
                      {stepWords(doc, line, step, known?.called ?? {})}
                    </span>
                  ))}
                </span>
              </button>
            </li>
          ))}
        </ol>
      </div>
    </div>
  );
}

/** When each move was made; what ends a try stands out. Its moves are gone to with the slider, too. */
function TimeLine({ moves, at, onGo }: { moves: Move[]; at: number; onGo: (to: number) => void }) {
  const whole = timeOf(moves.at(-1));
  if (whole === 0) return null;
  const nearest = (e: React.MouseEvent<HTMLElement>) => {
    const strip = e.currentTarget.getBoundingClientRect();
    const it = (whole * (e.clientX - strip.left)) / strip.width;
    const best = moves.reduce((b, m, i) => (Math.abs(timeOf(m) - it) < Math.abs(timeOf(moves[b]) - it) ? i : b), 0);
    onGo(best + 1);
  };
  return (
    <div className="px-3 text-[13px] text-slate tabular-nums" data-time-line>
      <div aria-hidden onClick={nearest} className="relative h-6 cursor-pointer border-b border-edge">
        {moves.map((m, i) => (
          <span
            key={m.n}
            {...tip(clockWords(timeOf(m)))}
            className={`absolute bottom-0 w-0.5 ${i + 1 === at ? "z-10 h-6 bg-feather" : i + 1 < at ? "bg-slate" : "bg-edge"} ${
              ["check", "timeUp"].includes(m.do) ? "h-6 border-t-4 border-ink" : i + 1 === at ? "" : "h-3"
            }`}
            style={{ left: `calc(${(100 * timeOf(m)) / whole}% - 1px)` }}
          />
        ))}
      </div>
      <div className="flex justify-between">
        <span>0:00</span>
        <span>{clockWords(whole)}</span>
      </div>
    </div>
  );
}

/** The board as it stood; nothing on it can be moved. */
function Board({ scene, standing }: { scene: Scene; standing: Standing }) {
  const [room, size] = useSize<HTMLDivElement>();
  return (
    <div ref={room} className="min-h-72 flex-1 overflow-hidden" inert>
      <WordsProvider value={wordsFor(scene.lang, scene.words)}>
        {size.width > 0 && (
          <PlayBoard
            scene={scene}
            standing={standing.phase === "placing" ? { ...standing, phase: "paused" } : standing}
            queue={[]}
            act={nobody}
            mediaURL={mediaURL}
            beckon={nowhere}
            room={size}
            legible={0.3}
          />
        )}
      </WordsProvider>
    </div>
  );
}
