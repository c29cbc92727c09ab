import { useMemo, type CSSProperties } from "react";
import type { Scene, ScenePiece } from "../api/types";
import { Ground } from "../shared/Ground";
import { themed } from "../shared/looks";
import { PieceCard } from "../shared/PieceCard";
import { mediaURL } from "../shared/mediaURL";
import { placed, TargetWell } from "../shared/TargetWell";

/** The board and its tray, as large as fits. */
export function Miniature({ scene, width, height }: { scene: Scene; width: number; height: number }) {
  const tray = scene.pieces.filter((p) => !p.home);
  const scale = useMemo(() => {
    let s = Math.min(width / scene.width, height / scene.height);
    const sizes = scene.pieces.filter((p) => !p.home).map((p) => p.size);
    // The tray takes its rows from the height.
    for (; s > 0.05; s *= 0.97) {
      const perRow = Math.max(1, Math.floor((scene.width * s) / (Math.max(40, ...sizes.map((p) => p.w)) * s + 2)));
      const rows = Math.ceil(sizes.length / perRow) * (Math.max(0, ...sizes.map((p) => p.h)) * s + 2);
      if (scene.height * s + rows + 6 <= height) break;
    }
    return s;
  }, [scene, width, height]);
  const card = (p: ScenePiece) => (
    <PieceCard
      key={p.id}
      text={p.picture ? "" : p.text}
      picture={p.picture && mediaURL(p.picture)}
      w={p.size.w}
      h={p.size.h}
      look={p.looks.rest}
      mediaURL={mediaURL}
    />
  );
  const gaps = new Map(scene.targets.map((t) => [t.id, t.frame]));
  return (
    <div style={{ "--s": scale } as CSSProperties} aria-hidden inert className="pointer-events-none">
      <Ground
        width={scene.width}
        height={scene.height}
        color={scene.color}
        picture={scene.picture}
        theme={scene.theme}
        scenery={scene.scenery}
        gap={(id) => gaps.get(id)}
        mediaURL={mediaURL}
      >
        {scene.targets.map(
          (t) =>
            t.shows !== "never" && (
              <div key={t.id} style={{ ...placed(t.frame), zIndex: t.z || undefined }}>
                <TargetWell
                  shape={t.shape}
                  points={t.points}
                  frame={t.frame}
                  label=""
                  side={t.label.side}
                  look={t.looks.rest && { ...t.looks.rest, text: "" }}
                  mediaURL={mediaURL}
                />
              </div>
            ),
        )}
        {scene.pieces.map(
          (p) =>
            p.home && (
              <div key={p.id} style={{ ...placed({ ...p.home, ...p.size }), zIndex: p.z || undefined }}>
                {card(p)}
              </div>
            ),
        )}
      </Ground>
      <div
        data-form={scene.theme?.piece}
        className="flex flex-wrap gap-0.5 pt-1"
        style={{ ...themed(scene.theme), width: `calc(${scene.width}px * var(--s) + 2px)` }}
      >
        {tray.map(card)}
      </div>
    </div>
  );
}
