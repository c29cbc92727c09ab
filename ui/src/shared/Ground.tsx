import type { CSSProperties, ReactNode } from "react";
import { SceneryFace, type SceneryLook } from "./SceneryFace";
import { placed } from "./TargetWell";

type Props = {
  width: number;
  height: number;
  color: string;
  picture: string;
  scenery: SceneryLook[];
  mediaURL: (id: string) => string;
  children?: ReactNode;
  className?: string;
  style?: CSSProperties;
};

/** The board's ground: background and scenery, on which the parts stand. */
export function Ground({ width, height, color, picture, scenery, mediaURL, children, className = "", style }: Props) {
  return (
    <div
      className={`relative rounded-(--radius) border border-line bg-paper shadow-(--shadow-card) ${className}`}
      style={{
        width: `calc(${width}px * var(--s))`,
        height: `calc(${height}px * var(--s))`,
        boxSizing: "content-box",
        ...(color.startsWith("#") ? { backgroundColor: color } : {}),
        ...(picture ? { backgroundImage: `url("${mediaURL(picture)}")`, backgroundSize: "100% 100%" } : {}),
        ...style,
      }}
    >
      {scenery.map((s, i) =>
        s.frame ? (
          <div key={i} style={placed(s.frame)} className="pointer-events-none">
            <SceneryFace scenery={s} mediaURL={mediaURL} board={{ width, height }} />
          </div>
        ) : (
          <SceneryFace key={i} scenery={s} mediaURL={mediaURL} board={{ width, height }} />
        ),
      )}
      {children}
    </div>
  );
}
