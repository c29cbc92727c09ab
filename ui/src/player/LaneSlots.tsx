import type { CSSProperties, KeyboardEvent } from "react";
import type { Scene, Standing } from "../api/types";
import { useWords } from "../words/words";

type Props = {
  scene: Scene;
  standing: Standing;
  /** The piece in hand, by press or key. */
  piece: string;
  onPut: (target: string, index: number) => void;
  onKeyDown: (e: KeyboardEvent, put: () => void) => void;
};

/** The places before each piece of a lane, while a piece is in hand by press or key: the lane itself is its end. */
export function LaneSlots({ scene, standing, piece, onPut, onKeyDown }: Props) {
  const w = useWords();
  return scene.targets.flatMap((t) => {
    if (!t.lane) return [];
    const column = t.lane.as === "column" || (!t.lane.as && t.frame.h > t.frame.w);
    const others = (standing.targets[t.id] ?? []).filter((id) => id !== piece);
    return others.map((id, i) => {
      const r = standing.stands[id];
      const before = scene.pieces.find((p) => p.id === id);
      if (!r || !before) return null;
      const put = () => onPut(t.id, i);
      // At the piece's near edge, and never too narrow to be hit.
      const style: CSSProperties = column
        ? {
            left: `calc(${r.x}px * var(--s))`,
            width: `calc(${r.w}px * var(--s))`,
            top: `calc(${r.y}px * var(--s) - 12px)`,
            height: 24,
          }
        : {
            top: `calc(${r.y}px * var(--s))`,
            height: `max(24px, calc(${r.h}px * var(--s)))`,
            left: `calc(${r.x}px * var(--s) - 12px)`,
            width: 24,
          };
      return (
        <button
          key={`${t.id}.${id}`}
          type="button"
          data-target={`${t.id}.${i}`}
          aria-label={w("before", { target: t.spoken, piece: before.spoken })}
          onClick={put}
          onKeyDown={(e) => onKeyDown(e, put)}
          style={{ ...style, position: "absolute", zIndex: 2200 }}
          className="group grid cursor-pointer place-items-center"
        >
          <span
            className={`rounded-[2px] bg-feather group-hover:opacity-100 group-focus-visible:opacity-100 ${column ? "h-[3px] w-full" : "h-full w-[3px]"} opacity-60`}
          />
        </button>
      );
    });
  });
}
