import { memo, type CSSProperties, type ReactNode } from "react";
import { useShallow } from "zustand/react/shallow";
import { t } from "@lingui/core/macro";
import type { Item, Rect, RichNode, Scenery, Target } from "../../api/types";
import { mediaURL } from "../../board/mediaURL";
import { PieceCard } from "../../board/PieceCard";
import { SceneryFace } from "../../board/SceneryFace";
import { placed, TargetWell } from "../../board/TargetWell";
import { nameOf, type PartID } from "../../document/parts";
import { isSelected, partsOf, useDraft } from "../model/draft";
import { partName } from "../model/partNames";
import { useBoardView } from "./boardView";

/** What a part is told from outside: whether it gives way to what is shown, and its place in the reading order, where that is shown. */
type Told = { dimmed?: boolean; order?: number };

/** How a part is shown now. */
type Shown = {
  selected: boolean;
  /** The only one selected: it has handles. */
  alone: boolean;
  /** A picture of it follows the pointer; it is not seen itself. */
  moving: boolean;
  /** Its frame while it is resized. */
  live?: Rect;
};

/** Each part looks for itself, so that a step of the pointer draws those again that it concerns. */
function useShown(part: PartID): Shown {
  const name = partName(part);
  const { naming, live, moving } = useBoardView(
    useShallow(({ handling: h, naming, moving }) => ({
      naming: naming !== null,
      live: h?.kind === "resize" && partName(h.part) === name ? h.frame : undefined,
      moving: moving.has(name),
    })),
  );
  const shown = useDraft(
    useShallow((s) => {
      const selected = isSelected(s.selection, part);
      return {
        selected: selected || isSelected(s.pointed, part),
        only: selected && s.tool === "select" && partsOf(s.selection).length === 1,
      };
    }),
  );
  return { selected: shown.selected, alone: shown.only && !naming, moving, live };
}

type ShellProps = Told &
  Shown & {
    part: PartID;
    label: string;
    frame?: Rect;
    z?: number;
    /** It stays where it is in the drawing order also while it is selected. */
    under?: boolean;
    children: ReactNode;
    handles?: ReactNode;
  };

function Shell({
  part,
  label,
  frame,
  z,
  under,
  selected,
  alone,
  dimmed,
  moving,
  order,
  children,
  handles,
}: ShellProps) {
  const style: CSSProperties = frame ? placed(frame) : { position: "relative" };
  if (moving) style.opacity = 0;
  else if (z || selected) style.zIndex = selected && !under ? 1500 : z;
  return (
    <div
      role="button"
      tabIndex={0}
      data-part={partName(part)}
      aria-label={label}
      aria-description={
        frame && t`at ${Math.round(frame.x)}, ${Math.round(frame.y)}, ${Math.round(frame.w)} by ${Math.round(frame.h)}`
      }
      aria-pressed={selected}
      className={`cursor-grab touch-none rounded-sm ${dimmed ? "opacity-25" : selected ? "" : "group-data-pointing/surface:opacity-25"}`}
      style={style}
    >
      {children}
      {order !== undefined && (
        <span className="absolute -top-2 -right-2 z-30 rounded-[50%] bg-feather px-1.5 text-[11px] font-bold text-on-feather">
          {order}
        </span>
      )}
      {alone && !moving && (handles ?? <Handles />)}
    </div>
  );
}

export const ItemView = memo(function ItemView({ item, tray, ...told }: Told & { item: Item; tray: boolean }) {
  const part: PartID = { kind: "item", id: item.id };
  const { live, ...shown } = useShown(part);
  const size = live ?? item.size;
  return (
    <Shell
      {...told}
      {...shown}
      part={part}
      label={t`Item ${nameOf(item)}`}
      frame={tray ? undefined : (live ?? { ...item.home!, ...item.size })}
      z={1 + item.z}
    >
      <PieceCard
        text={item.text}
        picture={item.picture && mediaURL(item.picture)}
        w={size.w}
        h={size.h}
        selected={shown.selected}
        look={item.looks?.rest}
        mediaURL={mediaURL}
      />
      {item.copies > 1 && (
        <span className="absolute -right-1 -bottom-1 rounded-sm bg-slate px-1 text-[11px] text-paper">
          × {item.copies}
        </span>
      )}
    </Shell>
  );
});

export const TargetView = memo(function TargetView({
  target: one,
  number,
  ...told
}: Told & { target: Target; number: number }) {
  const part: PartID = { kind: "target", id: one.id };
  const { live, ...shown } = useShown(part);
  const frame = live ?? one.frame;
  return (
    <Shell
      {...told}
      {...shown}
      part={part}
      label={t`Target ${number} ${nameOf(one)}`}
      frame={frame}
      z={one.z}
      handles={one.shape === "polygon" ? <Corners target={one} /> : undefined}
    >
      <span className={one.shows === "never" ? "opacity-45" : one.shows === "inHand" ? "opacity-70" : ""}>
        <TargetWell
          shape={one.shape}
          points={one.points}
          frame={one.frame}
          label={one.label.text}
          side={one.label.side}
          number={number}
          state={shown.selected ? "selected" : "rest"}
          look={one.looks?.rest}
          mediaURL={mediaURL}
        />
      </span>
      {one.shows !== "always" && (
        <span className="absolute right-0.5 bottom-0.5 rounded-sm bg-slate px-1 text-[10px] text-paper">
          {one.shows === "never" ? t`hidden` : t`shown while dragging`}
        </span>
      )}
    </Shell>
  );
});

