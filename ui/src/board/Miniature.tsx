import { useMemo, type CSSProperties } from "react";
import type { Scene, ScenePiece } from "../api/types";
import { Ground } from "./Ground";
import { themed } from "./looks";
import { PieceCard } from "./PieceCard";
import { mediaURL } from "./mediaURL";
import { placed, TargetWell } from "./TargetWell";

/** Between the pieces of the tray, in board units. */
const gap = 8;

/** The board and its tray as they are, drawn smaller as a whole so that all of it fits. */
export function Miniature({ scene, width, height }: { scene: Scene; width: number; height: number }) {
  const tray = scene.pieces.filter((p) => !p.home);
  const { scale, whole } = useMemo(() => {
    const sizes = scene.pieces.filter((p) => !p.home).map((p) => p.size);
    const perRow = Math.max(1, Math.floor((scene.width + gap) / (Math.max(40, ...sizes.map((p) => p.w)) + gap)));
    const rows = Math.ceil(sizes.length / perRow) * (Math.max(0, ...sizes.map((p) => p.h)) + gap);
    const whole = scene.height + 2 + (rows > 0 ? rows + gap : 0);
    return { scale: Math.min(width / (scene.width + 2), height / whole), whole };
  }, [scene, width, height]);
  const card = (p: ScenePiece) => (
    <PieceCard
      key={p.id}
      text={p.text}
      picture={p.picture && mediaURL(p.picture)}
      w={p.size.w}
      h={p.size.h}
      look={p.looks.rest}
      mediaURL={mediaURL}
    />
  );
  const gaps = new Map(scene.targets.map((t) => [t.id, t.frame]));
  return (
    <div
      aria-hidden
      inert
      className="pointer-events-none overflow-hidden"
      style={{ width: (scene.width + 2) * scale, height: whole * scale }}
    >
      <div
        style={
          { "--s": 1, width: scene.width + 2, transform: `scale(${scale})`, transformOrigin: "0 0" } as CSSProperties
        }
      >
        <Ground of={scene} gap={(id) => gaps.get(id)} mediaURL={mediaURL}>
          {scene.targets.map(
            (t) =>
              t.shows !== "never" && (
                <div key={t.id} style={{ ...placed(t.frame), zIndex: t.z || undefined }}>
                  <TargetWell
                    shape={t.shape}
                    points={t.points}
                    frame={t.frame}
                    label={t.label.text}
                    side={t.label.side}
                    look={t.looks.rest}
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
          className="flex flex-wrap"
          style={{ ...themed(scene.theme), width: scene.width + 2, gap, paddingTop: gap }}
        >
          {tray.map(card)}
        </div>
      </div>
    </div>
  );
}
