import { useLayoutEffect, useRef, useState, type RefObject } from "react";
import type { Act, Scene, Standing, Told } from "../api/types";
import { besides, type Avoid, type Box } from "../board/besides";
import { Reply } from "./Reply";
import { keyOf } from "./told";

type Props = {
  told: Told[];
  scene: Scene;
  standing: Standing;
  /** The room around the board, in which they stand. */
  room: RefObject<HTMLElement | null>;
  /** They are placed anew when it changes. */
  scale: number;
  mediaURL: (id: string) => string;
  act: (act: Act) => void;
  onClose: (key: string) => void;
  onGo?: (to: string) => void;
};

/** Where one stands; over the whole board also how large. */
type Spot = { x: number; y: number; w?: number; h?: number };

/** How unwillingly things are covered, for each pixel of them. */
const weights = { subject: 400, check: 100, label: 100, wrong: 60, reply: 80, piece: 8, target: 1 };

/** What is said beside the board's parts: each measured, then put where it covers least. */
export function Replies({ told, room, scale, ...common }: Props) {
  const boxes = useRef(new Map<string, HTMLElement>());
  const [at, setAt] = useState<Record<string, Spot>>({});
  const { scene, standing } = common;
  const keys = told.map(keyOf).join();

  useLayoutEffect(() => {
    const around = room.current;
    if (!around || told.length === 0) return;
    const place = () => setAt(placeAll(around, told, scene, standing, boxes.current));
    place();
    // Pictures and fonts make them larger after they came; what they stand beside may move.
    const watch = new ResizeObserver(place);
    for (const e of boxes.current.values()) watch.observe(e);
    watch.observe(around);
    window.addEventListener("resize", place);
    return () => {
      watch.disconnect();
      window.removeEventListener("resize", place);
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- told is new each time: its keys say when it changes
  }, [keys, standing.n, scale, scene, room]);

  return told.map((t) => {
    const key = keyOf(t);
    const wide = t.spot === "frame" && t.frame ? Math.max(t.frame.w * scale, 224) : undefined;
    return (
      <div
        key={key}
        ref={(e) => {
          if (e) boxes.current.set(key, e);
          else boxes.current.delete(key);
        }}
        // What hides the board takes the focus at once, which nothing invisible does.
        className={`pointer-events-none absolute z-[3000] ${at[key] ? "" : t.spot === "board" ? "opacity-0" : "invisible"}`}
        style={{
          left: at[key]?.x ?? 0,
          top: at[key]?.y ?? 0,
          ...(t.spot === "board" ? { width: at[key]?.w, height: at[key]?.h } : { width: wide }),
          maxWidth: t.spot === "board" ? undefined : `min(${wide ? `${wide}px` : "22rem"}, calc(100% - 16px))`,
        }}
      >
        <Reply told={t} {...common} />
      </div>
    );
  });
}

function placeAll(
  room: HTMLElement,
  told: Told[],
  scene: Scene,
  standing: Standing,
  boxes: Map<string, HTMLElement>,
): Record<string, Spot> {
  const origin = room.getBoundingClientRect();
  const boxOf = (e: Element): Box => {
    const r = e.getBoundingClientRect();
    return { x: r.x - origin.x + room.scrollLeft, y: r.y - origin.y + room.scrollTop, w: r.width, h: r.height };
  };
  const all = (what: string) => [...room.querySelectorAll(what)];
  const one = (what: string, id: string) => room.querySelector(`[data-${what}="${CSS.escape(id)}"]`);
  // What can be seen: the room, less what of it lies outside the window or under the bar.
  const bar = room.parentElement?.querySelector("footer")?.getBoundingClientRect();
  const foot = Math.min(origin.bottom, bar ? bar.top : Infinity, innerHeight);
  const head = Math.max(origin.top, 0);
  const view = {
    x: room.scrollLeft + 4,
    y: room.scrollTop + head - origin.top + 4,
    w: room.clientWidth - 8,
    h: Math.max(60, foot - head - 8),
  };
  const wrong = new Set(standing.shown?.wrong ?? []);
  const avoid: Avoid[] = [
    ...all("[data-check]").map((e) => ({ box: boxOf(e), weight: weights.check })),
    ...all("[data-label]").map((e) => ({ box: boxOf(e), weight: weights.label })),
    ...all("[data-target]").map((e) => ({ box: boxOf(e), weight: weights.target })),
    ...all("[data-piece]").map((e) => ({
      box: boxOf(e),
      weight: wrong.has((e as HTMLElement).dataset.piece!) ? weights.wrong : weights.piece,
    })),
  ];
  const board = one("board", "");
  const out: Record<string, Spot> = {};
  for (const t of told) {
    const key = keyOf(t);
    const e = boxes.get(key);
    if (!e) continue;
    const size = { w: e.offsetWidth, h: e.offsetHeight };
    const pieces = [...(t.piece ? [t.piece] : []), ...(t.points?.pieces ?? [])];
    const targets = [...(t.target ? [t.target] : []), ...(t.points?.targets ?? [])];
    const pieceBoxes = pieces.flatMap((id) => one("piece", id) ?? []).map(boxOf);
    const targetBoxes = targets.flatMap((id) => one("target", id) ?? []).map(boxOf);
    // Where it is about a piece, it stands beside that; the target around it is avoided as well.
    const subjects = t.spot === "frame" ? [] : t.spot === "target" ? targetBoxes : t.spot === "piece" ? pieceBoxes : [];
    const mine = [...pieceBoxes, ...targetBoxes].map((box) => ({ box, weight: weights.subject }));
    const scale = board ? boxOf(board).w / scene.width : 1;
    const wanted =
      t.spot === "frame" && t.frame && board
        ? { x: boxOf(board).x + t.frame.x * scale, y: boxOf(board).y + t.frame.y * scale }
        : undefined;
    if (t.spot === "board" && board) {
      out[key] = boxOf(board);
      continue;
    }
    const place = besides(size, view, subjects, [...avoid, ...mine], wanted);
    out[key] = place;
    avoid.push({ box: { ...place, ...size }, weight: weights.reply });
  }
  return out;
}
