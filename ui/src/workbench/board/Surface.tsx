import { memo, useCallback, useEffect, useRef, type CSSProperties, type ReactNode, type RefObject } from "react";
import { t } from "@lingui/core/macro";
import { Ground } from "../../board/Ground";
import { themed } from "../../board/looks";
import { mediaURL } from "../../board/mediaURL";
import { sceneryOf, type PartID } from "../../document/parts";
import { useDraft, useDraftStore } from "../model/draft";
import { useBoardViewStore } from "./boardView";
import { CheckOnBoard } from "./CheckOnBoard";
import { NamingInTray, NamingOnBoard } from "./Naming";
import { Arranged, Overlay, Samples } from "./Overlay";
import { ItemsOnBoard, ItemsInTray, SceneryOnBoard, TargetsOnBoard } from "./Parts";
import { useBoardKeys } from "./useBoardKeys";
import { Crosshair, useCrosshair } from "./Crosshair";
import { useGaps } from "./useGaps";
import { partAt } from "../model/partNames";
import { useHandling } from "./useHandling";

type Props = {
  scroller: RefObject<HTMLElement | null>;
  scale: number;
  /** What lenses show over the board. */
  over: ReactNode;
};

/** Board and tray with all that stands on them, and what pointer and keys do there. */
export const Surface = memo(function Surface({ scroller, scale, over }: Props) {
  const store = useDraftStore();
  const view = useBoardViewStore();
  const surface = useRef<HTMLDivElement>(null);
  const board = useRef<HTMLDivElement>(null);
  const tray = useRef<HTMLDivElement>(null);
  const ground = useDraft((s) => s.doc.board);
  const tool = useDraft((s) => s.tool);
  const stands = useDraft((s) => s.way?.stands);
  const pointing = useDraft(({ pointed: p }) => p.items.length + p.targets.length > 0);
  const { trace, tap, handlers } = useHandling({ surface, board, tray, scroller, scale });

  const name = useCallback(
    (part: PartID) => {
      const s = part.kind === "scenery" ? sceneryOf(store.getState().doc, part.id) : undefined;
      // Scenery has no name; what has a text is written instead.
      if (!s || s.type === "text" || s.type === "box" || s.type === "ellipse") view.setState({ naming: part });
    },
    [store, view],
  );
  const keys = useBoardKeys(surface, name);
  const led = useCrosshair(surface, tap);

  return (
    <div
      ref={surface}
      data-surface
      tabIndex={-1} // a press beside all parts keeps the keys here, for what is selected
      data-pointing={pointing || undefined}
      className={`group/surface relative flex outline-none min-h-full w-max flex-col gap-3 ${tool === "select" ? "" : "cursor-crosshair touch-none [&_[data-part]]:cursor-crosshair"}`}
      style={{ "--s": scale } as CSSProperties}
      {...handlers}
      {...keys}
      {...led(keys.onKeyDown)}
      onDoubleClick={(e) => {
        // The surface holds the pointer, so that it is the target of all that comes.
        const part = partAt(document.elementFromPoint(e.clientX, e.clientY));
        if (part && tool === "select") name(part);
      }}
      onMouseOver={() => pointing && store.getState().point({})}
    >
      <Ground of={{ ...ground, ...ground.background, scenery: [] }} className="z-1" mediaURL={mediaURL}>
        <div ref={board} data-ground className="absolute inset-0">
          <SceneryOnBoard />
          <TargetsOnBoard />
          <Samples />
          {stands && <Arranged stands={stands} />}
          <ItemsOnBoard />
          <NamingOnBoard />
          <CheckOnBoard />
          {over}
          <Overlay trace={trace} board={ground} />
          <Crosshair board={ground} />
        </div>
      </Ground>
      <div
        ref={tray}
        data-ground
        data-form={ground.theme?.piece}
        aria-label={t`Tray`}
        role="group"
        className="relative flex flex-1 flex-wrap content-start gap-2 rounded-(--radius) border border-line bg-shade p-2"
        style={{
          ...themed(ground.theme),
          width: `calc(${ground.width}px * var(--s) + 2px)`,
          minHeight: 48,
        }}
      >
        <ItemsInTray />
        <NamingInTray />
      </div>
      <Followers board={board} surface={surface} scale={scale} />
    </div>
  );
});

type FollowersProps = {
  board: RefObject<HTMLElement | null>;
  surface: RefObject<HTMLElement | null>;
  scale: number;
};

/** What follows the draft without being drawn: gaps go where their text is, and what is selected elsewhere comes into view. */
function Followers({ board, surface, scale }: FollowersProps) {
  const selection = useDraft((s) => s.selection);
  const zoom = useDraft((s) => s.zoom);
  useGaps(board, scale);
  useEffect(() => {
    const first = selection.first;
    if (zoom <= 1 || !first) return; // a board that fits is in view
    surface.current
      ?.querySelector(`[data-part="${first.kind}-${CSS.escape(first.id)}"]`)
      ?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [selection, zoom, surface]);
  return null;
}
