import type { CSSProperties } from "react";
import type { Scene } from "../api/types";
import { Ground } from "../board/Ground";
import { placed } from "../board/TargetWell";
import { useSize } from "../kit/useSize";
import { useWords } from "../words/words";

type Props = { scene: Scene; targets: Scene["targets"]; mediaURL: (id: string) => string };

/** Whether the list says less than the board: there is something to see on it. */
export const showsMore = (scene: Scene) => scene.picture !== "" || scene.scenery.some((s) => s.rich.length === 0);

const least = 0.5; // of the board's own size: smaller, its pictures tell nothing

/** The board as a picture, its places numbered as the list's headings are. */
export function ListPicture({ scene, targets, mediaURL }: Props) {
  const w = useWords();
  const [room, size] = useSize<HTMLDivElement>();
  const scale = Math.min(1, Math.max(least, size.width / scene.width));
  return (
    <div ref={room} tabIndex={0} role="group" aria-label={w("listPicture")} className="max-h-[60vh] overflow-auto">
      {size.width > 0 && (
        <div style={{ "--s": scale } as CSSProperties} className="w-max">
          <Ground of={scene} mediaURL={mediaURL}>
            {targets.map((t, i) => (
              <span key={t.id} style={placed(t.frame)} className="rounded-(--radius) border border-slate/60">
                <span
                  aria-hidden
                  className="absolute top-1/2 left-1/2 grid h-6 min-w-6 -translate-1/2 place-items-center rounded-sm bg-slate px-1 text-[13px] font-bold text-paper"
                >
                  {i + 1}
                </span>
              </span>
            ))}
          </Ground>
        </div>
      )}
    </div>
  );
}
