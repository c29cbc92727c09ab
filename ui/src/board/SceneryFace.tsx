import type { Rect, RichNode, Style } from "../api/types";
import { boxStyle, colour, textStyle } from "./looks";
import { RichText, type GapRoom } from "./RichText";

type Point = { x: number; y: number };
export type SceneryLook = {
  type: string;
  frame?: Rect;
  from?: Point;
  to?: Point;
  rich: RichNode[];
  picture: string;
  alt: string;
  style?: Style;
  z: number;
};

type Props = {
  scenery: SceneryLook;
  mediaURL: (id: string) => string;
  board: { width: number; height: number };
  /** The room that gaps take in a text. */
  gap?: (target: string) => GapRoom | undefined;
};

/** A part that only stands on the board. It fills its parent; a line lies over the whole board. */
export function SceneryFace({ scenery: s, mediaURL, board, gap }: Props) {
  if (s.from && s.to) return <Line scenery={s} from={s.from} to={s.to} board={board} />;
  const box = boxStyle(s.style);
  switch (s.type) {
    case "picture":
      return s.picture ? (
        <img
          src={mediaURL(s.picture)}
          alt={s.alt}
          className={`size-full ${s.style?.crop === "round" ? "rounded-[50%] object-cover" : "object-contain"}`}
          style={box}
          draggable={false}
        />
      ) : (
        <div className="size-full border border-dashed border-edge" style={box} />
      );
    case "text":
      return <Text scenery={s} gap={gap} />;
    case "box":
    case "ellipse":
      return (
        <div
          className={`grid size-full place-items-center overflow-hidden border border-edge bg-shade p-[2%] text-center ${s.type === "box" ? "rounded-(--radius)" : "rounded-[50%]"}`}
          style={{ ...box, ...(s.type === "ellipse" ? { borderRadius: "50%" } : {}) }}
        >
          {s.rich.length > 0 && <Text scenery={s} gap={gap} centred />}
        </div>
      );
    default:
      return null;
  }
}

/**
 * A text is set at its own size and then drawn larger or smaller as a whole, so that
 * its lines break alike at every scale, and its gaps stay where their targets are.
 */
function Text({ scenery: s, gap, centred }: { scenery: SceneryLook; gap: Props["gap"]; centred?: boolean }) {
  const style = textStyle(s.style);
  delete style.fontSize;
  return (
    <div
      data-text
      dir="auto"
      className={centred ? "w-max max-w-full shrink-0" : ""}
      style={{
        width: centred ? undefined : s.frame?.w,
        ...(centred
          ? { fontSize: `calc(${s.style?.text?.size ?? 18}px * var(--s))` }
          : { fontSize: s.style?.text?.size ?? 18, transform: "scale(var(--s))", transformOrigin: "0 0" }),
        lineHeight: 1.5,
        ...style,
        ...(centred ? {} : boxStyle(s.style)),
      }}
    >
      <RichText nodes={s.rich} gap={gap} />
      {gap && (
        <span data-ruler aria-hidden className="invisible absolute top-0 left-0 whitespace-nowrap">
          as wide as this
        </span>
      )}
    </div>
  );
}

type LineProps = { scenery: SceneryLook; from: Point; to: Point; board: { width: number; height: number } };

/** A line on the board; an arrow has its head at the second end. */
function Line({ scenery: s, from, to, board }: LineProps) {
  const edge = s.style?.edge;
  const width = edge?.width ?? 3;
  const angle = Math.atan2(to.y - from.y, to.x - from.x);
  const reach = 8 + 2 * width;
  const wing = (turn: number) => `${to.x - reach * Math.cos(angle + turn)} ${to.y - reach * Math.sin(angle + turn)}`;
  return (
    <svg
      className="pointer-events-none absolute inset-0 size-full text-slate"
      viewBox={`0 0 ${board.width} ${board.height}`}
      preserveAspectRatio="none"
      role={s.alt ? "img" : undefined}
      aria-label={s.alt || undefined}
      aria-hidden={!s.alt}
    >
      <g fill="none" stroke={colour(edge?.color) ?? "currentColor"} strokeWidth={width} strokeLinecap="round">
        <path d={`M${from.x} ${from.y}L${to.x} ${to.y}`} strokeDasharray={edge?.dash || undefined} />
        {s.type === "arrow" && <path d={`M${wing(0.45)}L${to.x} ${to.y}L${wing(-0.45)}`} />}
      </g>
    </svg>
  );
}
