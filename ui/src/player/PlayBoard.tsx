import { useEffect, useMemo, useRef, useState, type CSSProperties, type KeyboardEvent, type ReactNode } from "react";
import type { Act, Beckoning, Move, Scene, ScenePiece, Standing } from "../api/types";
import { fit, type Fit } from "../board/fit";
import { Ground } from "../board/Ground";
import { placed, TargetWell } from "../board/TargetWell";
import { useEvent } from "../kit/useEvent";
import { useSame } from "../kit/useSame";
import { appearance } from "./appearance";
import { InHandCard } from "./InHandCard";
import { Ghost, LivePiece, type PieceEvents } from "./LivePiece";
import { LaneSlots } from "./LaneSlots";
import { BoardWindow } from "./BoardWindow";
import { canPlace, useBeckons, useOver, useParted, useSpots } from "./boardHooks";
import { useSound } from "./Sound";
import { Tray } from "./Tray";
import { useBoardKeys } from "./useBoardKeys";
import { useMovedGaps } from "./useMovedGaps";
import { usePieceInHand } from "./usePieceInHand";
import { useWords } from "../words/words";

type Props = {
  scene: Scene;
  standing: Standing;
  queue: Move[];
  act: (act: Act) => void;
  mediaURL: (id: string) => string;
  room: { width: number; height: number };
  besideAllowed?: boolean;
  /** On a small screen pieces in the tray stay large enough to be told apart: the least scale. */
  legible?: number;
  /** The largest scale of the board. */
  largest?: number;
  /** The targets that show themselves for a piece. */
  beckon: (piece: string) => Promise<Beckoning>;
  /** Pieces and targets that are pointed out; dim fades all others. */
  pointed?: ReadonlySet<string>;
  dim?: boolean;
  /** Nothing on the board is shown any more. */
  hidden?: boolean;
  /** The reply that can be opened again from a piece. */
  reopens?: (piece: string) => string | undefined;
  onReopen?: (reply: string) => void;
  /** What lies over the board. */
  over?: () => ReactNode;
  /** Nothing is drawn too small to be read or hit: the board is seen through a window instead. */
  readable?: boolean;
  /** How much larger it is wanted than that; 0 is all of it. */
  zoom?: number;
  onZoom?: (by: 1 | -1) => void;
  /** Hears how the board and its tray share the room. */
  onFit?: (fit: Fit) => void;
};

const noZoom = () => {};

