import { useCallback, useEffect, useMemo, useRef, useState, type CSSProperties } from "react";
import { Hand, Play } from "lucide-react";
import type { Item, Rect } from "../../api/types";
import { Button } from "../../shared/Button";
import { fit } from "../../shared/fit";
import { Ground } from "../../shared/Ground";
import { themed } from "../../shared/looks";
import { mediaURL } from "../../shared/mediaURL";
import { placed } from "../../shared/TargetWell";
import { useSize } from "../../shared/useSize";
import { itemOf, itemOfPiece, nameOf, rename, sceneryOf, targetOf, type PartID } from "../changes";
import { isSelected, partsOf, useDraft, useDraftStore } from "../draft";
import { NameField } from "../NameField";
import { BoardTools } from "./BoardTools";
import { DrawTools, toolSays } from "./DrawTools";
import { frameOf, readingOrder } from "./frames";
import { HeatOnBoard } from "../outcomes/HeatOnBoard";
import { CheckOnBoard } from "./CheckOnBoard";
import { ReplyOnBoard } from "./ReplyOnBoard";
import { Arranged, Overlay, Samples } from "./Overlay";
import { ItemView, SceneryView, TargetView } from "./PartViews";
import { TextEditor } from "./TextEditor";
import { useBoardKeys } from "./useBoardKeys";
import { useGaps } from "./useGaps";
import { partAt, useHandling } from "./useHandling";
import { Zoom } from "./Zoom";

const noText: never[] = [];

