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
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { GripVertical } from 'lucide-react';
import { type ReactNode, useId } from 'react';
import { movedTo, type OrderProps, OrderRow, orderTool } from './OrderRow';

// Made once: new ones at every drawing would have every row that can be dragged drawn anew.
const byPointer = { activationConstraint: { distance: 4 } };
const byKeyboard = { coordinateGetter: sortableKeyboardCoordinates };

/** A list whose rows are put in order by dragging a handle, by two buttons, or with the keyboard on the handle. */
export function DraggedOrder({ label, items, onOrder, disabled, children }: OrderProps) {
  const id = useId();
  const sensors = useSensors(useSensor(PointerSensor, byPointer), useSensor(KeyboardSensor, byKeyboard));
  const ids = items.map((item) => item.id);
  const move = (from: number, to: number) => onOrder(movedTo(ids, from, to));
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
  disabled: boolean | undefined;
  onMove: (to: number) => void;
  children: ReactNode;
};

function Row({ id, children, ...row }: RowProps) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } = useSortable({
    id,
  });
  const handle = (
    <button
      {...attributes}
      {...listeners}
      ref={setActivatorNodeRef}
      type="button"
      disabled={row.disabled}
      aria-label={`Drag ${row.name}`}
      title="Drag; or Space, then the arrow keys"
      className={`${orderTool} touch-none cursor-grab`}
    >
      <GripVertical size={16} aria-hidden="true" />
    </button>
  );
  const style = { transform: CSS.Translate.toString(transform), transition };
  return (
    <OrderRow {...row} ref={setNodeRef} style={style} lifted={isDragging} handle={handle}>
      {children}
    </OrderRow>
  );
}