/** The live board with its tray: the same for a learner and in a rehearsal. */
export function PlayBoard({
  scene: plain,
  standing: told,
  queue,
  act,
  mediaURL,
  room,
  besideAllowed,
  legible = 0.5,
  largest,
  readable,
  zoom,
  onZoom = noZoom,
  ...p
}: Props) {
  const w = useWords();
  const root = useRef<HTMLDivElement>(null);
  const board = useRef<HTMLDivElement>(null);
  const view = useRef<HTMLDivElement>(null);
  const tray = useRef<HTMLDivElement>(null);
  const pieces = useMemo(() => new Map(plain.pieces.map((p) => [p.id, p])), [plain]);
  const { width, height } = room;
  const shared = useMemo(
    () =>
      fit(
        { width, height },
        {
          width: plain.width,
          height: plain.height,
          // Dealt one by one, few are in the tray at a time.
          pieces: plain.pieces.slice(0, plain.oneByOne ? 2 : undefined).map((p) => p.size),
          besideAllowed,
          largest,
          legible: readable ? plain.legible / 100 : undefined,
          zoom,
        },
      ),
    [width, height, plain, besideAllowed, largest, readable, zoom],
  );
  const { scale, beside } = shared;
  const { scene, standing, judged } = useMovedGaps(board, plain, told, scale);
  // In the tray pieces stay as large as they are without zooming.
  const trayScale = Math.max(Math.min(scale, Math.max(shared.whole, readable ? scene.legible / 100 : 0)), legible);

  const { onFit } = p;
  useEffect(() => onFit?.(shared), [onFit, shared]);

  const settled = useSpots(scene, standing, queue);
  const dealt = scene.pieces.slice(0, standing.dealt);
  const placing = canPlace(standing, queue);
  const free = (id: string) => placing && !standing.held.includes(id);
  const { hand, setHand, position, press, putInto, putHome, pointer } = usePieceInHand({
    width: scene.width,
    judged,
    board,
    view,
    tray,
    free,
    act,
    isHome: (id) => !settled.has(id),
  });
  const { beckons, opens } = useBeckons(scene, hand?.piece, p.beckon);
  const under = useOver(scene, standing, position, hand?.dragged ? pieces.get(hand.piece) : undefined, board);
  const spots = useParted(settled, standing, under, hand?.piece);
  const [current, setCurrent] = useState(scene.pieces[0]?.id);

  const hear = useSound(mediaURL);
  const taken = hand?.piece;
  useEffect(() => {
    const p = taken && pieces.get(taken);
    if (p && p.sound && p.onPick) hear(p.sound);
  }, [taken, pieces, hear]);

  const is = appearance({
    words: w,
    scene,
    standing,
    hand,
    over: under?.target ?? null,
    beckons,
    opens,
    pointed: p.pointed,
    dim: p.dim,
  });
  const { pieceKeys, placeKeys } = useBoardKeys({
    root,
    hand,
    dealt,
    free,
    onFocus: setCurrent,
    onTake: (piece) => setHand({ piece, dragged: false }),
    onBack: (piece) => settled.has(piece) && act({ do: "lift", piece }),
  });

  const on: PieceEvents = useSame({
    ...pointer,
    onFocus: setCurrent,
    onKey: useEvent((piece: ScenePiece, e: KeyboardEvent) => pieceKeys(e, piece)),
    onPress: useEvent(press),
    onHear: hear,
    onReopen: useEvent((reply: string) => p.onReopen?.(reply)),
  });
  const button = (
    x: ScenePiece,
    where: { w: number; h: number; x?: number; y?: number; z?: number; opacity?: number },
  ) => (
    <LivePiece
      key={x.id}
      piece={x}
      {...where}
      label={is.pieceName(x)}
      look={is.pieceLook(x)}
      mark={is.mark(x.id)}
      hand={is.handOf(x.id)}
      free={free(x.id)}
      focusable={x.id === current}
      stress={is.stress(x.id)}
      reopens={p.reopens?.(x.id)}
      on={on}
      mediaURL={mediaURL}
    />
  );
  const ghost = (x: ScenePiece, style: CSSProperties) => (
    <Ghost key={`ghost-${x.id}`} piece={x} style={style} mediaURL={mediaURL} reopens={p.reopens?.(x.id)} on={on} />
  );
  const gap = (id: string) => {
    const t = plain.targets.find((x) => x.id === id);
    return t && { w: t.frame.w, h: t.frame.h, spoken: is.targetName(t) };
  };
  // What the reading order leaves out follows in its own.
  const rank = (id: string) => (scene.order.includes(id) ? scene.order.indexOf(id) : scene.order.length);
  const inOrder = <T extends { id: string }>(list: T[]) => [...list].sort((a, b) => rank(a.id) - rank(b.id));

  const inHand = hand?.dragged ? pieces.get(hand.piece) : undefined;
  return (
    <div
      ref={root}
      className={`flex ${beside ? "flex-row" : "flex-col"} items-start gap-3`}
      style={{ "--s": scale, ...(readable ? { "--least-text": "12px" } : {}) } as CSSProperties}
      onKeyDown={(e) => {
        const by = { "+": 1, "=": 1, "-": -1 }[e.key] as 1 | -1 | undefined;
        if (!by || e.ctrlKey || e.metaKey || e.altKey) return;
        e.preventDefault();
        onZoom(by);
      }}
    >
      <BoardWindow ref={view} window={shared.window} scale={scale} onZoom={onZoom}>
        <Ground of={scene} gap={gap} mediaURL={mediaURL}>
          <div
            ref={board}
            data-board=""
            className={`absolute inset-0 ${p.hidden ? "invisible" : ""}`}
            role="group"
            aria-label={w("board")}
          >
            {inOrder(scene.targets).map((t) => (
              <button
                key={t.id}
                type="button"
                data-target={t.id}
                aria-label={is.targetName(t)}
                aria-description={t.alt || undefined}
                tabIndex={hand ? 0 : -1}
                onClick={() => putInto(t.id)}
                onKeyDown={(e) => placeKeys(e, () => putInto(t.id))}
                className={`${hand && !hand.dragged ? "cursor-pointer" : "cursor-default"} ${is.stress(t.id)}`}
                style={{ ...placed(t.frame), zIndex: t.z || undefined }}
              >
                {(t.shows === "always" || (t.shows === "inHand" && hand)) && (
                  <TargetWell
                    look={is.targetLook(t)}
                    mediaURL={mediaURL}
                    shape={t.shape}
                    points={t.points}
                    frame={t.frame}
                    label={t.label.text}
                    side={t.label.side}
                    state={is.targetState(t.id)}
                  />
                )}
              </button>
            ))}
            {scene.pieces.map((p) => {
              const away = p.ghost && p.home && standing.stands[p.id];
              return away && ghost(p, { ...placed({ ...p.home!, ...p.size }), zIndex: p.z || undefined });
            })}
            {under?.opening && (
              <span
                data-opening={under.opening.index}
                className="pointer-events-none rounded-(--radius) border-2 border-dashed border-feather"
                style={{ ...placed(under.opening.gap), zIndex: 1 }}
              />
            )}
            {hand && !hand.dragged && (
              <LaneSlots scene={scene} standing={standing} piece={hand.piece} onPut={putInto} onKeyDown={placeKeys} />
            )}
            {inOrder(scene.pieces).map((p) => {
              const spot = spots.get(p.id);
              // What is placed lies over all that is not; the rest in its order.
              const z = standing.stands[p.id] ? 2000 : 1 + p.z;
              return spot && button(p, { ...spot, z, opacity: is.opacity(p.id) });
            })}
          </div>
          <div className="pointer-events-none absolute inset-0 *:pointer-events-auto">{p.over?.()}</div>
        </Ground>
      </BoardWindow>
      <Tray
        ref={tray}
        scene={scene}
        fit={shared}
        scale={trayScale}
        takes={!!hand && !hand.dragged}
        holds={!!hand}
        dim={!!p.dim}
        onPut={putHome}
        onKeyDown={(e) => placeKeys(e, putHome)}
      >
        {dealt.map((p) => (spots.has(p.id) ? p.ghost && !p.home && ghost(p, {}) : button(p, p.size)))}
        {dealt.every((p) => spots.has(p.id)) && <span className="px-2 py-1 text-slate">{w("trayEmpty")}</span>}
      </Tray>
      <span role="status" className="sr-only">
        {hand && !hand.dragged && w("saidTaken", { piece: pieces.get(hand.piece)?.spoken ?? "" })}
      </span>
      {inHand && (
        <InHandCard
          piece={inHand}
          position={position}
          view={view}
          look={is.handLook(inHand)}
          scale={(board.current?.getBoundingClientRect().width ?? 0) / scene.width}
          theme={scene.theme}
          mediaURL={mediaURL}
        />
      )}
    </div>
  );
}
