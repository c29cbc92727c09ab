import type { CSSProperties, ReactNode } from "react";
import { placed } from "./TargetWell";
import type { Rect } from "../api/types";

type Scenery = { type: string; frame: Rect; text: string; picture: string; alt: string };

type Props = {
  width: number;
  height: number;
  color: string;
  picture: string;
  scenery: Scenery[];
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
      {scenery.map((s, i) => (
        <div key={i} style={placed(s.frame)} className="pointer-events-none">
          {s.type === "picture" && s.picture && (
            <img src={mediaURL(s.picture)} alt={s.alt} className="size-full object-contain" draggable={false} />
          )}
          {s.type === "text" && <p style={{ fontSize: "calc(18px * var(--s))" }}>{s.text}</p>}
          {s.type === "box" && <div className="size-full rounded-(--radius) border border-edge bg-shade" />}
          {s.type === "ellipse" && <div className="size-full rounded-[50%] border border-edge bg-shade" />}
        </div>
      ))}
      {children}
    </div>
  );
}
