'use client';
import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { ArrowDown, ArrowUp, GripVertical } from 'lucide-react';
import { type ReactNode, useId } from 'react';

// Made once: new ones at every drawing would have every row that can be dragged drawn anew.
const byPointer = { activationConstraint: { distance: 4 } };
const byKeyboard = { coordinateGetter: sortableKeyboardCoordinates };

type Item = { id: string; name: string };

type Props = {
  label: string;
  items: Item[];
  onOrder: (ids: string[]) => void;
  disabled?: boolean;
  children: (item: Item, place: number) => ReactNode;
};

/** A list whose rows are put in order by dragging a handle, by two buttons, or with the keyboard on the handle. */
export function Reorder({ label, items, onOrder, disabled, children }: Props) {
  const id = useId();
  const sensors = useSensors(useSensor(PointerSensor, byPointer), useSensor(KeyboardSensor, byKeyboard));
  const ids = items.map((item) => item.id);
  const move = (from: number, to: number) => onOrder(arrayMove(ids, from, to));
  const drop = ({ active, over }: DragEndEvent) => {
    if (over && active.id !== over.id) move(ids.indexOf(String(active.id)), ids.indexOf(String(over.id)));
  };
  const placeOf = (one: { id: string | number } | null) => (one ? ids.indexOf(String(one.id)) + 1 : 0);
  const nameOf = (one: { id: string | number }) => items[placeOf(one) - 1]?.name || `item ${placeOf(one)}`;
  const announcements = {
    onDragStart: ({ active }: { active: { id: string | number } }) =>
      `${nameOf(active)} lifted from place ${placeOf(active)}.`,
    onDragOver: ({ active, over }: { active: { id: string | number }; over: { id: string | number } | null }) =>
      over ? `${nameOf(active)} over place ${placeOf(over)} of ${ids.length}.` : '',
    onDragEnd: ({ active, over }: { active: { id: string | number }; over: { id: string | number } | null }) =>
      over ? `${nameOf(active)} put in place ${placeOf(over)}.` : `${nameOf(active)} put back.`,
    onDragCancel: ({ active }: { active: { id: string | number } }) => `${nameOf(active)} put back.`,
  };
  return (
    <DndContext
      id={id}
      accessibility={{
        announcements,
        screenReaderInstructions: {
          draggable: 'Press Space to lift it, the arrow keys to move it, Space to put it down.',
        },
      }}
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={drop}
    >
      <SortableContext items={ids} strategy={verticalListSortingStrategy} disabled={disabled}>
        <ol aria-label={label} className="border-y border-line">
          {items.map((item, i) => (
            <Row
              key={item.id}
              id={item.id}
              name={item.name || `item ${i + 1}`}
              place={i}
              count={items.length}
              disabled={disabled}
              onMove={(to) => move(i, to)}
            >
              {children(item, i)}
            </Row>
          ))}
        </ol>
      </SortableContext>
    </DndContext>
  );
}

type RowProps = {
  id: string;
  name: string;
  place: number;
  count: number;
  disabled?: boolean;
  onMove: (to: number) => void;
  children: ReactNode;
};

function Row({ id, name, place, count, disabled, onMove, children }: RowProps) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } = useSortable({
    id,
  });
  const tool = 'flex size-9 shrink-0 items-center justify-center text-ink-2 hover:bg-prussian-wash disabled:opacity-35';
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`flex items-start gap-1 border-b border-line bg-sheet last:border-b-0 ${isDragging ? 'relative z-10 shadow-md' : ''}`}
    >
      <button
        {...attributes}
        {...listeners}
        ref={setActivatorNodeRef}
        type="button"
        disabled={disabled}
        aria-label={`Drag ${name}`}
        title="Drag; or Space, then the arrow keys"
        className={`${tool} touch-none cursor-grab`}
      >
        <GripVertical size={16} aria-hidden="true" />
      </button>
      {children}
      <button
        type="button"
        disabled={disabled || place === 0}
        onClick={() => onMove(place - 1)}
        aria-label={`Move ${name} up`}
        title="Up"
        className={tool}
      >
        <ArrowUp size={16} aria-hidden="true" />
      </button>
      <button
        type="button"
        disabled={disabled || place === count - 1}
        onClick={() => onMove(place + 1)}
        aria-label={`Move ${name} down`}
        title="Down"
        className={tool}
      >
        <ArrowDown size={16} aria-hidden="true" />
      </button>
    </li>
  );
}