/** The board being laid out, with its tray: select, move, resize, draw, rename. */
export function BoardEditor({ onRehearse }: { onRehearse: () => void }) {
  const store = useDraftStore();
  const { doc, selection, pointed, remark, lens, tool, zoom, showOrder, known, way } = useDraft((s) => s);
  const [room, size] = useSize<HTMLDivElement>();
  const surface = useRef<HTMLDivElement>(null);
  const board = useRef<HTMLDivElement>(null);
  const tray = useRef<HTMLDivElement>(null);
  const [naming, setNaming] = useState<PartID | null>(null);
  const fitted = useMemo(
    () =>
      fit(
        { width: size.width - 12, height: size.height - 12 },
        {
          width: doc.board.width,
          height: doc.board.height,
          pieces: doc.items.filter((i) => !i.home).map((i) => i.size),
          smallest: 0.15,
        },
      ).scale,
    [size, doc.board, doc.items],
  );
  const scale = Math.round(100 * fitted * zoom) / 100;
  const { handling, trace, handlers } = useHandling({ surface, board, tray, scroller: room, scale });
  useGaps(board, scale);

  const name = useCallback(
    (part: PartID) => {
      const s = part.kind === "scenery" ? sceneryOf(store.getState().doc, part.id) : undefined;
      // Scenery has no name; what has a text is written instead.
      if (!s || s.type === "text" || s.type === "box" || s.type === "ellipse") setNaming(part);
    },
    [store],
  );
  const keys = useBoardKeys(surface, name);

  // What is selected elsewhere comes into view where the board is larger than its room.
  useEffect(() => {
    const first = selection.first;
    if (zoom <= 1 || !first) return;
    surface.current
      ?.querySelector(`[data-part="${first.kind}-${CSS.escape(first.id)}"]`)
      ?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [selection, zoom]);

  const pointing = pointed.items.length + pointed.targets.length > 0;
  const alone = partsOf(selection).length === 1;
  const order = useMemo(
    () => (showOrder ? new Map(readingOrder(doc).map((p, i) => [`${p.kind} ${p.id}`, i + 1])) : undefined),
    [doc, showOrder],
  );
  const inWay = useMemo(() => way && new Set(Object.keys(way.stands).map(itemOfPiece)), [way]);
  const moving = useMemo(
    () => new Set(handling?.kind === "move" ? handling.parts.map((p) => `${p.kind} ${p.id}`) : []),
    [handling],
  );
  const shown = (part: PartID) => {
    const selected = isSelected(selection, part);
    const up = isSelected(pointed, part);
    return {
      selected: selected || up,
      alone: selected && alone && !naming && tool === "select",
      dimmed: (pointing && !up && !selected) || (part.kind === "item" && !!inWay?.has(part.id)),
      moving: moving.has(`${part.kind} ${part.id}`),
      order: order?.get(`${part.kind} ${part.id}`),
    };
  };
  const live = (part: PartID): Rect | undefined =>
    handling?.kind === "resize" && handling.part.kind === part.kind && handling.part.id === part.id
      ? handling.frame
      : undefined;
  const gaps = useMemo(() => new Map(doc.targets.map((t) => [t.id, t.frame])), [doc.targets]);
  const gap = useCallback((id: string) => gaps.get(id), [gaps]);
  const hidden = [...doc.items, ...doc.targets, ...doc.scenery].filter((p) => p.hidden).length;
  const item = (i: Item, inTray: boolean) =>
    i.hidden ? null : (
      <ItemView
        key={i.id}
        item={i}
        tray={inTray}
        live={live({ kind: "item", id: i.id })}
        {...shown({ kind: "item", id: i.id })}
      />
    );
  const loose = doc.items.filter((i) => !i.home);
  const writing = naming?.kind === "scenery" ? sceneryOf(doc, naming.id) : undefined;
  return (
    <>
      <div className="flex min-h-0 flex-1 gap-2">
        <DrawTools />
        <div
          ref={room}
          className="relative isolate -m-1 min-h-0 min-w-0 flex-1 overflow-auto p-1 select-none"
          style={{ "--s": scale } as CSSProperties}
        >
          {size.width > 0 && (
            <div
              ref={surface}
              className={`relative flex w-max flex-col gap-3 ${tool === "select" ? "" : "cursor-crosshair [&_[data-part]]:cursor-crosshair"}`}
              {...handlers}
              {...keys}
              onDoubleClick={(e) => {
                // The surface holds the pointer, so that it is the target of all that comes.
                const part = partAt(document.elementFromPoint(e.clientX, e.clientY));
                if (part && tool === "select") name(part);
              }}
              onMouseOver={() => pointing && store.getState().point({})}
            >
              <Ground of={{ ...doc.board, ...doc.board.background, scenery: [] }} className="z-1" mediaURL={mediaURL}>
                <div ref={board} data-ground className="absolute inset-0">
                  {doc.scenery.map(
                    (s) =>
                      !s.hidden && (
                        <SceneryView
                          key={s.id}
                          scenery={s}
                          rich={known?.rich[s.id] ?? noText}
                          board={doc.board}
                          gap={gap}
                          live={live({ kind: "scenery", id: s.id })}
                          {...shown({ kind: "scenery", id: s.id })}
                        />
                      ),
                  )}
                  {doc.targets.map(
                    (t, i) =>
                      !t.hidden && (
                        <TargetView
                          key={t.id}
                          target={t}
                          number={i + 1}
                          live={live({ kind: "target", id: t.id })}
                          {...shown({ kind: "target", id: t.id })}
                        />
                      ),
                  )}
                  {handling?.kind !== "move" && !way && <Samples doc={doc} />}
                  {way && <Arranged doc={doc} stands={way.stands} />}
                  {doc.items.map((i) => i.home && item(i, false))}
                  {naming && naming.kind !== "scenery" && frameOf(doc, naming) && (
                    <Naming part={naming} frame={frameOf(doc, naming)!} onDone={() => setNaming(null)} />
                  )}
                  {writing && <TextEditor scenery={writing} onDone={() => setNaming(null)} />}
                  <CheckOnBoard />
                  <ReplyOnBoard />
                  <HeatOnBoard />
                  <Overlay handling={handling} trace={trace} board={doc.board} />
                </div>
              </Ground>
              <div
                ref={tray}
                data-ground
                data-form={doc.board.theme?.piece}
                aria-label="Tray"
                role="group"
                className="relative flex flex-wrap content-start gap-2 rounded-(--radius) border border-line bg-shade p-2"
                style={{
                  ...themed(doc.board.theme),
                  width: `calc(${doc.board.width}px * var(--s) + 2px)`,
                  minHeight: 48,
                }}
              >
                {loose.map((i) => item(i, true))}
                {loose.length === 0 && (
                  <span className="text-slate">
                    {doc.items.length === 0
                      ? "No pieces yet. Drop pictures here, or add items in the Content tab."
                      : "All pieces start on the board."}
                  </span>
                )}
                {naming?.kind === "item" && !frameOf(doc, naming) && (
                  <Naming part={naming} onDone={() => setNaming(null)} />
                )}
              </div>
            </div>
          )}
        </div>
      </div>
      <BoardTools />
      <div className="flex items-center gap-3">
        <Button onClick={onRehearse}>
          <Play size={15} aria-hidden /> Rehearse
        </Button>
        <Button
          title="Set the answer key by placing the pieces"
          onClick={() => store.setState({ demonstrating: true, way: undefined })}
        >
          <Hand size={15} aria-hidden /> Demonstrate
        </Button>
        <span className="min-w-0 truncate text-slate" title={remark}>
          {(lens !== "content" && remark) ||
            toolSays[tool] ||
            hint(doc.items.length + doc.targets.length, partsOf(selection).length)}
        </span>
        <span className="ml-auto flex items-center gap-2 whitespace-nowrap">
          {hidden > 0 && (
            <button
              type="button"
              className="text-feather underline"
              onClick={() =>
                store.getState().change({
                  says: "show what is hidden",
                  apply: (d) => [...d.items, ...d.targets, ...d.scenery].forEach((p) => (p.hidden = false)),
                })
              }
            >
              {hidden} hidden: show
            </button>
          )}
          <Zoom scroller={room} percent={Math.round(100 * scale)} />
        </span>
      </div>
    </>
  );
}

/** The name of an item or target, typed where it stands. */
function Naming({ part, frame, onDone }: { part: PartID; frame?: Rect; onDone: () => void }) {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  const found = part.kind === "item" ? itemOf(doc, part.id) : targetOf(doc, part.id);
  return (
    <span
      data-editor
      className={`grid place-items-center ${frame ? "" : "absolute top-2 left-2"}`}
      style={{ ...(frame ? placed(frame) : {}), zIndex: 1600 }}
    >
      <NameField
        label={`Name of ${part.kind} ${nameOf(found)}`}
        value={nameOf(found)}
        className="w-32"
        onDone={(name) => {
          onDone();
          if (name) store.getState().change(rename(part, name));
        }}
      />
    </span>
  );
}

function hint(parts: number, selected: number) {
  if (parts === 0) return "Draw targets with the tools on the left; drop pictures to add pieces.";
  if (selected === 0) return "Drag parts to move them; double-click to rename or write.";
  return `${selected} selected`;
}
