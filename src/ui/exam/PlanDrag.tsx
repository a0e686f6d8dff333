'use client';
import {
  type Announcements,
  type CollisionDetection,
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  pointerWithin,
  useDroppable,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { GripVertical } from 'lucide-react';
import { type ReactNode, useId, useMemo } from 'react';
import { moveLine, movePart } from '@/core/exam/arrangeDesign';
import type { ExamDesign } from '@/core/exam/design';

// Made once: new ones at every drawing would have every row that can be dragged drawn anew.
const byPointer = { activationConstraint: { distance: 4 } };
const byKeyboard = { coordinateGetter: sortableKeyboardCoordinates };

const partKey = (id: string) => `part:${id}`;
const lineKey = (id: string) => `line:${id}`;
const endKey = (id: string) => `end:${id}`;
const read = (key: string | number) => {
  const [kind = '', id = ''] = String(key).split(':');
  return { kind, id };
};

/** Parts land on parts; lines on lines and in parts that have none. */
const alike: CollisionDetection = (args) => {
  const moving = read(args.active.id).kind;
  const droppableContainers = args.droppableContainers.filter(
    ({ id }) => (read(id).kind === 'part') === (moving === 'part'),
  );
  const within = pointerWithin({ ...args, droppableContainers });
  return within.length ? within : closestCenter({ ...args, droppableContainers });
};

/** The same list as long as the same stands in it: what hangs on it need not be drawn anew. */
function useSameKeys(keys: readonly string[]): string[] {
  const joined = keys.join(' ');
  return useMemo(() => joined.split(' ').filter(Boolean), [joined]);
}

type Props = { design: ExamDesign; onChange: (design: ExamDesign) => void; children: ReactNode };

/** Lets the parts of a plan and their lines be put in order by dragging a handle, or with the keyboard on the handle. */
export function PlanDrag({ design, onChange, children }: Props) {
  const id = useId();
  const sensors = useSensors(useSensor(PointerSensor, byPointer), useSensor(KeyboardSensor, byKeyboard));
  const drop = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return;
    const moved = read(active.id);
    const target = read(over.id);
    if (moved.kind === 'part') {
      onChange(
        movePart(
          design,
          moved.id,
          design.parts.findIndex((part) => part.id === target.id),
        ),
      );
      return;
    }
    const part = design.parts.find((one) =>
      target.kind === 'end' ? one.id === target.id : one.lines.some((line) => line.id === target.id),
    );
    if (!part) return;
    // Within one part the line takes the place of the other; from another part it comes before or behind it.
    const own = part.lines.some((line) => line.id === moved.id);
    const { translated } = active.rect.current;
    const below = translated !== null && translated.top + translated.height / 2 > over.rect.top + over.rect.height / 2;
    const place = part.lines.findIndex((line) => line.id === target.id);
    const at = target.kind === 'end' ? 0 : !own && below ? place + 1 : place;
    onChange(moveLine(design, moved.id, { partId: part.id, at }));
  };
  const named = (key: string | number) => {
    const { kind, id: of } = read(key);
    if (kind !== 'line') return design.parts.find((part) => part.id === of)?.title ?? 'the part';
    for (const [p, part] of design.parts.entries()) {
      const at = part.lines.findIndex((line) => line.id === of);
      if (at >= 0) return `line ${p + 1}.${at + 1}`;
    }
    return 'the line';
  };
  const announcements: Announcements = {
    onDragStart: ({ active }) => `${named(active.id)} lifted.`,
    onDragOver: ({ active, over }) => (over ? `${named(active.id)} over ${named(over.id)}.` : ''),
    onDragEnd: ({ active, over }) =>
      over ? `${named(active.id)} put at ${named(over.id)}.` : `${named(active.id)} put back.`,
    onDragCancel: ({ active }) => `${named(active.id)} put back.`,
  };
  const partKeys = useSameKeys(design.parts.map((part) => partKey(part.id)));
  return (
    <DndContext
      id={id}
      sensors={sensors}
      collisionDetection={alike}
      onDragEnd={drop}
      accessibility={{
        announcements,
        screenReaderInstructions: {
          draggable: 'Press Space to lift it, the arrow keys to move it, Space to put it down.',
        },
      }}
    >
      <SortableContext items={partKeys} strategy={verticalListSortingStrategy}>
        {children}
      </SortableContext>
    </DndContext>
  );
}

type Dragged = {
  ref: (element: HTMLElement | null) => void;
  style: { transform: string | undefined; transition: string | undefined };
  isDragging: boolean;
  /** Whether something else would land here. */
  isOver: boolean;
  handle: ReactNode;
};

function useDragged(key: string, name: string): Dragged {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging, isOver } =
    useSortable({ id: key });
  return {
    ref: setNodeRef,
    style: { transform: CSS.Translate.toString(transform), transition },
    isDragging,
    isOver: isOver && !isDragging,
    handle: (
      <button
        {...attributes}
        {...listeners}
        ref={setActivatorNodeRef}
        type="button"
        aria-label={`Drag ${name}`}
        title="Drag; or Space, then the arrow keys"
        className="cursor-grab touch-none p-1.5 text-ink-2 hover:bg-prussian-wash hover:text-prussian"
      >
        <GripVertical size={15} aria-hidden="true" />
      </button>
    ),
  };
}

export const usePartDrag = (partId: string, name: string) => useDragged(partKey(partId), name);
export const useLineDrag = (lineId: string, name: string) => useDragged(lineKey(lineId), name);

/** The lines of a part as a list into which lines can be dropped, also while it has none. */
export function LineList({ partId, lineIds, children }: { partId: string; lineIds: string[]; children: ReactNode }) {
  const { setNodeRef, isOver } = useDroppable({ id: endKey(partId), disabled: lineIds.length > 0 });
  const keys = useSameKeys(lineIds.map(lineKey));
  return (
    <SortableContext items={keys} strategy={verticalListSortingStrategy}>
      <ol ref={setNodeRef} className={`${lineIds.length === 0 ? 'min-h-3' : ''} ${isOver ? 'bg-prussian-wash' : ''}`}>
        {children}
      </ol>
    </SortableContext>
  );
}
