import { memo, type CSSProperties } from "react";
import type { Look } from "../api/types";
import { colour, textStyle, units } from "./looks";
import { PieceShape } from "./PieceShape";
import { SignMark } from "./SignMark";
import { ToneMark } from "./ToneMark";

/** A fixed piece cannot be moved; whether it is right does not show. */
export type Mark = "none" | "right" | "wrong" | "held" | "fixed";

type Props = {
  text: string;
  picture?: string;
  /** Width and height in board units; --s is the scale. */
  w: number;
  h: number;
  mark?: Mark;
  selected?: boolean;
  lifted?: boolean;
  /** How it departs from the theme now. */
  look?: Look;
  mediaURL?: (id: string) => string;
};

const faces: Record<Mark, string> = {
  none: "bg-edge text-edge [--face:var(--card)]",
  right: "bg-teal text-teal [--face:var(--teal-soft)]",
  held: "bg-teal text-teal [--face:var(--teal-soft)]",
  wrong: "bg-ember text-ember [--face:var(--ember-soft)]",
  fixed: "bg-slate text-slate [--face:var(--shade)]",
};

const motions: Record<string, string> = { settle: "motion-settle", turn: "motion-turn", fade: "motion-fade" };

/** The face of a piece: a card with one cut corner, or as its theme and its looks have it. Drawn alike on every board. */
export const PieceCard = memo(function PieceCard(p: Props) {
  const { w, h, mark = "none", selected, lifted, look, mediaURL } = p;
  const style = look?.style;
  const text = look?.text ?? p.text;
  const picture = look?.picture !== undefined ? look.picture && mediaURL?.(look.picture) : p.picture;
  const bare = style?.card === false;
  const round = style?.crop === "round";
  // With a corner or dashes of its own the edge is a border; else it is what is left of a larger cut shape.
  const plain = !bare && (style?.corner !== undefined || !!style?.edge?.dash);
  const toned = mark === "none" ? colour(style?.edge?.color) : undefined;
  const tone = selected && mark === "none" ? "bg-feather text-feather [--face:var(--feather-soft)]" : faces[mark];
  const marked = mark !== "none" && mark !== "fixed";
  const sign = look?.sign;
  const width = style?.edge?.width ?? 1.5;
  const shape = plain || bare ? "" : "cut-corner";
  const face = (
    <>
      {picture && (
        <img
          src={picture}
          alt=""
          draggable={false}
          className={`min-h-[45%] w-full flex-1 ${round ? "rounded-[50%] object-cover" : `rounded-sm object-contain ${bare ? "" : "bg-picture"}`}`}
        />
      )}
      {text && (
        <span
          dir="auto"
          className={`w-full text-center leading-tight font-medium break-words text-ink ${picture ? "max-h-[52%] min-h-0 overflow-hidden @max-[52px]:hidden" : "max-h-full overflow-hidden"}`}
          style={{
            fontSize: `max(var(--least-text, 9px), calc(var(--piece-text, 15) * 1px * var(--s) * ${Math.min(1, w / 100)}))`,
            ...textStyle(style),
          }}
        >
          {text}
        </span>
      )}
    </>
  );
  const column = "flex flex-col items-center justify-center gap-[2%]";
  return (
    <span
      key={look?.motion}
      className={`@container relative block select-none ${lifted || style?.shadow ? "drop-shadow-lg" : ""} ${motions[look?.motion ?? ""] ?? ""}`}
      style={{
        width: units(w),
        height: units(h),
        ...(look?.scale ? { scale: String(look.scale / 100) } : {}),
        ...(look?.opacity !== undefined ? { opacity: look.opacity / 100 } : {}),
      }}
    >
      {style?.shape ? (
        <span className={`absolute inset-0 ${tone} bg-transparent! ${selected ? "outline-2 outline-feather" : ""}`}>
          <PieceShape style={style} w={w} h={h} marked={mark !== "none"} />
          <span className={`absolute inset-[8%] ${column}`}>{face}</span>
        </span>
      ) : bare ? (
        <span className={`absolute inset-0 ${column} ${selected ? "outline-2 outline-feather" : ""}`}>{face}</span>
      ) : plain ? (
        <span
          className={`absolute inset-0 ${column} border p-[4%] ${tone} bg-(--face)!`}
          style={{
            ...(mark === "none" && !selected && style.fill ? ({ "--face": colour(style.fill) } as CSSProperties) : {}),
            borderColor: toned ?? "currentColor",
            borderWidth: units(width),
            borderStyle: style.edge?.dash ? "dashed" : "solid",
            borderRadius: units(style.corner ?? 6),
          }}
        >
          {face}
        </span>
      ) : (
        <span className={`absolute inset-0 ${shape} ${tone}`} style={toned && !selected ? { background: toned } : {}}>
          <span
            className={`absolute ${shape} ${column} bg-(--face) p-[4%]`}
            style={{
              inset: style?.edge?.width === undefined ? "1.5px" : units(width),
              ...(mark === "none" && !selected && style?.fill ? { background: colour(style.fill) } : {}),
            }}
          >
            {face}
          </span>
          <span className="fold absolute top-0 right-0 size-(--cut) opacity-70" />
        </span>
      )}
      {marked && sign && <SignMark sign={sign} src={mediaURL?.(sign.picture) ?? ""} />}
      {marked && !sign && (
        <ToneMark tone={mark === "wrong" ? "wrong" : "right"} className="absolute -top-1 -left-1 drop-shadow-sm" />
      )}
    </span>
  );
});
