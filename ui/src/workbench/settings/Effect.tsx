import { t } from "@lingui/core/macro";
import type { Doc } from "../../api/types";

type Play = Doc["play"];
export type Moment = "arrive" | "hand" | "drop" | "check" | "again" | "over";

type PieceProps = {
  x: number;
  y: number;
  mark?: "right" | "wrong" | "held";
  faint?: boolean;
  lifted?: boolean;
  n?: number;
};

/** A piece of the miniature: a card with a cut corner, with its mark. */
function Piece({ x, y, mark, faint, lifted, n }: PieceProps) {
  const tone = mark === "wrong" ? "text-ember" : mark ? "text-teal" : "text-edge";
  return (
    <g
      transform={`translate(${x} ${y})`}
      className={`${tone} motion-safe:transition-transform`}
      opacity={faint ? 0.3 : 1}
    >
      <path d="M0 0h16l6 6v10H0z" fill="var(--paper)" stroke="currentColor" strokeWidth={lifted ? 2 : 1.3} />
      {n !== undefined && (
        <text x={8} y={12} fontSize={9} textAnchor="middle" fill="var(--ink)">
          {n}
        </text>
      )}
      {(mark === "right" || mark === "held") && (
        <path d="m4 8 3 3 6-7" fill="none" stroke="currentColor" strokeWidth={2} />
      )}
      {mark === "held" && <path d="M0 19h22" stroke="currentColor" strokeWidth={2.5} />}
      {mark === "wrong" && <path d="M8.4 1.6a5 5 0 0 0 0 10zM10 4.4a5 5 0 0 1 0 10z" fill="currentColor" />}
    </g>
  );
}

function Well({ x, beckons }: { x: number; beckons?: boolean }) {
  return (
    <rect
      x={x}
      y={6}
      width={58}
      height={36}
      rx={4}
      fill="var(--well)"
      stroke={beckons ? "var(--feather)" : "var(--rim)"}
      strokeWidth={beckons ? 2 : 1}
      strokeDasharray={beckons ? "4 3" : undefined}
    />
  );
}

/** What a chapter's settings do, as a small board that follows them: two targets, the tray below. */
export function Effect({ moment, play }: { moment: Moment; play: Play }) {
  return (
    <svg
      viewBox="0 0 140 76"
      className="h-19 w-35 shrink-0 rounded-(--radius) border border-line bg-paper"
      aria-hidden
      data-effect={moment}
    >
      <Well x={8} beckons={moment === "hand" && play.beckon !== "none"} />
      <Well x={74} beckons={moment === "hand" && play.beckon === "open"} />
      <rect x={8} y={50} width={124} height={22} rx={3} fill="var(--shade)" stroke="var(--line)" />
      {inside(moment, play)}
    </svg>
  );
}

function inside(moment: Moment, play: Play) {
  switch (moment) {
    case "arrive": {
      const order = play.shuffle ? [3, 1, 4, 2] : [1, 2, 3, 4];
      return (
        <>
          {order.map((n, i) => (
            <Piece key={n} x={13 + 29 * i} y={53} n={n} faint={play.deal === "one" && i > 0} />
          ))}
          {play.timeLimit > 0 && (
            <g transform="translate(126 14)" stroke="var(--ink)" fill="none" strokeWidth={1.3}>
              <circle r={8} fill="var(--paper)" />
              <path d="M0-5v5l4 2" />
            </g>
          )}
        </>
      );
    }
    case "hand":
      return <Piece x={58} y={30} lifted />;
    case "drop": {
      const hit = typeof play.hit === "string" ? play.hit : "overlap";
      const x = { centre: 52, touch: 63, inside: 36, overlap: 48 }[hit] ?? 52;
      return (
        <>
          {play.reach > 0 && (
            <rect x={3} y={1} width={68} height={46} rx={6} fill="none" stroke="var(--feather)" strokeDasharray="2 3" />
          )}
          <Piece x={x} y={16} lifted />
          <path d={`M${x + 11} 22v4M${x + 9} 24h4`} stroke="var(--feather)" strokeWidth={1.5} />
          {play.offTarget === "stay" ? <Piece x={112} y={22} /> : <Piece x={100} y={53} />}
        </>
      );
    }
    case "check": {
      const marks = play.show !== "never";
      return (
        <>
          <Piece x={26} y={16} mark={marks ? "right" : undefined} />
          <Piece x={92} y={16} mark={marks ? "wrong" : undefined} />
          {play.check !== "each" && (
            <rect
              x={104}
              y={54}
              width={24}
              height={14}
              rx={3}
              fill="var(--feather)"
              opacity={play.checkWhen === "allPlaced" ? 0.4 : 1}
            />
          )}
          {play.show === "placement" && <path d="M40 12l4-6M37 11l-1-7" stroke="var(--feather)" strokeWidth={1.5} />}
        </>
      );
    }
    case "again":
      return (
        <>
          {play.rightPieces === "home" ? (
            <Piece x={20} y={53} />
          ) : (
            <Piece x={26} y={16} mark={play.rightPieces === "hold" ? "held" : undefined} />
          )}
          {play.wrongPieces === "home" ? <Piece x={60} y={53} /> : <Piece x={92} y={16} />}
        </>
      );
    case "over":
      return play.review === "none" ? (
        <text x={70} y={30} fontSize={13} textAnchor="middle" fill="var(--ink)">
          {t`score`}
        </text>
      ) : (
        <>
          <Piece x={26} y={16} mark="right" />
          {play.review !== "key" && <Piece x={92} y={16} mark="wrong" />}
          {play.review === "key" && <Piece x={38} y={20} mark="right" />}
          {play.review === "both" && (
            <g>
              <rect x={44} y={54} width={52} height={14} rx={3} fill="var(--paper)" stroke="var(--feather)" />
              <rect x={44} y={54} width={26} height={14} rx={3} fill="var(--feather-soft)" stroke="var(--feather)" />
            </g>
          )}
        </>
      );
  }
}
