import type { Rect } from "../api/types";

type Point = { x: number; y: number };
export type SceneryLook = {
  type: string;
  frame?: Rect;
  from?: Point;
  to?: Point;
  text: string;
  picture: string;
  alt: string;
};

type Props = {
  scenery: SceneryLook;
  mediaURL: (id: string) => string;
  board: { width: number; height: number };
};

/** A part that only stands on the board. It fills its parent; a line lies over the whole board. */
export function SceneryFace({ scenery: s, mediaURL, board }: Props) {
  if (s.from && s.to) return <Line from={s.from} to={s.to} arrow={s.type === "arrow"} board={board} />;
  switch (s.type) {
    case "picture":
      return s.picture ? (
        <img src={mediaURL(s.picture)} alt={s.alt} className="size-full object-contain" draggable={false} />
      ) : null;
    case "text":
      return <p style={{ fontSize: "calc(18px * var(--s))" }}>{s.text}</p>;
    case "box":
      return <div className="size-full rounded-(--radius) border border-edge bg-shade" />;
    case "ellipse":
      return <div className="size-full rounded-[50%] border border-edge bg-shade" />;
    default:
      return null;
  }
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
