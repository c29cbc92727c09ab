import type { KeyboardEvent, ReactNode } from "react";
import {
  DndContext,
  PointerSensor,
  pointerWithin,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
  type Announcements,
} from "@dnd-kit/core";
import { CSS } from "@dnd-kit/utilities";
import { t } from "@lingui/core/macro";
import { tip } from "../../kit/tip";

/** Where an item is let go: onto a line, with those that are there, or before one. */
type Spot = { onto: boolean; line: number };

type LanesProps = { name: (item: string) => string; onDrop: (item: string, to: Spot) => void; children: ReactNode };

/** Lines of an order, between and onto which items are dragged, by mouse or finger; their keys are their own. */
export function Lanes({ name, onDrop, children }: LanesProps) {
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const place = (to: Spot) => (to.onto ? t`with those in place ${to.line + 1}` : t`before place ${to.line + 1}`);
  const spot = (over: { data: { current?: unknown } } | null) => over?.data.current as Spot | undefined;
  const said = (item: string | number, over: Parameters<typeof spot>[0]) => {
    const to = spot(over);
    return to && `${name(String(item))}: ${place(to)}`;
  };
  const announcements: Announcements = {
    onDragStart: ({ active }) => t`${name(String(active.id))} is taken up.`,
    onDragOver: ({ active, over }) => said(active.id, over),
    onDragEnd: ({ active, over }) => said(active.id, over),
    onDragCancel: ({ active }) => t`${name(String(active.id))} stays where it was.`,
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={pointerWithin}
      accessibility={{
        announcements,
        screenReaderInstructions: { draggable: t`Alt with up or down moves it, Alt with left or right shares a step.` },
      }}
      onDragEnd={({ active, over }) => {
        const to = spot(over);
        if (to) onDrop(String(active.id), to);
      }}
    >
      {children}
    </DndContext>
  );
}

/** The room before a line; what is let go here gets a line of its own. */
export function Gap({ line }: { line: number }) {
  const { setNodeRef, isOver, active } = useDroppable({
    id: `gap ${line}`,
    data: { onto: false, line } satisfies Spot,
  });
  return (
    <li
      ref={setNodeRef}
      aria-hidden
      data-gap-before={line}
      className={`h-2 rounded-sm ${isOver ? "bg-feather" : active ? "bg-feather-soft" : ""}`}
    />
  );
}

/** A line of the order, with its number. */
export function Line({ line, children }: { line: number; children: ReactNode }) {
  const { setNodeRef, isOver } = useDroppable({ id: `line ${line}`, data: { onto: true, line } satisfies Spot });
  return (
    <li
      ref={setNodeRef}
      className={`flex flex-wrap items-center gap-2 border-b border-line/60 py-0.5 ${isOver ? "bg-feather-soft" : ""}`}
    >
      <span className="w-6 text-right text-slate tabular-nums">{line + 1}</span>
      {children}
    </li>
  );
}

type ChipProps = {
  id: string;
  label: string;
  /** It was moved by key and keeps the focus. */
  focused: boolean;
  onBlur: () => void;
  onKeyDown: (e: KeyboardEvent) => void;
  children: ReactNode;
};

/** An item in the order. */
export function Chip({ id, label, focused, onBlur, onKeyDown, children }: ChipProps) {
  const { setNodeRef, listeners, transform, isDragging } = useDraggable({ id });
  return (
    <button
      type="button"
      ref={(e) => {
        setNodeRef(e);
        if (e && focused && document.activeElement !== e) e.focus();
      }}
      {...listeners}
      onBlur={onBlur}
      onKeyDown={onKeyDown}
      aria-label={label}
      {...tip(t`Drag, or Alt+↑/↓ to reorder, Alt+←/→ to share a step`)}
      style={{ transform: CSS.Translate.toString(transform) }}
      className={`cursor-grab touch-none rounded-(--radius) border border-edge bg-card px-2.5 py-0.5 ${isDragging ? "relative z-20 shadow-(--shadow-raised)" : ""}`}
    >
      {children}
    </button>
  );
}
