import { useEffect, useMemo, useState, type CSSProperties } from "react";
import { t } from "@lingui/core/macro";
import { mediaURL } from "../../board/mediaURL";
import { Select } from "../../kit/Select";
import { useSize } from "../../kit/useSize";
import { tip } from "../../kit/tip";
import { PlayRoom } from "../../player/PlayRoom";
import { clockWords, useClock } from "../../player/useClock";
import { useSitting } from "../../player/useSitting";
import { attemptWords, directionOf, wordsFor, WordsProvider } from "../../words/words";
import { useWorkspaceWords } from "../../words/useWorkspaceWords";
import { Keeping } from "./Keeping";
import type { Rehearsal, SelfPlay, Setup } from "./rehearsal";
import { Checkbox } from "../../kit/Checkbox";

/** What learners look at it on, in CSS pixels. */
const screens: Record<string, { name: string; width?: number; height?: number }> = {
  here: { name: t`this window` },
  phone: { name: t`on a phone`, width: 360, height: 640 },
  tablet: { name: t`on a tablet`, width: 820, height: 1100 },
  screen: { name: t`on a screen`, width: 1366, height: 720 },
  list: { name: t`as a list` },
};

const plays: [SelfPlay, string][] = [
  ["right", t`all correct`],
  ["oneWrong", t`one wrong`],
  ["wrong", t`all wrong`],
  ["random", t`random`],
];

/** The same board, live. Rehearsing is told by the frame of the board and a word. */
export function Rehearsing({ rehearsal }: { rehearsal: Rehearsal }) {
  const { setup, problem, next, stop } = rehearsal;
  const [screen, setScreen] = useState("here");
  useEffect(() => {
    // Escape leaves; with a piece in hand the board takes it first.
    const leave = (e: KeyboardEvent) => {
      if (
        e.key === "Escape" &&
        !document.querySelector('[data-piece][aria-pressed="true"], [role="dialog"], [role="menu"]')
      )
        stop();
    };
    window.addEventListener("keydown", leave);
    return () => window.removeEventListener("keydown", leave);
  }, [stop]);
  const link = "whitespace-nowrap underline underline-offset-4";
  return (
    <div className="flex min-h-0 flex-1 flex-col rounded-(--radius) border-2 border-feather bg-paper" data-rehearsing>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1 rounded-t-[3px] bg-feather px-3 py-1 text-on-feather">
        <span className="font-semibold">{rehearsal.setting ? t`Set up the situation` : t`Rehearsing`}</span>
        <Select
          label={t`As the learner sees it`}
          value={screen}
          onPick={(to) => setScreen(to)}
          className="h-6 rounded-sm border border-on-feather/50 bg-feather px-1 text-on-feather"
          options={[...Object.entries(screens).map(([id, s]) => [id, s.name] as const)]}
        />
        <label className="flex items-center gap-1.5" {...tip(t`Shuffling and dealing follow from the seed`)}>
          <Checkbox on={rehearsal.fixed} onChange={rehearsal.setFixed} label={t`Keep the seed`} />
          {t`same shuffle`}
        </label>
        <span className="ml-auto flex gap-3">
          <button type="button" onClick={next} className={link}>
            {t`Restart as new learner`}
          </button>
          <button type="button" onClick={stop} className={link}>
            {t`Done`}
          </button>
        </span>
      </div>
      {problem && <p className="border-b border-line px-4 py-2 text-ember">{problem}</p>}
      {setup ? <Live key={setup.turn} setup={setup} screen={screen} /> : <div className="flex-1" />}
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-line bg-shade px-3 py-1.5">
        <span className="text-slate">{t`Autoplay:`}</span>
        {plays.map(([how, name]) => (
          <button
            key={how}
            type="button"
            onClick={() => rehearsal.selfPlay(how)}
            className="text-feather underline decoration-dotted underline-offset-4 hover:decoration-solid"
          >
            {name}
          </button>
        ))}
        <span className="ml-auto">
          <Keeping rehearsal={rehearsal} />
        </span>
      </div>
    </div>
  );
}

function Live({ setup, screen }: { setup: Setup; screen: string }) {
  const { opening, judge } = setup;
  const { scene } = opening;
  const words = useWorkspaceWords(scene.lang);
  const w = useMemo(() => wordsFor(scene.lang, { ...words, ...scene.words }), [scene, words]);
  const { standing, queue, lost, act, elapsed } = useSitting({
    judge,
    first: opening.standing,
    elapsed: setup.elapsed,
  });
  const left = useClock(scene.timeLimit, elapsed, standing.phase !== "done", () => act({ do: "timeUp" }));
  const [room, size] = useSize<HTMLDivElement>();
  const device = screens[screen]!;
  const zoom = device.width ? Math.min(1, (size.width - 16) / device.width, (size.height - 16) / device.height!) : 1;
  const frame: CSSProperties = device.width
    ? {
        width: device.width,
        height: device.height,
        transform: `scale(${zoom})`,
        transformOrigin: "0 0",
        marginLeft: (size.width - device.width * zoom) / 2,
        marginTop: 8,
      }
    : { height: "100%" };
  return (
    <WordsProvider value={w}>
      <div ref={room} className={`min-h-0 flex-1 ${device.width ? "overflow-hidden bg-mist" : ""}`} lang={scene.lang}>
        <div
          style={frame}
          data-screen={screen}
          dir={directionOf(scene.lang)}
          data-seed={setup.seed}
          className={`flex flex-col bg-paper ${device.width ? "overflow-auto rounded-(--radius) border border-edge" : ""}`}
        >
          <PlayRoom
            scene={scene}
            standing={standing}
            queue={queue}
            act={act}
            mediaURL={mediaURL}
            beckon={judge.beckon}
            asList={screen === "list"}
            besideAllowed={screen !== "here"}
            readable={screen !== "here"}
            legible={screen === "here" ? 0.36 : undefined}
            lead={
              <span className="flex flex-wrap gap-x-4 text-slate">
                {attemptWords(w, scene, standing)}
                {left !== undefined && standing.phase !== "done" && (
                  <span className="tabular-nums">{w("timeLeft", { time: clockWords(left) })}</span>
                )}
                {lost && <span className="text-ember">{lost}</span>}
              </span>
            }
          />
        </div>
      </div>
    </WordsProvider>
  );
}
