import { useMemo, useRef, useState, type CSSProperties, type KeyboardEvent } from "react";
import { Play } from "lucide-react";
import type { Item, Rect, Scenery, Target } from "../../api/types";
import { Button } from "../../shared/Button";
import { fit } from "../../shared/fit";
import { Ground } from "../../shared/Ground";
import { SceneryFace } from "../../shared/SceneryFace";
import { PieceCard } from "../../shared/PieceCard";
import { mediaURL } from "../../shared/mediaURL";
import { placed, TargetWell } from "../../shared/TargetWell";
import { useSize } from "../../shared/useSize";
import { itemOf, move, nameOf, rename, resize, type PartID } from "../changes";
import { isSelected, nothing, partsOf, selectionOf, useDraft, useDraftStore } from "../draft";
import { NameField } from "../NameField";
import { BoardTools } from "./BoardTools";
import { useHandling } from "./useHandling";

/** The board being laid out, with its tray: select, move, resize, rename. */
export function BoardEditor({ onRehearse }: { onRehearse: () => void }) {
  const store = useDraftStore();
  const { doc, selection, pointed, remark, lens } = useDraft((s) => s);
  const [room, size] = useSize<HTMLDivElement>();
  const board = useRef<HTMLDivElement>(null);
  const tray = useRef<HTMLDivElement>(null);
  const [naming, setNaming] = useState<PartID | null>(null);
  const { scale } = useMemo(
    () =>
      fit(
        { width: size.width - 12, height: size.height - 12 },
        {
          width: doc.board.width,
          height: doc.board.height,
          pieces: doc.items.filter((i) => !i.home).map((i) => i.size),
        },
      ),
    [size, doc.board, doc.items],
  );
  const { handling, partHandlers, handleHandlers, groundHandlers } = useHandling({ board, tray, scale });
  const pointing = pointed.items.length + pointed.targets.length > 0;
  const dimmed = (part: PartID) => pointing && !isSelected(pointed, part) && !isSelected(selection, part);

  const name = (part: PartID) => part.kind !== "scenery" && setNaming(part); // scenery has no name

  const keys = (e: KeyboardEvent, part: PartID, frame: Rect) => {
    const by = e.shiftKey ? 10 : 1;
    const command = e.ctrlKey || e.metaKey;
    const [dx, dy] =
      { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, -by], ArrowDown: [0, by] }[e.key] ?? ([0, 0] as const);
    if (dx || dy) {
      e.preventDefault();
      if (!isSelected(selection, part)) store.getState().select(only(part));
      const parts = partsOf(store.getState().selection);
      if (e.altKey) {
        store.getState().change(resize(part, { ...frame, w: frame.w + dx!, h: frame.h + dy! }, `resize ${part.id}`));
      } else {
        store.getState().change(move(parts, dx!, dy!, "nudge " + parts.map((p) => p.id).join()));
      }
    } else if (e.key === "F2") {
      e.preventDefault();
      name(part);
    } else if (e.key === "Enter" || e.key === " ") {
      e.preventDefault();
      store.getState().select(only(part));
    } else if (e.key === "Escape") {
      store.getState().select(nothing);
    } else if (e.key === "Delete" || e.key === "Backspace" || (command && e.key.toLowerCase() === "d")) {
      e.preventDefault();
      if (!isSelected(store.getState().selection, part)) store.getState().select(only(part));
      const act = command ? "duplicate" : "remove";
      void store.getState().edit(command ? "duplicate" : "delete", { act, parts: store.getState().selection });
    }
  };

  const part = (id: PartID, label: string, frame: Rect, face: React.ReactNode, style: CSSProperties) => {
    const selected = isSelected(selection, id);
    const alone = selected && partsOf(selection).length === 1;
    const shift = handling?.kind === "move" && handling.parts.some((p) => p.id === id.id && p.kind === id.kind);
    const sized = handling?.kind === "resize" && handling.part.id === id.id && handling.part.kind === id.kind;
    return (
      <div
        key={`${id.kind}-${id.id}`}
        role="button"
        tabIndex={0}
        data-part={`${id.kind}-${id.id}`}
        aria-label={label}
        aria-pressed={selected}
        title="Drag to move, double-click to rename. Arrow keys move by 1, with Shift by 10; with Alt they resize"
        onKeyDown={(e) => e.target === e.currentTarget && keys(e, id, frame)}
        onDoubleClick={() => name(id)}
        onMouseEnter={() => store.getState().point(nothing)}
        {...partHandlers(id)}
        className={`touch-none rounded-sm ${dimmed(id) ? "opacity-25" : ""} ${shift ? "z-20 cursor-grabbing opacity-90" : "cursor-grab"}`}
        style={{
          position: "relative",
          ...style,
          ...(selected && id.kind === "scenery" ? { zIndex: 2 } : {}),
          ...(sized ? placedOr(style, handling.frame) : {}),
          ...(shift ? { transform: `translate(${handling.dx * scale}px, ${handling.dy * scale}px)` } : {}),
        }}
      >
        {face}
        {naming?.id === id.id && naming.kind === id.kind && (
          <span className="absolute top-1/2 left-1/2 z-30 -translate-x-1/2 -translate-y-1/2">
            <NameField
              label={`Name of ${id.kind} ${label}`}
              value={nameOf(id.kind === "item" ? itemOf(doc, id.id) : doc.targets.find((t) => t.id === id.id))}
              className="w-32"
              onDone={(name) => {
                setNaming(null);
                if (name) store.getState().change(rename(id, name));
              }}
            />
          </span>
        )}
        {alone && !shift && naming === null && <Handles handlers={(c) => handleHandlers(id, frame, c)} />}
      </div>
    );
  };

  const sizeOf = (item: Item) =>
    handling?.kind === "resize" && handling.part.kind === "item" && handling.part.id === item.id
      ? handling.frame
      : item.size;
  const itemPart = (item: Item, style: CSSProperties) => {
    const id: PartID = { kind: "item", id: item.id };
    const s = sizeOf(item);
    return part(
      id,
      `Item ${nameOf(item)}`,
      { x: item.home?.x ?? 0, y: item.home?.y ?? 0, ...item.size },
      <>
        <PieceCard
          text={item.text}
          picture={item.picture && mediaURL(item.picture)}
          w={s.w}
          h={s.h}
          selected={isSelected(selection, id) || isSelected(pointed, id)}
        />
        {item.copies > 1 && (
          <span className="absolute -right-1 -bottom-1 rounded-sm bg-slate px-1 text-[11px] text-paper">
            × {item.copies}
          </span>
        )}
      </>,
      style,
    );
  };
  const targetPart = (t: Target, n: number) => {
    const id: PartID = { kind: "target", id: t.id };
    const on = isSelected(selection, id) || isSelected(pointed, id);
    return part(
      id,
      `Target ${n} ${nameOf(t)}`,
      t.frame,
      <TargetWell
        shape={t.shape}
        points={t.points}
        frame={t.frame}
        label={t.label.text}
        side={t.label.side}
        number={n}
        state={on ? "selected" : "rest"}
      />,
      placed(t.frame),
    );
  };

  const sceneryPart = (s: Scenery) => {
    if (!s.frame) return <SceneryFace key={s.id} scenery={s} mediaURL={mediaURL} board={doc.board} />;
    const id: PartID = { kind: "scenery", id: s.id };
    const on = isSelected(selection, id);
    return part(
      id,
      `Scenery ${s.alt || s.text || s.id}`,
      s.frame,
      <span className={`absolute inset-0 ${on ? "outline-2 outline-feather" : ""}`}>
        <SceneryFace scenery={s} mediaURL={mediaURL} board={doc.board} />
      </span>,
      placed(s.frame),
    );
  };

  const loose = doc.items.filter((i) => !i.home);
  return (
    <>
      <div
        ref={room}
        className="relative -m-1 min-h-0 flex-1 overflow-auto p-1 select-none"
        style={{ "--s": scale } as CSSProperties}
      >
        {size.width > 0 && (
          <div className="flex flex-col gap-3" {...groundHandlers}>
            <Ground
              width={doc.board.width}
              height={doc.board.height}
              color={doc.board.background.color}
              picture={doc.board.background.picture}
              scenery={[]}
              mediaURL={mediaURL}
            >
              <div ref={board} data-ground className="absolute inset-0">
                {doc.scenery.map((s) => sceneryPart(s))}
                {doc.targets.map((t, i) => targetPart(t, i + 1))}
                {doc.items.map((i) => i.home && itemPart(i, { ...placed({ ...i.home, ...i.size }), zIndex: 1 }))}
                {handling?.kind === "marquee" && (
                  <div
                    className="pointer-events-none border border-feather bg-feather/10"
                    style={{ ...placed(handling.frame), zIndex: 30 }}
                  />
                )}
              </div>
            </Ground>
            <div
              ref={tray}
              data-ground
              aria-label="Tray"
              role="group"
              className="flex flex-wrap content-start gap-2 rounded-(--radius) border border-line bg-shade p-2"
              style={{ width: `calc(${doc.board.width}px * var(--s) + 2px)`, minHeight: 48 }}
            >
              {loose.map((i) => itemPart(i, {}))}
              {loose.length === 0 && <span className="text-slate">Every item has a place on the board.</span>}
            </div>
          </div>
        )}
      </div>
      <BoardTools />
      <div className="flex items-center gap-3">
        <Button onClick={onRehearse}>
          <Play size={15} aria-hidden /> Rehearse
        </Button>
        <span className="text-slate">
          {(lens !== "content" && remark) || hint(doc.items.length, partsOf(selection).length)}
        </span>
      </div>
    </>
  );
}

function hint(items: number, selected: number) {
  if (items === 0) return "There is no item yet.";
  if (selected === 0) return "Drag parts to move them; double-click to rename.";
  return `${selected} selected`;
}

const only = (part: PartID) => selectionOf([part]);

/** While it is resized a part on the board takes its new frame; one in the tray grows where it lies. */
const placedOr = (style: CSSProperties, frame: Rect) => (style.position === "absolute" ? placed(frame) : {});

type Corner = "nw" | "ne" | "sw" | "se";
type HandleProps = { handlers: (corner: Corner) => object };

function Handles({ handlers }: HandleProps) {
  const corners: [Corner, string][] = [
    ["nw", "-top-1.5 -left-1.5 cursor-nwse-resize"],
    ["ne", "-top-1.5 -right-1.5 cursor-nesw-resize"],
    ["sw", "-bottom-1.5 -left-1.5 cursor-nesw-resize"],
    ["se", "-right-1.5 -bottom-1.5 cursor-nwse-resize"],
  ];
  return corners.map(([corner, place]) => (
    <span
      key={corner}
      data-handle={corner}
      className={`absolute z-20 size-3 touch-none rounded-[2px] border border-feather bg-paper ${place}`}
      {...handlers(corner)}
    />
  ));
}