type SceneryProps = Told & {
  scenery: Scenery;
  rich: RichNode[];
  board: { width: number; height: number };
  gap: (target: string) => { w: number; h: number } | undefined;
};

export const SceneryView = memo(function SceneryView({ scenery: s, rich, board, gap, ...told }: SceneryProps) {
  const part: PartID = { kind: "scenery", id: s.id };
  const { live, ...shown } = useShown(part);
  const frame = live ?? s.frame;
  const line = s.from && s.to ? { from: s.from, to: s.to } : undefined;
  const label = t`Scenery ${s.alt || (s.text ? s.text.slice(0, 60) : "") || s.id}`;
  return (
    <Shell
      {...told}
      {...shown}
      part={part}
      label={label}
      frame={frame ?? bounds(line)}
      z={s.z}
      under // else targets on it, and gaps in it, could not be reached
      handles={line ? <Ends {...line} frame={bounds(line)} /> : undefined}
    >
      {line ? (
        <LineFace s={s} line={line} selected={shown.selected} />
      ) : (
        <span className={`absolute inset-0 block ${shown.selected ? "outline-2 outline-feather" : ""}`}>
          <SceneryFace scenery={{ ...s, frame, rich }} mediaURL={mediaURL} board={board} gap={gap} />
          {s.type === "text" && !s.text && <span className="text-slate">{t`Double-click to add text`}</span>}
          {s.type === "picture" && !s.picture && (
            <span className="absolute inset-0 grid place-items-center text-slate">{t`Drop a picture here`}</span>
          )}
        </span>
      )}
    </Shell>
  );
});

type Ends = { from: { x: number; y: number }; to: { x: number; y: number } };

/** A line's own box, wide enough to be pressed. */
function bounds(line: Ends | undefined): Rect | undefined {
  if (!line) return undefined;
  const { from, to } = line;
  const pad = 6;
  return {
    x: Math.min(from.x, to.x) - pad,
    y: Math.min(from.y, to.y) - pad,
    w: Math.abs(from.x - to.x) + 2 * pad,
    h: Math.abs(from.y - to.y) + 2 * pad,
  };
}

function LineFace({ s, line, selected }: { s: Scenery; line: Ends; selected: boolean }) {
  const box = bounds(line)!;
  const near = (p: { x: number; y: number }) => ({ x: p.x - box.x, y: p.y - box.y });
  return (
    <span className={`absolute inset-0 ${selected ? "text-feather [&_svg]:text-feather" : ""}`}>
      <SceneryFace
        scenery={{ ...s, from: near(line.from), to: near(line.to), rich: [] }}
        mediaURL={mediaURL}
        board={{ width: box.w, height: box.h }}
      />
    </span>
  );
}

/** What is held by a finger is larger than what is seen of it. */
const handle =
  "absolute z-20 size-3 touch-none rounded-[2px] border border-feather bg-paper pointer-coarse:before:absolute";
const round = `${handle} -m-1.5 cursor-move rounded-[50%]! pointer-coarse:before:-inset-2`;

function Handles() {
  const corners: [string, string][] = [
    // Outwards alone: within the part a finger moves it.
    ["nw", "-top-1.5 -left-1.5 cursor-nwse-resize before:-top-4 before:right-0 before:bottom-0 before:-left-4"],
    ["ne", "-top-1.5 -right-1.5 cursor-nesw-resize before:-top-4 before:-right-4 before:bottom-0 before:left-0"],
    ["sw", "-bottom-1.5 -left-1.5 cursor-nesw-resize before:top-0 before:right-0 before:-bottom-4 before:-left-4"],
    ["se", "-right-1.5 -bottom-1.5 cursor-nwse-resize before:top-0 before:-right-4 before:-bottom-4 before:left-0"],
  ];
  return corners.map(([corner, place]) => <span key={corner} data-handle={corner} className={`${handle} ${place}`} />);
}

/** A polygon's corners, each to be moved by itself. */
function Corners({ target }: { target: Target }) {
  return (target.points ?? []).map((p, i) => (
    <span
      key={i}
      data-corner={i}
      className={round}
      style={{
        left: `calc(${p![0]! - target.frame.x}px * var(--s))`,
        top: `calc(${p![1]! - target.frame.y}px * var(--s))`,
      }}
    />
  ));
}

function Ends({ from, to, frame }: Ends & { frame?: Rect }) {
  return (["from", "to"] as const).map((end) => {
    const p = end === "from" ? from : to;
    return (
      <span
        key={end}
        data-end={end}
        className={round}
        style={{
          left: `calc(${p.x - (frame?.x ?? 0)}px * var(--s))`,
          top: `calc(${p.y - (frame?.y ?? 0)}px * var(--s))`,
        }}
      />
    );
  });
}
