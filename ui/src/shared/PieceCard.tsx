import { memo } from "react";

export type Mark = "none" | "right" | "wrong" | "held";

type Props = {
  text: string;
  picture?: string;
  /** Width and height in board units; --s is the scale. */
  w: number;
  h: number;
  mark?: Mark;
  selected?: boolean;
  lifted?: boolean;
};

const faces: Record<Mark, string> = {
  none: "bg-edge text-edge [--face:var(--paper)]",
  right: "bg-teal text-teal [--face:var(--teal-soft)]",
  held: "bg-teal text-teal [--face:var(--teal-soft)]",
  wrong: "bg-ember text-ember [--face:var(--ember-soft)]",
};

/** The face of a piece: a card with one cut corner. Drawn alike on every board. */
export const PieceCard = memo(function PieceCard({ text, picture, w, h, mark = "none", selected, lifted }: Props) {
  const look = selected && mark === "none" ? "bg-feather text-feather [--face:var(--feather-soft)]" : faces[mark];
  return (
    <span
      className={`@container relative block select-none ${lifted ? "drop-shadow-lg" : ""}`}
      style={{ width: `calc(${w}px * var(--s))`, height: `calc(${h}px * var(--s))` }}
    >
      <span className={`cut-corner absolute inset-0 ${look}`}>
        <span className="cut-corner absolute inset-[1.5px] flex flex-col items-center justify-center gap-[2%] bg-(--face) p-[4%]">
          {picture && (
            <img
              src={picture}
              alt=""
              draggable={false}
              className="min-h-0 w-full flex-1 rounded-sm bg-picture object-contain"
            />
          )}
          {text && (
            <span
              className={`w-full text-center leading-tight font-medium break-words text-ink ${picture ? "@max-[52px]:hidden" : ""}`}
              style={{ fontSize: `max(9px, calc(15px * var(--s) * ${Math.min(1, w / 100)}))` }}
            >
              {text}
            </span>
          )}
        </span>
        <span className="fold absolute top-0 right-0 size-(--cut) opacity-70" />
      </span>
      {mark !== "none" && <Seal mark={mark} />}
    </span>
  );
});

/** Right is a seal with a tick, wrong a bent arrow: shape before colour. */
function Seal({ mark }: { mark: Mark }) {
  const size = "absolute -top-1 -left-1 size-[18px] drop-shadow-sm";
  if (mark === "wrong") {
    return (
      <svg viewBox="0 0 18 18" className={`${size} text-ember`} aria-hidden>
        <path d="M2 2h14v14H2z" fill="var(--paper)" stroke="currentColor" strokeWidth="1.5" />
        <path d="M12.5 13V8.5a2 2 0 0 0-2-2H6m2.5-3-3 3 3 3" fill="none" stroke="currentColor" strokeWidth="1.8" />
      </svg>
    );
  }
  return (
    <svg viewBox="0 0 18 18" className={`${size} text-teal`} aria-hidden>
      <path
        d="m9 .8 2.2 1.7 2.8-.2.8 2.700 2.3 1.5-1 2.5 1 2.5-2.3 1.5-.8 2.700-2.8-.2L9 17.2l-2.2-1.7-2.8.2-.8-2.700L.9 11.5l1-2.5-1-2.5L3.200 5 4 2.3l2.8.2z"
        fill="currentColor"
      />
      <path d="m5.5 9.200 2.3 2.3 4.5-4.8" fill="none" stroke="var(--paper)" strokeWidth="1.8" />
    </svg>
  );
}
