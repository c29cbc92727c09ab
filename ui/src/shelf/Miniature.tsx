import { useMemo, type CSSProperties } from "react";
import type { Doc } from "../api/types";
import { Ground } from "../shared/Ground";
import { PieceCard } from "../shared/PieceCard";
import { mediaURL } from "../shared/mediaURL";
import { placed, TargetWell } from "../shared/TargetWell";

/** The board and its tray, as large as fits. */
export function Miniature({ doc, width, height }: { doc: Doc; width: number; height: number }) {
  const scale = useMemo(() => {
    const pieces = doc.items.filter((i) => !i.home).map((i) => i.size);
    let s = Math.min(width / doc.board.width, height / doc.board.height);
    // The tray takes its rows from the height.
    for (; s > 0.05; s *= 0.97) {
      const perRow = Math.max(1, Math.floor((doc.board.width * s) / (Math.max(40, ...pieces.map((p) => p.w)) * s + 2)));
      const rows = Math.ceil(pieces.length / perRow) * (Math.max(0, ...pieces.map((p) => p.h)) * s + 2);
      if (doc.board.height * s + rows + 6 <= height) break;
    }
    return s;
  }, [doc, width, height]);
  return (
    <div style={{ "--s": scale } as CSSProperties} aria-hidden className="pointer-events-none">
      <Ground
        width={doc.board.width}
        height={doc.board.height}
        color={doc.board.background.color}
        picture={doc.board.background.picture}
        scenery={doc.scenery}
        mediaURL={mediaURL}
      >
        {doc.targets.map((t) => (
          <div key={t.id} style={placed(t.frame)}>
            <TargetWell shape={t.shape} points={t.points} frame={t.frame} label="" side={t.label.side} />
          </div>
        ))}
        {doc.items.map(
          (i) =>
            i.home && (
              <div key={i.id} style={placed({ ...i.home, ...i.size })}>
                <PieceCard
                  text={i.picture ? "" : i.text}
                  picture={i.picture && mediaURL(i.picture)}
                  w={i.size.w}
                  h={i.size.h}
                />
              </div>
            ),
        )}
      </Ground>
      <div className="flex flex-wrap gap-0.5 pt-1" style={{ width: `calc(${doc.board.width}px * var(--s) + 2px)` }}>
        {doc.items.map(
          (i) =>
            !i.home && (
              <PieceCard
                key={i.id}
                text={i.picture ? "" : i.text}
                picture={i.picture && mediaURL(i.picture)}
                w={i.size.w}
                h={i.size.h}
              />
            ),
        )}
      </div>
    </div>
  );
}
