import type { Style } from "../api/types";
import { colour } from "./looks";

type Props = {
  style: Style;
  w: number;
  h: number;
  /** The colours of what the piece is marked as, where it is; they come before its own. */
  marked: boolean;
};

/** A drawn shape in place of the card of a piece. It fills its parent, whose colour is that of the edge. */
export function PieceShape({ style, w, h, marked }: Props) {
  const edge = style.edge;
  const width = edge?.width ?? 1.5;
  const inset = width / 2;
  const drawn = {
    stroke: (!marked && colour(edge?.color)) || "currentColor",
    strokeWidth: marked ? Math.max(2.5, width) : width,
    strokeDasharray: edge?.dash || undefined,
    fill: colour(style.fill) ?? "var(--face)",
  };
  const corner = style.shape === "rect" ? (style.corner ?? 0) : 0;
  return (
    <svg
      className="absolute inset-0 size-full overflow-visible"
      viewBox={`0 0 ${w} ${h}`}
      preserveAspectRatio="none"
      aria-hidden
    >
      {style.shape === "ellipse" ? (
        <ellipse cx={w / 2} cy={h / 2} rx={w / 2 - inset} ry={h / 2 - inset} style={drawn} />
      ) : style.shape === "polygon" ? (
        <polygon
          points={(style.points ?? [])
            .map((p) => `${((p?.[0] ?? 0) * w) / 100},${((p?.[1] ?? 0) * h) / 100}`)
            .join(" ")}
          strokeLinejoin="round"
          style={drawn}
        />
      ) : (
        <rect x={inset} y={inset} width={w - width} height={h - width} rx={corner} style={drawn} />
      )}
    </svg>
  );
}
