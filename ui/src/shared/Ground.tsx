import type { CSSProperties, ReactNode } from "react";
import { placed } from "./TargetWell";
import type { Rect } from "../api/types";

type Point = { x: number; y: number };
type Scenery = { type: string; frame?: Rect; from?: Point; to?: Point; text: string; picture: string; alt: string };

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
      {scenery.map((s, i) =>
        s.from && s.to ? (
          <Line key={i} from={s.from} to={s.to} arrow={s.type === "arrow"} board={{ width, height }} />
        ) : (
          s.frame && (
            <div key={i} style={placed(s.frame)} className="pointer-events-none">
              {s.type === "picture" && s.picture && (
                <img src={mediaURL(s.picture)} alt={s.alt} className="size-full object-contain" draggable={false} />
              )}
              {s.type === "text" && <p style={{ fontSize: "calc(18px * var(--s))" }}>{s.text}</p>}
              {s.type === "box" && <div className="size-full rounded-(--radius) border border-edge bg-shade" />}
              {s.type === "ellipse" && <div className="size-full rounded-[50%] border border-edge bg-shade" />}
            </div>
          )
        ),
      )}
      {children}
    </div>
  );
}

/** A line on the board; an arrow has its head at the second end. */
function Line({
  from,
  to,
  arrow,
  board,
}: {
  from: Point;
  to: Point;
  arrow: boolean;
  board: { width: number; height: number };
}) {
  const angle = Math.atan2(to.y - from.y, to.x - from.x);
  const wing = (turn: number) => `${to.x - 14 * Math.cos(angle + turn)} ${to.y - 14 * Math.sin(angle + turn)}`;
  return (
    <svg
      className="pointer-events-none absolute inset-0 size-full text-slate"
      viewBox={`0 0 ${board.width} ${board.height}`}
      preserveAspectRatio="none"
      aria-hidden
    >
      <path
        d={`M${from.x} ${from.y}L${to.x} ${to.y}${arrow ? `M${wing(0.45)}L${to.x} ${to.y}L${wing(-0.45)}` : ""}`}
        fill="none"
        stroke="currentColor"
        strokeWidth={3}
        strokeLinecap="round"
      />
    </svg>
  );
}
