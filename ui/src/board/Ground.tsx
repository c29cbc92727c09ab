import type { CSSProperties, ReactNode } from "react";
import type { Theme } from "../api/types";
import { colour, themed } from "./looks";
import type { GapRoom } from "./RichText";
import { SceneryFace, type SceneryLook } from "./SceneryFace";
import { placed } from "./TargetWell";

type Props = {
  /** What there is of it: a scene, or as much of a document. */
  of: { width: number; height: number; color: string; picture: string; theme?: Theme; scenery: SceneryLook[] };
  /** The room that gaps take in a text. */
  gap?: (target: string) => GapRoom | undefined;
  mediaURL: (id: string) => string;
  children?: ReactNode;
  className?: string;
  style?: CSSProperties;
};

/** The board's ground: background and scenery, on which the parts stand. */
export function Ground({
  of: { width, height, color, picture, theme, scenery },
  gap,
  mediaURL,
  children,
  className = "",
  style,
}: Props) {
  return (
    <div
      data-form={theme?.piece}
      className={`relative isolate rounded-(--radius) border border-line bg-paper shadow-(--shadow-card) ${className}`}
      style={{
        width: `calc(${width}px * var(--s))`,
        height: `calc(${height}px * var(--s))`,
        boxSizing: "content-box",
        ...themed(theme),
        ...(color ? { backgroundColor: colour(color) } : {}),
        ...(picture ? { backgroundImage: `url("${mediaURL(picture)}")`, backgroundSize: "100% 100%" } : {}),
        ...style,
      }}
    >
      {scenery.map((s, i) => (
        <div
          key={i}
          style={{ ...placed(s.frame ?? { x: 0, y: 0, w: width, h: height }), zIndex: s.z || undefined }}
          className="pointer-events-none [&_a]:pointer-events-auto"
        >
          <SceneryFace scenery={s} mediaURL={mediaURL} board={{ width, height }} gap={gap} />
        </div>
      ))}
      {children}
    </div>
  );
}
