import { memo, useEffect, useState, type ReactNode } from "react";
import type { Item, Rect } from "../../api/types";
import { engine, type Sample } from "../../engine/engine";
import { mediaURL } from "../../board/mediaURL";
import { PieceCard } from "../../board/PieceCard";
import { placed } from "../../board/TargetWell";
import { itemOf, itemOfPiece, targetOf } from "../../document/parts";
import { useDraft } from "../model/draft";
import { useBoardView } from "./boardView";

type Props = { trace: [number, number][]; board: { width: number; height: number } };

/** What is drawn over the board while something is done to it. */
export const Overlay = memo(function Overlay({ trace, board }: Props) {
  const h = useBoardView((v) => v.handling);
  const tool = useDraft((s) => s.tool);
  const line = tool === "line" || tool === "arrow" || tool === "pointer";
  const guides = h && "guides" in h ? h.guides : [];
  if (!h && trace.length === 0) return null;
  return (
    <OverBoard board={board}>
      <g fill="none" stroke="currentColor" strokeWidth={1} vectorEffect="non-scaling-stroke">
        {guides.map((g, i) =>
          g.gap ? (
            <path key={i} data-guide="gap" d={bar(g)} strokeWidth={2} />
          ) : (
            <path key={i} data-guide="line" d={`M${g.x1} ${g.y1}L${g.x2} ${g.y2}`} strokeDasharray="6 3" />
          ),
        )}
        {h?.kind === "marquee" && (
          <rect
            x={h.frame.x}
            y={h.frame.y}
            width={h.frame.w}
            height={h.frame.h}
            fill="currentColor"
            fillOpacity={0.1}
          />
        )}
        {h?.kind === "draw" &&
          (line ? (
            <path d={`M${h.from.x} ${h.from.y}L${h.to.x} ${h.to.y}`} strokeWidth={3} />
          ) : (
            <rect
              x={Math.min(h.from.x, h.to.x)}
              y={Math.min(h.from.y, h.to.y)}
              width={Math.abs(h.from.x - h.to.x)}
              height={Math.abs(h.from.y - h.to.y)}
              rx={tool === "ellipse" || tool === "disc" ? "50%" : 4}
              fill="currentColor"
              fillOpacity={0.12}
            />
          ))}
        {h?.kind === "bend" && <circle cx={h.at.x} cy={h.at.y} r={7} strokeWidth={2} />}
        {trace.length > 0 && (
          <>
            <polyline points={trace.map((p) => p.join()).join(" ")} strokeWidth={2} />
            {trace.map(([x, y], i) => (
              <circle key={i} cx={x} cy={y} r={i === 0 ? 8 : 4} fill="var(--paper)" />
            ))}
          </>
        )}
      </g>
    </OverBoard>
  );
});

/** A drawing over the whole board, in its units, that the pointer goes through. */
export function OverBoard({ board, children }: { board: Props["board"]; children: ReactNode }) {
  return (
    <svg
      className="pointer-events-none absolute inset-0 size-full overflow-visible text-feather"
      style={{ zIndex: 3000 }}
      viewBox={`0 0 ${board.width} ${board.height}`}
      preserveAspectRatio="none"
      aria-hidden
    >
      {children}
    </svg>
  );
}

/** A gap as wide as another: a bar with two ends. */
function bar({ x1, y1, x2, y2 }: { x1: number; y1: number; x2: number; y2: number }) {
  const e = 6;
  return y1 === y2
    ? `M${x1} ${y1 - e}V${y1 + e}M${x1} ${y1}H${x2}M${x2} ${y1 - e}V${y1 + e}`
    : `M${x1 - e} ${y1}H${x1 + e}M${x1} ${y1}V${y2}M${x1 - e} ${y2}H${x1 + e}`;
}

/** Pieces as they would stand in the selected targets, while their sheet is open. */
export const Samples = memo(function Samples() {
  const shown = useDraft((s) => s.sheet && s.selection.targets.length > 0 && !s.way);
  const moving = useBoardView((v) => v.handling?.kind === "move");
  return shown && !moving ? <Sampled /> : null;
});

function Sampled() {
  const doc = useDraft((s) => s.doc);
  const targets = useDraft((s) => s.selection.targets);
  const [samples, setSamples] = useState<Record<string, Sample[]>>({});
  useEffect(() => {
    let live = true;
    engine.samples(doc, targets, 12).then(
      (found) => live && setSamples(found),
      () => {}, // a draft with a fault shows none
    );
    return () => {
      live = false;
    };
  }, [doc, targets]);
  return Object.entries(samples).flatMap(([target, list]) => {
    const t = targets.includes(target) && targetOf(doc, target);
    return list.map(
      ({ item, frame }, i) =>
        t && (
          <PlacedPiece
            key={`${target} ${i}`}
            sample
            item={itemOf(doc, item)}
            frame={frame}
            opacity={(0.6 * t.arrange.opacity) / 100}
          />
        ),
    );
  });
}

/** A valid arrangement, with every piece where it would stand. */
export function Arranged({ stands }: { stands: Record<string, Rect> }) {
  const doc = useDraft((s) => s.doc);
  return Object.entries(stands).map(([piece, frame]) => (
    <PlacedPiece key={piece} item={itemOf(doc, itemOfPiece(piece))} frame={frame} opacity={1} />
  ));
}

type PieceProps = { item: Item | undefined; frame: Rect; opacity: number; sample?: boolean };

function PlacedPiece({ item: it, frame, opacity, sample }: PieceProps) {
  if (!it) return null;
  return (
    <span
      data-sample={sample || undefined}
      data-arranged={sample ? undefined : it.id}
      className="pointer-events-none"
      style={{ ...placed(frame), zIndex: 1501, opacity }}
      aria-hidden
    >
      <PieceCard
        text={it.text}
        picture={it.picture && mediaURL(it.picture)}
        w={frame.w}
        h={frame.h}
        look={it.looks?.placed ?? it.looks?.rest}
        mediaURL={mediaURL}
      />
    </span>
  );
}
