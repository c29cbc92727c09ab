import type { CSSProperties, ReactNode } from "react";
import type { Look, Rect } from "../api/types";
import { boxStyle, colour, textStyle } from "./looks";
import { SignMark } from "./SignMark";

/** Board units to screen, by the scale in --s. */
export function placed(r: Rect): CSSProperties {
  return {
    position: "absolute",
    left: `calc(${r.x}px * var(--s))`,
    top: `calc(${r.y}px * var(--s))`,
    width: `calc(${r.w}px * var(--s))`,
    height: `calc(${r.h}px * var(--s))`,
  };
}

type Props = {
  shape: string;
  /** A polygon's corners, in board units, and the frame that they are drawn in. */
  points?: (number[] | null)[] | null;
  frame?: Rect;
  label: string;
  side: string;
  number?: number;
  state?: "rest" | "selected" | "open" | "over" | "right" | "wrong" | "dim";
  /** How it departs from the theme now. */
  look?: Look;
  mediaURL?: (id: string) => string;
};

const states = {
  rest: "sunk",
  selected: "sunk outline-2 outline-feather",
  open: "sunk outline-1 outline-dashed outline-feather",
  over: "bg-feather-soft outline-2 outline-feather",
  right: "sunk outline-2 outline-teal",
  wrong: "sunk outline-2 outline-ember",
  dim: "sunk opacity-40",
};

/** The same states where the outline is drawn, not set. */
const strokes = {
  rest: "fill-(--well) stroke-(--rim)",
  selected: "fill-(--well) stroke-feather stroke-2",
  open: "fill-(--well) stroke-feather [stroke-dasharray:4_3]",
  over: "fill-feather-soft stroke-feather stroke-2",
  right: "fill-(--well) stroke-teal stroke-2",
  wrong: "fill-(--well) stroke-ember stroke-2",
  dim: "fill-(--well) stroke-(--rim) opacity-40",
};

const sides: Record<string, CSSProperties> = {
  above: { left: "calc(10px * var(--s))", top: 0, transform: "translateY(-50%)" },
  below: { left: "calc(10px * var(--s))", bottom: 0, transform: "translateY(50%)" },
  left: { right: "100%", top: "50%", transform: "translateY(-50%)" },
  right: { left: "100%", top: "50%", transform: "translateY(-50%)" },
  inside: { left: "calc(8px * var(--s))", top: "calc(6px * var(--s))" },
};

/** A target: sunk into the board, with its label on the rim. Fills its parent. */
export function TargetWell(p: Props) {
  const { shape, points, frame, side, number, state = "rest", look, mediaURL } = p;
  const label = look?.text ?? p.label;
  const style = look?.style;
  const corners = points?.map((p) => p?.join(",")).join(" ");
  return (
    <span
      className="absolute inset-0"
      style={{
        ...(look?.scale ? { scale: String(look.scale / 100) } : {}),
        ...(look?.opacity !== undefined ? { opacity: look.opacity / 100 } : {}),
      }}
    >
      {shape === "polygon" && points && frame ? (
        <svg
          className="absolute inset-0 size-full overflow-visible"
          viewBox={`${frame.x} ${frame.y} ${frame.w} ${frame.h}`}
          preserveAspectRatio="none"
          aria-hidden
        >
          {/* Its own tint and edge first; what is with it now is drawn over them. */}
          <polygon
            points={corners}
            vectorEffect="non-scaling-stroke"
            className={style?.fill || style?.edge ? strokes.rest : strokes[state]}
            style={{
              fill: colour(style?.fill),
              stroke: colour(style?.edge?.color),
              strokeWidth: style?.edge?.width,
              strokeDasharray: style?.edge?.dash || undefined,
            }}
          />
          {state !== "rest" && (
            <polygon points={corners} vectorEffect="non-scaling-stroke" className={`${strokes[state]} fill-none!`} />
          )}
        </svg>
      ) : (
        <span
          className={`absolute inset-0 ${states[state]} ${shape === "ellipse" ? "rounded-[50%]" : "rounded-(--radius)"}`}
          style={{ ...boxStyle(style), ...(shape === "ellipse" ? { borderRadius: "50%" } : {}) }}
        />
      )}
      {look?.picture && (
        <img
          src={mediaURL?.(look.picture)}
          alt=""
          className="absolute inset-0 size-full object-contain"
          draggable={false}
        />
      )}
      {look?.sign && <SignMark sign={look.sign} src={mediaURL?.(look.sign.picture) ?? ""} />}
      {(label || number) && <RimLabel label={label} side={side} number={number} style={textStyle(style)} />}
    </span>
  );
}

/** The label on the rim, numbered in the workbench as in the ledger's heads. */
function RimLabel({
  label,
  side,
  number,
  style,
}: {
  label: ReactNode;
  side: string;
  number?: number;
  style: CSSProperties;
}) {
  return (
    <span
      data-label=""
      dir="auto"
      className="absolute flex items-center gap-1.5 rounded-sm border border-line bg-paper px-[0.5em] font-semibold whitespace-nowrap"
      style={{
        ...sides[side],
        fontSize: "max(var(--least-text, 10px), calc(17px * var(--s)))",
        lineHeight: 1.5,
        ...style,
      }}
    >
      {number && (
        <em className="rounded-[3px] bg-slate px-1 text-[0.8em] leading-snug text-paper not-italic">{number}</em>
      )}{" "}
      {label}
    </span>
  );
}
