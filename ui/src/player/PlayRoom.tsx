import { useEffect, useMemo, useState, type ReactNode } from "react";
import type { Act, Beckoning, Move, Scene, Standing } from "../api/types";
import type { Fit } from "../board/fit";
import { RichText } from "../board/RichText";
import { placed } from "../board/TargetWell";
import { useSize } from "../kit/useSize";
import { Bar, CheckButton } from "./Bar";
import { PlayBoard } from "./PlayBoard";
import { ListView } from "./ListView";
import { Replies } from "./Replies";
import { Card, Reply } from "./Reply";
import { keyOf, useTold } from "./told";
import { useZoom } from "./useZoom";
import { ViewButtons } from "./ViewButtons";
import { WhereAll } from "./WhereAll";

type Props = {
  scene: Scene;
  standing: Standing;
  queue: Move[];
  act: (act: Act) => void;
  mediaURL: (id: string) => string;
  /** The targets that show themselves for a piece. */
  beckon: (piece: string) => Promise<Beckoning>;
  /** Under what this browser remembers which replies were closed. */
  keep?: string;
  besideAllowed?: boolean;
  /** The least scale at which pieces show in the tray, and the largest of the board. */
  legible?: number;
  largest?: number;
  /** Nothing is drawn too small to be read or hit. */
  readable?: boolean;
  /** A card stands before everything, until it is closed. */
  modal?: boolean;
  /** As a list: the same sitting in another form. */
  asList?: boolean;
  /** What stands first in the bar. */
  lead?: ReactNode;
  /** Something to be said over the board. */
  notice?: ReactNode;
  end?: ReactNode;
  /** What leads on in a series. */
  onward?: ReactNode;
  onGo?: (to: string) => void;
};

/** The board with all that is said on it, and what can be done: the same for a learner and in a rehearsal. */
export function PlayRoom(p: Props) {
  const { scene, standing, queue, act, mediaURL } = p;
  const [room, size] = useSize<HTMLDivElement>();
  const { shown, close, reopens, reopen } = useTold(standing, p.keep);
  const [showing, setShowing] = useState<"own" | "key">("own");
  const [shared, setShared] = useState<Fit>();
  const { zoom, onZoom, more, less } = useZoom(shared, p.readable ? scene.legible / 100 : 0);
  const busy = queue.length > 0;

  // A reply that shows the answer, and a review of nothing else, show it at once.
  const onlyKey = standing.review === "key";
  const replyShows = shown.some((t) => t.showKey);
  useEffect(() => setShowing(onlyKey || replyShows ? "key" : "own"), [onlyKey, replyShows]);
  const { key } = standing;
  const seen = useMemo<Standing>(
    () =>
      key && showing === "key"
        ? { ...standing, stands: key.stands, targets: key.targets as Standing["targets"], shown: undefined, held: [] }
        : standing,
    [standing, key, showing],
  );
  const points = shown.flatMap((t) => t.points ?? []);
  const pointed = new Set(points.flatMap((x) => [...x.pieces, ...x.targets]));
  const common = { scene, standing, mediaURL, act, onClose: close, onGo: p.onGo };
  // One after the other, as they came: nothing lies under a card.
  const card = shown.find((t) => t.spot === "card");
  const beside = card ? [] : shown;
  const hidden = standing.phase === "done" && standing.review === "none";
  return (
    <>
      {scene.instructions.length > 0 && (
        <div className="max-h-[40vh] shrink-0 overflow-auto px-4 pt-2 pb-1">
          <RichText nodes={scene.instructions} />
        </div>
      )}
      <div
        ref={room}
        // Isolated: what is said on the board never lies over a menu or a question.
        className={`relative isolate min-h-80 overflow-auto px-4 pt-2 ${p.asList ? "flex-1" : "shrink-0 grow basis-80"}`}
      >
        {p.asList && !hidden && (
          <ListView
            scene={scene}
            standing={seen}
            queue={queue}
            act={act}
            mediaURL={mediaURL}
            pointed={pointed}
            reopens={reopens}
            onReopen={reopen}
          >
            {shown
              .filter((t) => !p.modal || t !== card)
              .map((t) => (
                <Reply key={keyOf(t)} told={t} {...common} />
              ))}
          </ListView>
        )}
        {!p.asList && size.width > 0 && (
          <PlayBoard
            scene={scene}
            standing={seen}
            queue={queue}
            act={act}
            mediaURL={mediaURL}
            beckon={p.beckon}
            room={{ width: size.width - 32, height: size.height - 8 }}
            besideAllowed={p.besideAllowed}
            legible={p.legible}
            largest={p.largest}
            pointed={pointed}
            dim={shown.some((t) => t.dim)}
            hidden={hidden}
            reopens={reopens}
            onReopen={reopen}
            readable={p.readable}
            zoom={zoom}
            onZoom={onZoom}
            onFit={setShared}
            over={() => (
              <>
                {points
                  .flatMap((x) => x.places)
                  .map((r, i) => (
                    <span
                      key={i}
                      className="pointer-events-none rounded-(--radius) outline-3 outline-offset-2 outline-feather"
                      style={{ ...placed(r), zIndex: 2500 }}
                    />
                  ))}
                {scene.checkAt && standing.phase === "placing" && (
                  <div data-check="" style={{ ...placed(scene.checkAt), zIndex: 2100 }}>
                    <CheckButton
                      scene={scene}
                      standing={standing}
                      busy={busy}
                      act={act}
                      className="size-full! px-1 leading-tight whitespace-normal"
                    />
                  </div>
                )}
                {card && !p.modal && (
                  <div className="absolute inset-0 z-[3100] flex bg-veil p-3">
                    <Reply key={keyOf(card)} told={card} {...common} />
                  </div>
                )}
              </>
            )}
          />
        )}
        {!p.asList && size.width > 0 && <Replies told={beside} room={room} scale={shared?.scale ?? 1} {...common} />}
        {p.notice}
      </div>
      {card && p.modal && <Card key={keyOf(card)} told={card} {...common} />}
      <Bar
        {...{ scene, standing, busy, act, mediaURL, showing }}
        checkHere={p.asList || !scene.checkAt}
        onShow={setShowing}
        said={shown.some((t) => t.n === standing.n && t.rich.length > 0)}
        lead={p.lead}
        end={p.end}
        onward={p.onward}
        view={
          !p.asList &&
          !hidden && (
            <>
              <WhereAll scene={scene} standing={seen} />
              <ViewButtons room={room} more={more} less={less} onZoom={onZoom} />
            </>
          )
        }
      />
    </>
  );
}
