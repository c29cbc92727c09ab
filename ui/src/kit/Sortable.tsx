import { createContext, useContext, type ReactNode } from "react";
import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type Announcements,
} from "@dnd-kit/core";
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { GripVertical } from "lucide-react";
import { t } from "@lingui/core/macro";
import { tip } from "./tip";

type Props = {
  /** What is in the list, in its order. */
  ids: string[];
  /** What one of them is called. */
  name: (id: string) => string;
  /** One was moved from a place to another, both from 0. */
  onMove: (from: number, to: number) => void;
  children: ReactNode;
};

const Names = createContext<(id: string) => string>((id) => id);

/** A list whose order is changed by mouse, finger or key: each has a grip that takes it up. */
export function Sortable({ ids, name, onMove, children }: Props) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const at = (id: string | number) => t`${ids.indexOf(String(id)) + 1} of ${ids.length}`;
  const announcements: Announcements = {
    onDragStart: ({ active }) =>
      t`${name(String(active.id))}, ${at(active.id)}. Arrow keys move it, Space puts it down, Escape leaves it.`,
    onDragOver: ({ active, over }) => (over ? `${name(String(active.id))}: ${at(over.id)}` : undefined),
    onDragEnd: ({ active, over }) => (over ? t`${name(String(active.id))} is now ${at(over.id)}.` : undefined),
    onDragCancel: ({ active }) => t`${name(String(active.id))} stays ${at(active.id)}.`,
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      accessibility={{ announcements, screenReaderInstructions: { draggable: t`Space takes it up.` } }}
      onDragEnd={({ active, over }) => {
        if (over && over.id !== active.id) onMove(ids.indexOf(String(active.id)), ids.indexOf(String(over.id)));
      }}
    >
      <SortableContext items={ids} strategy={verticalListSortingStrategy}>
        <Names value={name}>{children}</Names>
      </SortableContext>
    </DndContext>
  );
}

/** One of a sortable list: how its element is placed, and the grip that goes into it. */
export function useSorted(id: string) {
  const name = useContext(Names);
  const s = useSortable({ id });
  const grip = (
    <button
      type="button"
      ref={s.setActivatorNodeRef}
      {...s.attributes}
      {...s.listeners}
      aria-label={t`Move ${name(id)}`}
      {...tip(t`Drag, or press Space and use the arrow keys`)}
      className="grid w-5 shrink-0 cursor-grab touch-none place-items-center self-stretch text-edge hover:text-ink"
    >
      <GripVertical size={15} aria-hidden />
    </button>
  );
  return {
    ref: s.setNodeRef,
    style: {
      transform: CSS.Translate.toString(s.transform),
      transition: s.transition,
      zIndex: s.isDragging ? 20 : undefined,
    },
    /** It is being moved. */
    moving: s.isDragging,
    grip,
  };
}
